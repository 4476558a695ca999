-- The owner's rules of filing, addresses and lists.
ALTER TABLE blog ADD COLUMN pattern TEXT NOT NULL DEFAULT '/{category}/{slug}/';
ALTER TABLE blog ADD COLUMN slug_script TEXT NOT NULL DEFAULT 'latin' CHECK (slug_script IN ('latin', 'own'));
ALTER TABLE blog ADD COLUMN catch_all INTEGER REFERENCES category (id);
ALTER TABLE blog ADD COLUMN least_categories INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blog ADD COLUMN most_categories INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blog ADD COLUMN filing_help TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN label TEXT NOT NULL DEFAULT 'Posts';
ALTER TABLE blog ADD COLUMN read_on TEXT NOT NULL DEFAULT 'Read on';
ALTER TABLE blog ADD COLUMN full_in_lists INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blog ADD COLUMN categories_in_lists INTEGER NOT NULL DEFAULT 1;

-- description is a document as JSON, or ''; shows_below says whether the page shows the posts of those below it.
ALTER TABLE category ADD COLUMN description TEXT NOT NULL DEFAULT '';
ALTER TABLE category ADD COLUMN picture INTEGER REFERENCES media (id);
ALTER TABLE category ADD COLUMN shows_below INTEGER NOT NULL DEFAULT 1;
ALTER TABLE category ADD COLUMN in_menu INTEGER NOT NULL DEFAULT 0;
CREATE INDEX category_parent ON category (parent_id);

-- Every address that was ever public, and what it stands for now: a post, a category, a tag, or another
-- address (`target`). It leads to where that is; nothing else ever gets it.
CREATE TABLE home (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('post', 'category', 'tag', 'away')),
    owner INTEGER NOT NULL,
    target TEXT NOT NULL DEFAULT '',
    by_hand INTEGER NOT NULL DEFAULT 0,
    since INTEGER NOT NULL,
    PRIMARY KEY (blog_id, path)
) STRICT, WITHOUT ROWID;
INSERT INTO home (blog_id, path, kind, owner, since) SELECT blog_id, path, 'post', post_id, since FROM address;
DROP TABLE address;
ALTER TABLE home RENAME TO address;
CREATE INDEX address_owner ON address (kind, owner);
CREATE INDEX address_by_hand ON address (blog_id) WHERE by_hand = 1;
INSERT OR IGNORE INTO address (blog_id, path, kind, owner, since) SELECT blog_id, '/' || slug || '/', 'category', id, 9007199254740992 FROM category;
INSERT OR IGNORE INTO address (blog_id, path, kind, owner, since) SELECT blog_id, '/tag/' || slug || '/', 'tag', id, 9007199254740992 FROM tag;
UPDATE address SET since = 0 WHERE kind <> 'post' AND EXISTS (SELECT 1 FROM listing WHERE list = address.kind || ':' || address.owner);

-- Under what a placement stands, the other way round.
CREATE TABLE placement_category (
    category_id INTEGER NOT NULL,
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    PRIMARY KEY (category_id, placement_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE placement_tag (
    tag_id INTEGER NOT NULL,
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    PRIMARY KEY (tag_id, placement_id)
) STRICT, WITHOUT ROWID;
INSERT OR IGNORE INTO placement_category SELECT value, placement.id FROM placement, json_each(categories);
INSERT OR IGNORE INTO placement_tag SELECT value, placement.id FROM placement, json_each(tags);

-- How often readers asked for an address, and when last. Those that lead nowhere stand here too.
CREATE TABLE asked (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    hits INTEGER NOT NULL,
    last_at INTEGER NOT NULL,
    is_known INTEGER NOT NULL,
    PRIMARY KEY (blog_id, path)
) STRICT, WITHOUT ROWID;
CREATE INDEX asked_unknown ON asked (blog_id, hits DESC) WHERE is_known = 0;

CREATE INDEX edition_page_old_key ON edition_page (blog_id, key);

-- Lists whose own facts changed (a category's name, its description): the next edition looks at all their pages.
CREATE TABLE unsettled_list (
    sequence INTEGER PRIMARY KEY AUTOINCREMENT,
    blog_id INTEGER NOT NULL,
    list TEXT NOT NULL
) STRICT;

-- Changes of the filing, each with what stood before, so that it can be undone.
CREATE TABLE refiling (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id),
    words TEXT NOT NULL,
    before TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    undone_at INTEGER
) STRICT;
CREATE INDEX refiling_blog ON refiling (blog_id, id);

-- How a post is shown: the block that leads it (as JSON), its heading, its place on the front page and in the
-- menu, its title for search engines, and where it is about. `catch_all` marks what fell there by itself.
ALTER TABLE post ADD COLUMN lead TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN heading TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN front TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN in_menu INTEGER NOT NULL DEFAULT 0;
ALTER TABLE post ADD COLUMN search_title TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN place TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN lead TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN heading TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN front TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN in_menu INTEGER NOT NULL DEFAULT 0;
ALTER TABLE placement ADD COLUMN search_title TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN place TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN slug TEXT NOT NULL DEFAULT '';
UPDATE placement SET slug = replace(rtrim(path, '/'), rtrim(rtrim(path, '/'), replace(path, '/', '')), '');
CREATE INDEX placement_menu ON placement (blog_id) WHERE in_menu = 1;
INSERT INTO listing (blog_id, list, goes_out, post_id, placement_id, shows_from, shows_until)
    SELECT blog_id, 'front', goes_out, post_id, placement_id, shows_from, shows_until FROM listing WHERE list = 'all';

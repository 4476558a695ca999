-- Instants are whole seconds since 1970 UTC. Wall times are text such as 2026-11-26T09:00.

CREATE TABLE blog (
    id INTEGER PRIMARY KEY,
    slug TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL,
    tagline TEXT NOT NULL DEFAULT '',
    zone TEXT NOT NULL,
    language TEXT NOT NULL DEFAULT 'en',
    home TEXT NOT NULL,
    host TEXT UNIQUE,
    design TEXT NOT NULL DEFAULT 'bench',
    posts_on_page INTEGER NOT NULL DEFAULT 10 CHECK (posts_on_page BETWEEN 1 AND 100),
    made_at INTEGER NOT NULL
) STRICT;

CREATE TABLE person (
    id INTEGER PRIMARY KEY,
    email TEXT NOT NULL UNIQUE COLLATE NOCASE,
    name TEXT NOT NULL,
    profile TEXT NOT NULL DEFAULT '',
    password_hash TEXT,
    made_at INTEGER NOT NULL
) STRICT;

CREATE TABLE membership (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    role TEXT NOT NULL CHECK (role IN ('owner', 'editor', 'writer')),
    PRIMARY KEY (blog_id, person_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE session (
    token_hash TEXT PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    begun_at INTEGER NOT NULL,
    ends_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE signin_failure (
    id INTEGER PRIMARY KEY,
    who TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT;
CREATE INDEX signin_failure_who ON signin_failure (who, at);

CREATE TABLE category (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    parent_id INTEGER REFERENCES category (id),
    name TEXT NOT NULL,
    slug TEXT NOT NULL,
    position INTEGER NOT NULL,
    UNIQUE (blog_id, slug)
) STRICT;
CREATE UNIQUE INDEX category_name ON category (blog_id, IFNULL(parent_id, 0), name COLLATE NOCASE);

CREATE TABLE tag (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    name TEXT NOT NULL COLLATE NOCASE,
    slug TEXT NOT NULL,
    UNIQUE (blog_id, name),
    UNIQUE (blog_id, slug)
) STRICT;

-- The working side of a post: its docket here, its text in the newest revision.
CREATE TABLE post (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    author_id INTEGER NOT NULL REFERENCES person (id),
    slug TEXT NOT NULL DEFAULT '',
    visibility TEXT NOT NULL DEFAULT 'everyone',
    excerpt TEXT NOT NULL DEFAULT '',
    description TEXT NOT NULL DEFAULT '',
    goes_out_wall TEXT,
    comes_down_wall TEXT,
    title TEXT NOT NULL DEFAULT '',
    words INTEGER NOT NULL DEFAULT 0,
    revision INTEGER NOT NULL DEFAULT 0,
    made_at INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    aside_at INTEGER
) STRICT;
CREATE INDEX post_changed ON post (blog_id, changed_at DESC, id DESC);

CREATE TABLE post_category (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    category_id INTEGER NOT NULL REFERENCES category (id),
    PRIMARY KEY (post_id, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX post_category_category ON post_category (category_id, post_id);

CREATE TABLE post_tag (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    tag_id INTEGER NOT NULL REFERENCES tag (id),
    PRIMARY KEY (post_id, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX post_tag_tag ON post_tag (tag_id, post_id);

CREATE TABLE revision (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    title TEXT NOT NULL,
    subtitle TEXT NOT NULL,
    body TEXT NOT NULL,
    save_key TEXT NOT NULL DEFAULT '',
    begun_at INTEGER NOT NULL,
    saved_at INTEGER NOT NULL,
    PRIMARY KEY (post_id, number)
) STRICT;

-- What readers get of a post, and when: one revision with the docket as it stood, from shows_from
-- up to shows_until (9007199254740992 is never). Rows are added, and ended; never rewritten.
CREATE TABLE placement (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    zone TEXT NOT NULL,
    goes_out_wall TEXT NOT NULL,
    comes_down_wall TEXT,
    goes_out INTEGER NOT NULL,
    comes_down INTEGER NOT NULL,
    shows_from INTEGER NOT NULL,
    shows_until INTEGER NOT NULL,
    path TEXT NOT NULL,
    audience TEXT NOT NULL,
    author_id INTEGER NOT NULL REFERENCES person (id),
    excerpt TEXT NOT NULL,
    description TEXT NOT NULL,
    categories TEXT NOT NULL,
    tags TEXT NOT NULL,
    media TEXT NOT NULL,
    placed_by INTEGER NOT NULL REFERENCES person (id),
    placed_at INTEGER NOT NULL,
    FOREIGN KEY (post_id, revision) REFERENCES revision (post_id, number)
) STRICT;
CREATE INDEX placement_post ON placement (post_id, shows_from);
CREATE INDEX placement_from ON placement (blog_id, shows_from);
CREATE INDEX placement_until ON placement (blog_id, shows_until);
CREATE INDEX placement_out ON placement (blog_id, goes_out, post_id);

-- On which lists a placement stands ('all', 'category:3', 'tag:5', 'month:2026-11'); only what
-- everyone may read stands here. Derived from placement, for questions that must not cost more
-- in a large blog; `mobbet check` compares the two.
CREATE TABLE listing (
    blog_id INTEGER NOT NULL,
    list TEXT NOT NULL,
    goes_out INTEGER NOT NULL,
    post_id INTEGER NOT NULL,
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    shows_from INTEGER NOT NULL,
    shows_until INTEGER NOT NULL,
    PRIMARY KEY (blog_id, list, goes_out, post_id, placement_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX listing_placement ON listing (placement_id);

-- Every address a post was ever placed at. An old one leads to the new one, and no other post gets it.
CREATE TABLE address (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    since INTEGER NOT NULL,
    PRIMARY KEY (blog_id, path)
) STRICT, WITHOUT ROWID;
CREATE INDEX address_post ON address (post_id);

CREATE TABLE media (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    hash TEXT NOT NULL,
    name TEXT NOT NULL,
    type TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    bytes INTEGER NOT NULL,
    alt TEXT NOT NULL DEFAULT '',
    added_by INTEGER NOT NULL REFERENCES person (id),
    added_at INTEGER NOT NULL,
    UNIQUE (blog_id, hash)
) STRICT;

CREATE TABLE derivative (
    media_id INTEGER NOT NULL REFERENCES media (id) ON DELETE CASCADE,
    type TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    hash TEXT NOT NULL,
    bytes INTEGER NOT NULL,
    PRIMARY KEY (media_id, type, width)
) STRICT, WITHOUT ROWID;

-- Which placements use a picture, so that its files are offered to exactly their readers.
CREATE TABLE placement_media (
    media_id INTEGER NOT NULL REFERENCES media (id),
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    PRIMARY KEY (media_id, placement_id)
) STRICT, WITHOUT ROWID;

-- Posts whose facts changed since the last edition; an edition takes the rows it has read away.
CREATE TABLE unsettled (
    sequence INTEGER PRIMARY KEY AUTOINCREMENT,
    blog_id INTEGER NOT NULL,
    post_id INTEGER NOT NULL
) STRICT;
CREATE INDEX unsettled_blog ON unsettled (blog_id, sequence);

CREATE TABLE edition (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    instant INTEGER NOT NULL,
    made_at INTEGER NOT NULL,
    house TEXT NOT NULL,
    written INTEGER NOT NULL,
    removed INTEGER NOT NULL,
    pages INTEGER NOT NULL,
    PRIMARY KEY (blog_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE edition_page (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL,
    key TEXT NOT NULL,
    path TEXT NOT NULL,
    type TEXT NOT NULL,
    shelf TEXT NOT NULL CHECK (shelf IN ('pages', 'media')),
    hash TEXT NOT NULL,
    fingerprint TEXT NOT NULL,
    audience TEXT NOT NULL,
    leads_to TEXT,
    from_edition INTEGER NOT NULL,
    to_edition INTEGER,
    FOREIGN KEY (blog_id, from_edition) REFERENCES edition (blog_id, number)
) STRICT;
CREATE UNIQUE INDEX edition_page_path ON edition_page (blog_id, path) WHERE to_edition IS NULL;
CREATE UNIQUE INDEX edition_page_key ON edition_page (blog_id, key) WHERE to_edition IS NULL;
CREATE INDEX edition_page_old_path ON edition_page (blog_id, path, from_edition);

-- What the current edition shows of each post; the difference to the facts is what must be redone.
CREATE TABLE shown (
    blog_id INTEGER NOT NULL,
    post_id INTEGER NOT NULL,
    state TEXT NOT NULL,
    PRIMARY KEY (blog_id, post_id)
) STRICT, WITHOUT ROWID;

-- Search over titles and texts at the desk. `indexed` says which revision the index has read.
CREATE VIRTUAL TABLE post_text USING fts5 (title, text, tokenize = 'unicode61 remove_diacritics 2');
CREATE TABLE indexed (
    post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL
) STRICT;

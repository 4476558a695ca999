-- A revision may have a name, which keeps it for good.
ALTER TABLE revision ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE revision ADD COLUMN words INTEGER NOT NULL DEFAULT 0;

-- A named series of posts; each part has its place in it.
CREATE TABLE series (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    name TEXT NOT NULL COLLATE NOCASE,
    UNIQUE (blog_id, name)
) STRICT;
ALTER TABLE post ADD COLUMN series_id INTEGER REFERENCES series (id);
ALTER TABLE post ADD COLUMN series_position INTEGER NOT NULL DEFAULT 0;
ALTER TABLE post ADD COLUMN is_template INTEGER NOT NULL DEFAULT 0;
CREATE INDEX post_series ON post (series_id, series_position) WHERE series_id IS NOT NULL;
CREATE INDEX post_template ON post (blog_id) WHERE is_template = 1;

-- links are the posts that a text leads to, kept the standing copies it shows, as JSON lists of numbers.
ALTER TABLE placement ADD COLUMN series_id INTEGER REFERENCES series (id);
ALTER TABLE placement ADD COLUMN series_position INTEGER NOT NULL DEFAULT 0;
ALTER TABLE placement ADD COLUMN links TEXT NOT NULL DEFAULT '[]';
ALTER TABLE placement ADD COLUMN kept TEXT NOT NULL DEFAULT '[]';
CREATE INDEX placement_series ON placement (series_id) WHERE series_id IS NOT NULL;

-- The same, the other way round: what must be written anew when a post moves or a standing copy changes.
CREATE TABLE placement_link (
    post_id INTEGER NOT NULL,
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    PRIMARY KEY (post_id, placement_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE placement_kept (
    kept_id INTEGER NOT NULL,
    placement_id INTEGER NOT NULL REFERENCES placement (id) ON DELETE CASCADE,
    PRIMARY KEY (kept_id, placement_id)
) STRICT, WITHOUT ROWID;

-- Blocks kept under a name: put into a post as a copy, or shown there as standing copy.
CREATE TABLE kept (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    name TEXT NOT NULL COLLATE NOCASE,
    body TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    changed_by INTEGER NOT NULL REFERENCES person (id),
    changed_at INTEGER NOT NULL,
    removed_at INTEGER
) STRICT;
CREATE UNIQUE INDEX kept_name ON kept (blog_id, name) WHERE removed_at IS NULL;

-- Facts that fill-ins stand for, as JSON [[name, value], ...], and rules for links, [[domain, rule], ...].
ALTER TABLE blog ADD COLUMN facts TEXT NOT NULL DEFAULT '[]';
ALTER TABLE blog ADD COLUMN link_rules TEXT NOT NULL DEFAULT '[]';

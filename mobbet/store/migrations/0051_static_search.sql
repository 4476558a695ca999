-- How often places outside get an index by which readers search there ('' for none, 'always', 'day' or 'week'), and the one that was made last:
-- what it came to, as JSON, and its files.
ALTER TABLE blog ADD COLUMN static_search TEXT NOT NULL DEFAULT '';
CREATE TABLE static_index (
    blog_id INTEGER PRIMARY KEY REFERENCES blog (id) ON DELETE CASCADE,
    made_at INTEGER NOT NULL,
    edition INTEGER NOT NULL,
    posts TEXT NOT NULL,
    bytes INTEGER NOT NULL,
    milliseconds INTEGER NOT NULL
) STRICT;
CREATE TABLE static_index_file (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    hash TEXT NOT NULL,
    PRIMARY KEY (blog_id, name)
) STRICT, WITHOUT ROWID;

-- Posts of an older site that were imported: each run, and the key by which a post is known when it is read again.
CREATE TABLE import_run (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    source TEXT NOT NULL,
    begun_at INTEGER NOT NULL,
    undone_at INTEGER
) STRICT;
CREATE TABLE imported (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    run_id INTEGER NOT NULL REFERENCES import_run (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    PRIMARY KEY (blog_id, key)
) STRICT, WITHOUT ROWID;
CREATE INDEX imported_run ON imported (run_id);
CREATE INDEX imported_post ON imported (post_id);

-- Posts that are kept in step with files of a folder: what both sides were when they were the same last.
CREATE TABLE synced (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    folder TEXT NOT NULL,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    file_digest TEXT NOT NULL,
    post_digest TEXT NOT NULL,
    PRIMARY KEY (blog_id, folder, post_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX synced_post ON synced (post_id);

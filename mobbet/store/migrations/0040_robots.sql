-- The guard against robots: what it does on a blog (core/robots.py), what it thinks of a comment and why, and what it learned of words.
ALTER TABLE blog ADD COLUMN guard TEXT NOT NULL DEFAULT 'wait';
ALTER TABLE comment ADD COLUMN suspicion REAL NOT NULL DEFAULT 0;
ALTER TABLE comment ADD COLUMN why TEXT NOT NULL DEFAULT '';
ALTER TABLE comment ADD COLUMN fingerprint TEXT NOT NULL DEFAULT '';
ALTER TABLE comment ADD COLUMN learned TEXT NOT NULL DEFAULT '';
CREATE INDEX comment_fingerprint ON comment (blog_id, fingerprint) WHERE fingerprint <> '';
CREATE TABLE robot_sign (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    sign TEXT NOT NULL,
    robots INTEGER NOT NULL DEFAULT 0,
    people INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (blog_id, sign)
) STRICT, WITHOUT ROWID;

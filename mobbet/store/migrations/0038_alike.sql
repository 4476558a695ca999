-- Posts on the same matter, computed when a post is placed: at most four each way, with the reason in words.
CREATE TABLE alike (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    other_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    score REAL NOT NULL,
    reason TEXT NOT NULL,
    PRIMARY KEY (post_id, other_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX alike_other ON alike (other_id);

-- Posts for which that is still to be computed.
CREATE TABLE alike_due (post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE) STRICT;
INSERT INTO alike_due SELECT DISTINCT post_id FROM placement WHERE kind = '' AND shows_from < shows_until;

-- What a writer chose of it for one post, as JSON (core/alike.py); '' for what is usual.
ALTER TABLE post ADD COLUMN alike TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN alike TEXT NOT NULL DEFAULT '';
CREATE INDEX placement_alike ON placement (blog_id, post_id) WHERE alike <> '';

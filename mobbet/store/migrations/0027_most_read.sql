-- Which posts were read most, when they were last counted: a fact that the front page may show.
CREATE TABLE most_read (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    PRIMARY KEY (blog_id, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX most_read_post ON most_read (post_id);

-- The instants at which a part of a house changes what readers get by itself, such as the beginning and the end of a rule for blocks below posts.
CREATE TABLE house_moment (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    at INTEGER NOT NULL,
    part TEXT NOT NULL,
    PRIMARY KEY (blog_id, at, part)
) STRICT, WITHOUT ROWID;

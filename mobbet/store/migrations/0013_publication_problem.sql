-- Why the scheduled publication of a blog failed; gone once it succeeds.
CREATE TABLE publication_problem (
    blog_id INTEGER PRIMARY KEY REFERENCES blog (id) ON DELETE CASCADE,
    problem TEXT NOT NULL,
    since INTEGER NOT NULL
) STRICT;

-- The site of a blog that stands at an edition which was put back: nothing goes out by itself until somebody says so.
-- 'asks' has the desk ask when something is due, 'waits' does not.
CREATE TABLE hold (
    blog_id INTEGER PRIMARY KEY REFERENCES blog (id) ON DELETE CASCADE,
    edition INTEGER NOT NULL,
    way TEXT NOT NULL CHECK (way IN ('asks', 'waits')),
    since INTEGER NOT NULL
) STRICT;

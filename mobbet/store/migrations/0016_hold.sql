-- The site of a blog that stands at an edition which was put back: nothing goes out by itself until somebody says so.
-- 'asks' has the desk ask when something is due, 'waits' does not.
CREATE TABLE hold (
    blog_id INTEGER PRIMARY KEY REFERENCES blog (id) ON DELETE CASCADE,
    edition INTEGER NOT NULL,
    way TEXT NOT NULL CHECK (way IN ('asks', 'waits')),
    since INTEGER NOT NULL
) STRICT;

-- Why changes were made that wait to be published, and by whom; the edition that has them takes the words.
CREATE TABLE stale_reason (
    sequence INTEGER PRIMARY KEY AUTOINCREMENT,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    why TEXT NOT NULL,
    person_id INTEGER REFERENCES person (id) ON DELETE SET NULL
) STRICT;
CREATE INDEX stale_reason_blog ON stale_reason (blog_id, sequence);

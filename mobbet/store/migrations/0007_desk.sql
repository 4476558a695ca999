-- The words of all texts, to find one that is a slip away; every text is read anew, since letters of scripts without spaces now stand alone.
CREATE VIRTUAL TABLE post_vocabulary USING fts5vocab (post_text, row);
DELETE FROM post_text;
DELETE FROM indexed;

-- Filters of the desk that somebody kept under a name.
CREATE TABLE desk_view (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    name TEXT NOT NULL COLLATE NOCASE,
    query TEXT NOT NULL,
    UNIQUE (blog_id, person_id, name)
) STRICT;

-- Ideas noted down: a title with a line, until they become drafts.
CREATE TABLE idea (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    title TEXT NOT NULL,
    line TEXT NOT NULL DEFAULT '',
    noted_at INTEGER NOT NULL
) STRICT;
CREATE INDEX idea_blog ON idea (blog_id, noted_at);

-- The secret part of the address from which a calendar program reads the timetable; '' until somebody makes one.
ALTER TABLE blog ADD COLUMN calendar_key TEXT NOT NULL DEFAULT '';

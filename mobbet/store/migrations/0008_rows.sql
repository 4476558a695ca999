-- Every change that can be undone stands in one table: of the filing, or of one or many posts from the desk.
ALTER TABLE refiling RENAME TO change;
ALTER TABLE change ADD COLUMN kind TEXT NOT NULL DEFAULT 'filing' CHECK (kind IN ('filing', 'posts', 'timetable'));

-- After how many days a post that was set aside is removed for good; 0 for never.
ALTER TABLE blog ADD COLUMN aside_days INTEGER NOT NULL DEFAULT 30;
CREATE INDEX post_aside ON post (blog_id, aside_at) WHERE aside_at IS NOT NULL;
CREATE INDEX post_kept ON post (blog_id, id) WHERE aside_at IS NULL;

-- After how many days a post that is still read is to be looked at again; 0 for never.
ALTER TABLE blog ADD COLUMN look_again_days INTEGER NOT NULL DEFAULT 365;
-- How often a post was read, month by month (years times twelve and the months, in UTC), and when somebody last found that it still holds.
CREATE TABLE reads (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    month INTEGER NOT NULL,
    count INTEGER NOT NULL,
    PRIMARY KEY (post_id, month)
) STRICT, WITHOUT ROWID;
CREATE INDEX reads_month ON reads (month, post_id, count);
ALTER TABLE post ADD COLUMN looked_at INTEGER NOT NULL DEFAULT 0;

-- Days of the timetable that somebody marked: a holiday, a session. On those that skip, slots do not come.
CREATE TABLE marked_day (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    first TEXT NOT NULL,
    last TEXT NOT NULL,
    words TEXT NOT NULL,
    skips INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX marked_day_blog ON marked_day (blog_id, first);

-- The words of all texts, with the beginnings of words that are typed first. What is to be read (again) stands in a list of its own,
-- so that a search need not ask every post whether it changed.
DROP TABLE post_vocabulary;
DROP TABLE post_text;
DROP TABLE indexed;
CREATE VIRTUAL TABLE post_text USING fts5 (title, text, tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3');
CREATE VIRTUAL TABLE post_vocabulary USING fts5vocab (post_text, row);
CREATE TABLE to_index (post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE) STRICT;
INSERT INTO to_index SELECT id FROM post;
CREATE TRIGGER post_written AFTER UPDATE OF revision ON post BEGIN
    INSERT OR IGNORE INTO to_index VALUES (new.id);
END;

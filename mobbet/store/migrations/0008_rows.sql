-- Every change that can be undone stands in one table: of the filing, or of one or many posts from the desk.
ALTER TABLE refiling RENAME TO change;
ALTER TABLE change ADD COLUMN kind TEXT NOT NULL DEFAULT 'filing' CHECK (kind IN ('filing', 'posts', 'timetable'));

-- After how many days a post that was set aside is removed for good; 0 for never.
ALTER TABLE blog ADD COLUMN aside_days INTEGER NOT NULL DEFAULT 30;
CREATE INDEX post_aside ON post (blog_id, aside_at) WHERE aside_at IS NOT NULL;

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

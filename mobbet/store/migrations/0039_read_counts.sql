-- What is read, by day; never by person. `page` is a post's number, 0 for the whole blog, -1 for the front page, -2 for any other page.
CREATE TABLE read_day (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    page INTEGER NOT NULL,
    pages INTEGER NOT NULL DEFAULT 0,
    readers INTEGER NOT NULL DEFAULT 0,
    ends INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (blog_id, day, page)
) STRICT, WITHOUT ROWID;
CREATE INDEX read_day_page ON read_day (blog_id, page, day);
CREATE TABLE read_robots (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    pages INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day)
) STRICT, WITHOUT ROWID;

-- Where readers came from, and which page they opened first. `source` is a host, `from:` and the words of an owner's own link, or '' for no trace.
CREATE TABLE read_source (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    source TEXT NOT NULL,
    page INTEGER NOT NULL,
    pages INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day, source, page)
) STRICT, WITHOUT ROWID;

-- The language and the kind of device of readers.
CREATE TABLE read_way (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    way TEXT NOT NULL CHECK (way IN ('language', 'device')),
    value TEXT NOT NULL,
    pages INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day, way, value)
) STRICT, WITHOUT ROWID;

-- Who was counted on a day, as hashes with that day's salt. Both are forgotten two days after they were last needed.
CREATE TABLE read_salt (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    salt BLOB NOT NULL,
    used_at INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day)
) STRICT, WITHOUT ROWID;
CREATE TABLE read_seen (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    page INTEGER NOT NULL,
    reader INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day, page, reader)
) STRICT, WITHOUT ROWID;

-- Lines of access logs that were counted, by hash, and how often each stood in one log, so that none is counted twice.
CREATE TABLE read_line (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    line INTEGER NOT NULL,
    times INTEGER NOT NULL,
    day TEXT NOT NULL,
    PRIMARY KEY (blog_id, line)
) STRICT, WITHOUT ROWID;

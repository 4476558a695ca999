-- Who did what, when and from where; rows are added, never changed, and go when they are older than the blog keeps them. It stays when a blog is removed,
-- so it names none as a foreign key.
ALTER TABLE blog ADD COLUMN record_days INTEGER NOT NULL DEFAULT 730;
CREATE TABLE record (
    id INTEGER PRIMARY KEY,
    at INTEGER NOT NULL,
    kind TEXT NOT NULL,
    actor_id INTEGER,
    actor TEXT NOT NULL,
    on_blog INTEGER,
    on_post INTEGER,
    subject TEXT NOT NULL DEFAULT '',
    detail TEXT NOT NULL DEFAULT '',
    origin TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX record_blog ON record (on_blog, id);
CREATE INDEX record_post ON record (on_post, id) WHERE on_post IS NOT NULL;
CREATE INDEX record_actor ON record (actor_id, id);
CREATE INDEX record_at ON record (at);
CREATE TRIGGER record_stays_as_it_is BEFORE UPDATE ON record BEGIN
    SELECT RAISE(ABORT, 'the record is never changed');
END;
CREATE TRIGGER record_is_kept BEFORE DELETE ON record
WHEN OLD.at > (SELECT MAX(at) FROM record) - 86400 * IFNULL((SELECT record_days FROM blog WHERE blog.id = OLD.on_blog), 30) BEGIN
    SELECT RAISE(ABORT, 'the record is kept for as long as the blog says');
END;

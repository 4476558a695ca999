-- Who kept a block first; a writer changes only their own.
ALTER TABLE kept ADD COLUMN added_by INTEGER NOT NULL DEFAULT 0;
UPDATE kept SET added_by = changed_by;

-- Posts for their author alone are left out of searches by an index.
CREATE INDEX post_private ON post (author_id, id) WHERE visibility = 'only-me';

-- A session ends when it was not used for a while.
ALTER TABLE session ADD COLUMN used_at INTEGER NOT NULL DEFAULT 0;
UPDATE session SET used_at = begun_at;

-- A browser in which a person has signed in before.
CREATE TABLE device (
    token_hash TEXT PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    seen_at INTEGER NOT NULL
) STRICT;
CREATE INDEX device_person ON device (person_id, seen_at);

-- Somebody who may not sign in any more; what they wrote stays.
ALTER TABLE person ADD COLUMN suspended_at INTEGER;

-- What a place outside asks for, sealed with a key that does not lie in the database.
ALTER TABLE target ADD COLUMN credentials TEXT NOT NULL DEFAULT '';

-- A letter that cannot be made is set aside, with the reason.
ALTER TABLE letter ADD COLUMN aside_at INTEGER;

-- What a blog calls a reader: as whoever invited them wrote, never as another blog knows them.
ALTER TABLE reader ADD COLUMN name TEXT NOT NULL DEFAULT '';
UPDATE reader SET name = (SELECT name FROM person WHERE person.id = person_id);

-- Where backups of this server go: `every` and `hour` (of `zone`) say when, `checks` how often a copy is restored and checked.
-- `is_asked` stands for a backup that somebody wants now. `key` is the sealed key of an encrypted place, '' for one that everyone can read.
CREATE TABLE backup_place (
    id INTEGER PRIMARY KEY,
    address TEXT NOT NULL UNIQUE,
    credentials TEXT NOT NULL DEFAULT '',
    key TEXT NOT NULL DEFAULT '',
    every TEXT NOT NULL CHECK (every IN ('hour', 'day', 'week')),
    hour INTEGER NOT NULL CHECK (hour BETWEEN 0 AND 23),
    zone TEXT NOT NULL,
    checks TEXT NOT NULL CHECK (checks IN ('each', 'day', 'week')),
    made_at INTEGER NOT NULL,
    is_asked INTEGER NOT NULL DEFAULT 0,
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL DEFAULT 0,
    problem TEXT NOT NULL DEFAULT ''
) STRICT;
-- The copies that lie there. `problem` is why one could not be restored; such a copy counts as none.
CREATE TABLE backup_copy (
    place_id INTEGER NOT NULL REFERENCES backup_place (id) ON DELETE CASCADE,
    at INTEGER NOT NULL,
    seconds REAL NOT NULL,
    bytes INTEGER NOT NULL,
    sent INTEGER NOT NULL,
    files INTEGER NOT NULL,
    posts INTEGER NOT NULL,
    checked_at INTEGER,
    check_seconds REAL,
    problem TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (place_id, at)
) STRICT, WITHOUT ROWID;

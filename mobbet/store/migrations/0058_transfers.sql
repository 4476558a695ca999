-- Exports and imports that take time: what was asked for, how far it is, what came of it.
CREATE TABLE transfer (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    kind TEXT NOT NULL CHECK (kind IN ('export', 'import')),
    source TEXT NOT NULL,
    settings TEXT NOT NULL DEFAULT '{}',
    state TEXT NOT NULL DEFAULT 'waits' CHECK (state IN ('waits', 'goes', 'looked', 'done', 'stopped', 'failed')),
    is_dry INTEGER NOT NULL DEFAULT 0,
    stops INTEGER NOT NULL DEFAULT 0,
    done INTEGER NOT NULL DEFAULT 0,
    total INTEGER NOT NULL DEFAULT 0,
    made_at INTEGER NOT NULL,
    begun_at INTEGER,
    ended_at INTEGER,
    problem TEXT NOT NULL DEFAULT '',
    report TEXT NOT NULL DEFAULT '{}'
) STRICT;
CREATE INDEX transfer_blog ON transfer (blog_id, id);
CREATE INDEX transfer_open ON transfer (id) WHERE state IN ('waits', 'goes');

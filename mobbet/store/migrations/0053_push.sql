-- Notices to devices (Web Push, RFC 8030): the server's own key, sealed; the devices of each person with what they are told of; and what waits to be sent.
CREATE TABLE push_key (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    sealed TEXT NOT NULL,
    public TEXT NOT NULL
) STRICT;
CREATE TABLE push_device (
    endpoint TEXT PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    public_key TEXT NOT NULL,
    secret TEXT NOT NULL,
    kinds TEXT NOT NULL,
    added_at INTEGER NOT NULL,
    failures INTEGER NOT NULL DEFAULT 0
) STRICT, WITHOUT ROWID;
CREATE INDEX push_device_by_person ON push_device (person_id);
CREATE TABLE push_notice (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    words TEXT NOT NULL,
    address TEXT NOT NULL,
    noted_at INTEGER NOT NULL
) STRICT;

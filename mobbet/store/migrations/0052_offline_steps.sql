-- What was done without a network and sent later: each step by its key, with what it came to, so that one that is sent again is answered as before.
CREATE TABLE offline_step (
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    carried_out_at INTEGER NOT NULL,
    facts TEXT NOT NULL,
    PRIMARY KEY (person_id, key)
) STRICT, WITHOUT ROWID;
CREATE INDEX offline_step_by_age ON offline_step (carried_out_at);
-- What somebody wrote last is kept on their device.
CREATE INDEX revision_by_person ON revision (person_id, saved_at);

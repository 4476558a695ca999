-- To whom a post was sent on by a reader, as a keyed digest of the post and the address, so that nobody gets two letters about one; forgotten after a while.
CREATE TABLE sent_on (
    digest TEXT PRIMARY KEY,
    made_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
-- Whether the owners get a letter each morning about what was read the day before ('day' or ''), and when they last got it.
ALTER TABLE blog ADD COLUMN read_slip TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN slip_told_at INTEGER NOT NULL DEFAULT 0;

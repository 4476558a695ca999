-- To whom a post was sent on by a reader, as a keyed digest of the post and the address, so that nobody gets two letters about one; forgotten after a while.
CREATE TABLE sent_on (
    digest TEXT PRIMARY KEY,
    made_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

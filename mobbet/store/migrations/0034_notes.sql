-- A private link to a draft: of one revision, or with 0 of whatever is newest. The token is kept as its SHA-256, and sealed, so that the link can be copied again.
CREATE TABLE reading_copy (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    token_hash TEXT NOT NULL UNIQUE,
    sealed_token TEXT NOT NULL,
    made_by INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    made_at INTEGER NOT NULL,
    ends_at INTEGER NOT NULL,
    closed_at INTEGER,
    of_revision INTEGER NOT NULL,
    lets TEXT NOT NULL,
    word_hash TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX reading_copy_post ON reading_copy (post_id, id);

-- Whoever opened a reading copy, known by a cookie; and how far they read: the heading they came to, and the share of the page in percent.
CREATE TABLE copy_reader (
    id INTEGER PRIMARY KEY,
    copy_id INTEGER NOT NULL REFERENCES reading_copy (id) ON DELETE CASCADE,
    key_hash TEXT NOT NULL,
    reader_name TEXT NOT NULL DEFAULT '',
    first_at INTEGER NOT NULL,
    last_at INTEGER NOT NULL,
    came_to TEXT NOT NULL DEFAULT '',
    share INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE UNIQUE INDEX copy_reader_key ON copy_reader (copy_id, key_hash);

-- A note on a passage of a post, or (passage_start -1 with an empty quote) on the whole; an answer names the note that it answers. `proposal` are words
-- put forward for those of the passage. It is a colleague's, or that of a reader of a copy.
CREATE TABLE note (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    answers INTEGER REFERENCES note (id) ON DELETE CASCADE,
    person_id INTEGER REFERENCES person (id) ON DELETE SET NULL,
    reader_id INTEGER REFERENCES copy_reader (id) ON DELETE SET NULL,
    who TEXT NOT NULL,
    left_at INTEGER NOT NULL,
    passage_start INTEGER NOT NULL DEFAULT -1,
    passage_end INTEGER NOT NULL DEFAULT -1,
    quote TEXT NOT NULL DEFAULT '',
    prefix TEXT NOT NULL DEFAULT '',
    suffix TEXT NOT NULL DEFAULT '',
    said TEXT NOT NULL DEFAULT '',
    proposal TEXT,
    ended TEXT NOT NULL DEFAULT '',
    ended_by INTEGER REFERENCES person (id) ON DELETE SET NULL,
    ended_at INTEGER
) STRICT;
CREATE INDEX note_post ON note (post_id, id);

-- Who has which post open now, in which tab, and in which block they write.
CREATE TABLE present (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    tab TEXT NOT NULL,
    seen_there INTEGER NOT NULL,
    block INTEGER NOT NULL DEFAULT -1,
    heading TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (post_id, person_id, tab)
) STRICT, WITHOUT ROWID;

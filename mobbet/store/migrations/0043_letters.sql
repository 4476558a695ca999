-- What a blog says of its letters (core/letters.LetterRules) as JSON, since when posts are written about, and where this server answers its readers' forms,
-- '' for at the address of the blog.
ALTER TABLE blog ADD COLUMN letters TEXT NOT NULL DEFAULT '{}';
ALTER TABLE blog ADD COLUMN letters_since INTEGER;
ALTER TABLE blog ADD COLUMN server TEXT NOT NULL DEFAULT '';
-- What a post says of its letter: 'teaser', 'whole', 'none' or '' for as the blog has it; the subject, and a line before the text.
ALTER TABLE post ADD COLUMN letter TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN letter_subject TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN letter_line TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN letter TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN letter_subject TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN letter_line TEXT NOT NULL DEFAULT '';

-- Who gets letters. `key` is the secret part of the addresses at which they change or end it; `consent` says in words where they agreed.
CREATE TABLE subscriber (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    email TEXT NOT NULL COLLATE NOCASE,
    key TEXT NOT NULL UNIQUE,
    state TEXT NOT NULL,
    consent TEXT NOT NULL,
    asked_at INTEGER NOT NULL,
    confirmed_at INTEGER,
    ended_at INTEGER,
    bounces INTEGER NOT NULL DEFAULT 0,
    problem TEXT NOT NULL DEFAULT '',
    UNIQUE (blog_id, email)
) STRICT;
CREATE INDEX subscriber_state ON subscriber (blog_id, state, email);
CREATE TABLE subscription (
    subscriber_id INTEGER NOT NULL REFERENCES subscriber (id) ON DELETE CASCADE,
    what TEXT NOT NULL,
    every TEXT NOT NULL,
    since INTEGER NOT NULL,
    PRIMARY KEY (subscriber_id, what)
) STRICT, WITHOUT ROWID;
CREATE INDEX subscription_what ON subscription (what);
-- What somebody asked for and has not confirmed yet: JSON [[what, every], ...].
ALTER TABLE subscriber ADD COLUMN wishes TEXT NOT NULL DEFAULT '[]';

-- A letter to many: of a post (with `number` 0), a correction of it (1 and so on), a digest, or a comment. `shows` is JSON [[post, placement], ...],
-- of which its text was made; it is made anew where that is no longer so.
CREATE TABLE mailing (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    post_id INTEGER REFERENCES post (id) ON DELETE CASCADE,
    number INTEGER NOT NULL DEFAULT 0,
    every TEXT NOT NULL,
    shows TEXT NOT NULL,
    subject TEXT NOT NULL,
    text TEXT NOT NULL,
    html TEXT NOT NULL,
    words TEXT NOT NULL DEFAULT '',
    made_at INTEGER NOT NULL,
    UNIQUE (post_id, kind, number)
) STRICT;
CREATE INDEX mailing_blog ON mailing (blog_id, made_at);
-- One letter to one subscriber. `going` is written before it is handed over.
CREATE TABLE delivery (
    mailing_id INTEGER NOT NULL REFERENCES mailing (id) ON DELETE CASCADE,
    subscriber_id INTEGER NOT NULL REFERENCES subscriber (id) ON DELETE CASCADE,
    state TEXT NOT NULL DEFAULT 'waiting',
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL,
    problem TEXT NOT NULL DEFAULT '',
    done_at INTEGER,
    bounced_at INTEGER,
    PRIMARY KEY (mailing_id, subscriber_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX delivery_open ON delivery (next_try, mailing_id) WHERE state IN ('waiting', 'going');
CREATE INDEX delivery_subscriber ON delivery (subscriber_id);
-- Digests that were put together, so that each is once, also where it had nothing to tell.
CREATE TABLE digest (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    every TEXT NOT NULL,
    until INTEGER NOT NULL,
    PRIMARY KEY (blog_id, every, until)
) STRICT, WITHOUT ROWID;
-- Until when nothing is handed over, since the mail server took nothing.
CREATE TABLE mail_pause (
    one INTEGER PRIMARY KEY CHECK (one = 1),
    tries INTEGER NOT NULL,
    until INTEGER NOT NULL,
    problem TEXT NOT NULL
) STRICT;

-- Readers of a blog, and the groups for whom a post can be. `feed_key` is the secret part of a group's feed address.
CREATE TABLE reader (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    added_at INTEGER NOT NULL,
    joined_at INTEGER,
    PRIMARY KEY (blog_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE reader_group (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    name TEXT NOT NULL COLLATE NOCASE,
    feed_key TEXT NOT NULL UNIQUE,
    made_at INTEGER NOT NULL,
    writes_since INTEGER,
    UNIQUE (blog_id, name)
) STRICT;
-- Posts of which a group was written to; `writes_since` above is from when on it is.
CREATE TABLE announced (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    group_id INTEGER NOT NULL REFERENCES reader_group (id) ON DELETE CASCADE,
    PRIMARY KEY (post_id, group_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE group_reader (
    group_id INTEGER NOT NULL REFERENCES reader_group (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    PRIMARY KEY (group_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX group_reader_person ON group_reader (person_id);

-- A link by mail that signs a reader in, once.
CREATE TABLE entry (
    token_hash TEXT PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    leads_to TEXT NOT NULL,
    ends_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- A session that a reader began by such a link is good for reading that blog alone.
ALTER TABLE session ADD COLUMN blog_id INTEGER REFERENCES blog (id) ON DELETE CASCADE;

-- Letters to readers. `sent_at` is set once a mail server took one; without a server they are kept to be looked at.
CREATE TABLE letter (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    recipient TEXT NOT NULL,
    subject TEXT NOT NULL,
    text TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    sent_at INTEGER,
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL DEFAULT 0,
    problem TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX letter_blog ON letter (blog_id, id);
CREATE INDEX letter_waiting ON letter (next_try) WHERE sent_at IS NULL;

-- `salt` goes into the keys of the blog's passwords; `seals` sends password posts to static hosts, encrypted.
ALTER TABLE blog ADD COLUMN salt TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN seals INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blog ADD COLUMN open_entry INTEGER NOT NULL DEFAULT 0;
UPDATE blog SET salt = lower(hex(randomblob(16)));

-- The key made of a post's password; what lists show of it; where its address leads once it came down;
-- and when an update of what is out is to go out.
ALTER TABLE post ADD COLUMN password_key TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN listed TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN leads_to INTEGER REFERENCES post (id);
ALTER TABLE post ADD COLUMN update_wall TEXT;
ALTER TABLE placement ADD COLUMN password_key TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN listed TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN leads_to INTEGER;
CREATE INDEX placement_password ON placement (blog_id) WHERE password_key <> '';
CREATE INDEX placement_leads_to ON placement (leads_to) WHERE leads_to IS NOT NULL;
ALTER TABLE listing ADD COLUMN audience TEXT NOT NULL DEFAULT 'everyone';
CREATE INDEX listing_restricted ON listing (blog_id, audience) WHERE audience <> 'everyone';

-- Repeating times kept free for posts (RFC 5545 recurrences), and the finished posts that fill them in order.
CREATE TABLE slot (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    rule TEXT NOT NULL,
    time TEXT NOT NULL,
    starts TEXT NOT NULL,
    excepted TEXT NOT NULL DEFAULT '[]',
    made_at INTEGER NOT NULL
) STRICT;
CREATE INDEX slot_blog ON slot (blog_id);
CREATE TABLE queued (
    post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    position INTEGER NOT NULL
) STRICT;
CREATE INDEX queued_blog ON queued (blog_id, position);

-- Why an edition was made, by whom, and which earlier one it puts back.
ALTER TABLE edition ADD COLUMN why TEXT NOT NULL DEFAULT '';
ALTER TABLE edition ADD COLUMN person_id INTEGER REFERENCES person (id);
ALTER TABLE edition ADD COLUMN puts_back INTEGER;

-- Places outside to which editions are sent, and what is known to lie there.
CREATE TABLE target (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    address TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    edition INTEGER NOT NULL DEFAULT 0,
    sent_at INTEGER,
    checked_at INTEGER,
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL DEFAULT 0,
    done INTEGER NOT NULL DEFAULT 0,
    wanted INTEGER NOT NULL DEFAULT 0,
    problem TEXT NOT NULL DEFAULT '',
    UNIQUE (blog_id, address)
) STRICT;
CREATE TABLE target_file (
    target_id INTEGER NOT NULL REFERENCES target (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    hash TEXT NOT NULL,
    PRIMARY KEY (target_id, path)
) STRICT, WITHOUT ROWID;

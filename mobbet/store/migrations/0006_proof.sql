-- The house style for words: styles of quotation marks, dashes and ellipses ('' for none), [[avoided, preferred], …], {check: gravity}.
ALTER TABLE blog ADD COLUMN quotes TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN dashes TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN ellipses TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN avoided TEXT NOT NULL DEFAULT '[]';
ALTER TABLE blog ADD COLUMN gravities TEXT NOT NULL DEFAULT '{}';
ALTER TABLE blog ADD COLUMN tries_links INTEGER NOT NULL DEFAULT 1;

-- The language of a post where it is not its blog's.
ALTER TABLE post ADD COLUMN language TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN language TEXT NOT NULL DEFAULT '';

-- Marks that somebody let stand, with the reason; known by check and passage.
CREATE TABLE ignored_mark (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    sign TEXT NOT NULL,
    reason TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    ignored_at INTEGER NOT NULL,
    PRIMARY KEY (post_id, sign)
) STRICT, WITHOUT ROWID;

-- Words that the dictionary does not have, learned for a blog (person 0) or for a person (blog 0).
CREATE TABLE learned_word (
    word TEXT NOT NULL,
    person_id INTEGER NOT NULL DEFAULT 0,
    blog_id INTEGER NOT NULL DEFAULT 0,
    learned_at INTEGER NOT NULL,
    PRIMARY KEY (person_id, blog_id, word)
) STRICT, WITHOUT ROWID;

-- What came back from links out. `problem` is '' for one that answers; `since` is when it began to answer so.
CREATE TABLE link_answer (
    address TEXT PRIMARY KEY,
    asked_at INTEGER NOT NULL,
    next_at INTEGER NOT NULL,
    problem TEXT NOT NULL DEFAULT '',
    ends_at TEXT NOT NULL DEFAULT '',
    since INTEGER NOT NULL,
    tries INTEGER NOT NULL DEFAULT 0
) STRICT, WITHOUT ROWID;
-- The links out of each post's newest text, so that each is tried once for all posts.
CREATE TABLE post_link_out (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    address TEXT NOT NULL,
    PRIMARY KEY (post_id, address)
) STRICT, WITHOUT ROWID;
CREATE INDEX post_link_out_address ON post_link_out (address);

-- The proof of each post as it was last read: of which state, how many marks of each gravity, and by which checks {check: count}.
CREATE TABLE post_proof (
    post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE,
    blog_id INTEGER NOT NULL,
    revision INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    read_at INTEGER NOT NULL,
    must INTEGER NOT NULL,
    should INTEGER NOT NULL,
    could INTEGER NOT NULL,
    checks TEXT NOT NULL
) STRICT;
CREATE INDEX post_proof_blog ON post_proof (blog_id, post_id);
-- How many posts and marks a blog had at the end of each day, for the line that shows where it goes.
CREATE TABLE proof_day (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    posts INTEGER NOT NULL,
    must INTEGER NOT NULL,
    should INTEGER NOT NULL,
    could INTEGER NOT NULL,
    PRIMARY KEY (blog_id, day)
) STRICT, WITHOUT ROWID;

-- Posts that went out although marks that must be settled were not, by whom and with which word why.
CREATE TABLE overridden (
    id INTEGER PRIMARY KEY,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id),
    overridden_at INTEGER NOT NULL,
    reason TEXT NOT NULL,
    marks TEXT NOT NULL
) STRICT;
CREATE INDEX overridden_post ON overridden (post_id);

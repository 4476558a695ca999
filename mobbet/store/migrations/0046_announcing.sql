-- Accounts of a blog elsewhere, at which its posts are announced. `token` is sealed; `pattern` is the text with fill-ins, at most `longest` letters; `delay` in
-- minutes after a post went out; `profile` is the address of the account for people.
CREATE TABLE account (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    address TEXT NOT NULL,
    profile TEXT NOT NULL DEFAULT '',
    token TEXT NOT NULL DEFAULT '',
    pattern TEXT NOT NULL,
    longest INTEGER NOT NULL,
    delay INTEGER NOT NULL,
    since INTEGER NOT NULL
) STRICT;
CREATE INDEX account_blog ON account (blog_id);
-- A post announced at an account: `waiting`, `going`, `sent` (at the address `answer`), `refused`, or `unclear` where nobody knows whether it arrived.
CREATE TABLE announcement (
    account_id INTEGER NOT NULL REFERENCES account (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    state TEXT NOT NULL DEFAULT 'waiting',
    text TEXT NOT NULL,
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL,
    answer TEXT NOT NULL DEFAULT '',
    problem TEXT NOT NULL DEFAULT '',
    made_at INTEGER NOT NULL,
    PRIMARY KEY (account_id, post_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX announcement_open ON announcement (next_try) WHERE state IN ('waiting', 'going');
CREATE INDEX announcement_post ON announcement (post_id);
-- Whether a post is announced: 'none', or '' for as the accounts have it.
ALTER TABLE post ADD COLUMN announce TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN announce TEXT NOT NULL DEFAULT '';

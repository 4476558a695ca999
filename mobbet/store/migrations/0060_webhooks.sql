-- Addresses that are told what happens on a blog, what each was told of, and what is sent to it.
CREATE TABLE webhook (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    address TEXT NOT NULL,
    secret TEXT NOT NULL,
    events TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    edition INTEGER NOT NULL DEFAULT 0,
    comment_id INTEGER NOT NULL DEFAULT 0,
    ended TEXT NOT NULL DEFAULT '',
    UNIQUE (blog_id, address)
) STRICT;
CREATE TABLE webhook_told (
    webhook_id INTEGER NOT NULL REFERENCES webhook (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    placement_id INTEGER NOT NULL,
    title TEXT NOT NULL,
    path TEXT NOT NULL,
    PRIMARY KEY (webhook_id, post_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX webhook_told_post ON webhook_told (post_id);
CREATE TABLE webhook_sending (
    id INTEGER PRIMARY KEY,
    webhook_id INTEGER NOT NULL REFERENCES webhook (id) ON DELETE CASCADE,
    event TEXT NOT NULL,
    body TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    state TEXT NOT NULL DEFAULT 'waiting',
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL,
    answer TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX webhook_sending_due ON webhook_sending (next_try) WHERE state = 'waiting';
CREATE INDEX webhook_sending_of ON webhook_sending (webhook_id, id);

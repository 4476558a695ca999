-- Whether links in posts are told to other sites, and theirs are taken here, as Webmentions ('on' or ''); the hub that is told of new posts in feeds (WebSub).
ALTER TABLE blog ADD COLUMN mentions TEXT NOT NULL DEFAULT 'on';
ALTER TABLE blog ADD COLUMN hub TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN hub_told INTEGER NOT NULL DEFAULT 0;
-- A page elsewhere that is said to link to a post: `asked` until it was looked at, then `known`, or `gone`.
CREATE TABLE mention (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    source TEXT NOT NULL,
    target TEXT NOT NULL,
    state TEXT NOT NULL DEFAULT 'asked',
    asked_at INTEGER NOT NULL,
    next_try INTEGER NOT NULL,
    tries INTEGER NOT NULL DEFAULT 0,
    UNIQUE (post_id, source)
) STRICT;
CREATE INDEX mention_due ON mention (next_try) WHERE state <> 'gone';
-- A link of a post, and whether the place it leads to was told of it: `waiting`, `told`, `none` (it takes no mentions) or `failed`.
CREATE TABLE mention_out (
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    target TEXT NOT NULL,
    state TEXT NOT NULL DEFAULT 'waiting',
    tries INTEGER NOT NULL DEFAULT 0,
    next_try INTEGER NOT NULL,
    problem TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (post_id, target)
) STRICT, WITHOUT ROWID;
CREATE INDEX mention_out_due ON mention_out (next_try) WHERE state = 'waiting';
-- Of which placement (0 for none any more) the links of a post were told.
CREATE TABLE mention_told (
    post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE,
    placement_id INTEGER NOT NULL
) STRICT;

-- When a post went out or goes out, and until when it shows, of its newest placement that shows at all: kept with the post, so that lists in the
-- order of time, and that of what is in hand, have an index.
ALTER TABLE post ADD COLUMN placed_for INTEGER;
ALTER TABLE post ADD COLUMN placed_until INTEGER;
CREATE INDEX placement_shown ON placement (post_id, id, shows_from, shows_until, goes_out, comes_down);
UPDATE post SET (placed_for, placed_until) = (SELECT goes_out, shows_until FROM placement WHERE post_id = post.id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1);
CREATE INDEX post_time ON post (blog_id, IFNULL(placed_for, changed_at), id);
CREATE INDEX post_until ON post (blog_id, IFNULL(placed_until, 0)) WHERE aside_at IS NULL;
CREATE INDEX post_by ON post (blog_id, author_id) WHERE aside_at IS NULL;
CREATE TRIGGER placement_begun AFTER INSERT ON placement BEGIN
    UPDATE post SET (placed_for, placed_until) = (SELECT goes_out, shows_until FROM placement WHERE post_id = new.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = new.post_id;
END;
CREATE TRIGGER placement_moved AFTER UPDATE OF goes_out, shows_from, shows_until ON placement BEGIN
    UPDATE post SET (placed_for, placed_until) = (SELECT goes_out, shows_until FROM placement WHERE post_id = new.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = new.post_id;
END;
CREATE TRIGGER placement_taken AFTER DELETE ON placement BEGIN
    UPDATE post SET (placed_for, placed_until) = (SELECT goes_out, shows_until FROM placement WHERE post_id = old.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = old.post_id;
END;

-- What an edition worked out of a post: its card, and its text as its page shows it, each with a digest of all it follows from.
-- Nothing depends on these rows: where one is missing, or of other facts, it is worked out anew.
CREATE TABLE worked_out (
    post_id INTEGER PRIMARY KEY REFERENCES post (id) ON DELETE CASCADE,
    card_key TEXT NOT NULL,
    card BLOB NOT NULL,
    page_key TEXT NOT NULL,
    page BLOB NOT NULL
) STRICT;

-- Who may comment ('' nobody, 'signed-in', 'anyone'), and whose comments wait until somebody here has read them ('all', 'strangers', 'none').
ALTER TABLE blog ADD COLUMN comments TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN comments_wait TEXT NOT NULL DEFAULT 'all';
-- 'closed' where readers may write none under this post; '' where it is as the blog has it.
ALTER TABLE post ADD COLUMN comments TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN comments TEXT NOT NULL DEFAULT '';
-- What readers wrote under posts, and what people of the blog answered. E-mail addresses are shown to nobody outside.
CREATE TABLE comment (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    answers INTEGER REFERENCES comment (id) ON DELETE CASCADE,
    person_id INTEGER REFERENCES person (id) ON DELETE SET NULL,
    is_ours INTEGER NOT NULL DEFAULT 0,
    name TEXT NOT NULL,
    email TEXT NOT NULL,
    text TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('waits', 'shown', 'refused')),
    made_at INTEGER NOT NULL,
    settled_by INTEGER REFERENCES person (id) ON DELETE SET NULL
) STRICT;
CREATE INDEX comment_post ON comment (post_id, state, made_at);
CREATE INDEX comment_blog ON comment (blog_id, state, id);
CREATE INDEX comment_answers ON comment (answers) WHERE answers IS NOT NULL;

-- When a post went out or goes out, of its newest placement that shows at all: kept with the post, so that lists in the order of time have an index.
ALTER TABLE post ADD COLUMN placed_for INTEGER;
UPDATE post SET placed_for = (SELECT goes_out FROM placement WHERE post_id = post.id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1);
CREATE INDEX post_time ON post (blog_id, IFNULL(placed_for, changed_at), id);
CREATE INDEX placement_shown ON placement (post_id, id, shows_from, shows_until, goes_out, comes_down);
CREATE TRIGGER placement_begun AFTER INSERT ON placement BEGIN
    UPDATE post SET placed_for = (SELECT goes_out FROM placement WHERE post_id = new.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = new.post_id;
END;
CREATE TRIGGER placement_moved AFTER UPDATE OF goes_out, shows_from, shows_until ON placement BEGIN
    UPDATE post SET placed_for = (SELECT goes_out FROM placement WHERE post_id = new.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = new.post_id;
END;
CREATE TRIGGER placement_taken AFTER DELETE ON placement BEGIN
    UPDATE post SET placed_for = (SELECT goes_out FROM placement WHERE post_id = old.post_id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1) WHERE id = old.post_id;
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

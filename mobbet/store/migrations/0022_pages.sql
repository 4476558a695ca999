-- Pages beside posts: what a text is ('' is a post, core/pages.py), and the page that it stands below.
ALTER TABLE post ADD COLUMN kind TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN below INTEGER REFERENCES post (id) ON DELETE SET NULL;
ALTER TABLE placement ADD COLUMN kind TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN below INTEGER;
CREATE INDEX post_page ON post (blog_id, kind) WHERE kind <> '';
CREATE INDEX post_below ON post (below) WHERE below IS NOT NULL;
CREATE INDEX placement_page ON placement (blog_id, goes_out) WHERE kind <> '';
CREATE INDEX placement_below ON placement (below) WHERE below IS NOT NULL;

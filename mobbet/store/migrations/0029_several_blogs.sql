-- A post that stands in another blog too has a post there, whose text and times follow those of its home; `followed` says of which state it was made last.
ALTER TABLE post ADD COLUMN home_post INTEGER REFERENCES post (id) ON DELETE SET NULL;
ALTER TABLE post ADD COLUMN followed TEXT NOT NULL DEFAULT '';
CREATE UNIQUE INDEX post_home ON post (home_post, blog_id) WHERE home_post IS NOT NULL;

-- Its page names the address of its home, so that it is stale whenever that is.
CREATE TRIGGER stale_with_home AFTER INSERT ON stale_post WHEN EXISTS (SELECT 1 FROM post WHERE home_post = NEW.post_id) BEGIN
    INSERT INTO stale_post (blog_id, post_id) SELECT blog_id, id FROM post WHERE home_post = NEW.post_id;
END;

-- A post on a background of its own: the colours and the picture on top in which it differs from the site, as JSON (core/look/own.py); '' for none.
ALTER TABLE post ADD COLUMN own_look TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN own_look TEXT NOT NULL DEFAULT '';
CREATE INDEX placement_own_look ON placement (blog_id, post_id) WHERE own_look <> '';

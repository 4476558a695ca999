-- The ways in which readers may share a post (core/sharing.py), as a JSON list, and the owner's own share addresses, as JSON [[words, pattern], ...].
ALTER TABLE blog ADD COLUMN sharing TEXT NOT NULL DEFAULT '[]';
ALTER TABLE blog ADD COLUMN share_links TEXT NOT NULL DEFAULT '[]';
-- Whether a post has them: 'none', or '' for as the blog has it.
ALTER TABLE post ADD COLUMN sharing TEXT NOT NULL DEFAULT '';
ALTER TABLE placement ADD COLUMN sharing TEXT NOT NULL DEFAULT '';

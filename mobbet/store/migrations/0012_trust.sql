-- Who kept a block first; a writer changes only their own.
ALTER TABLE kept ADD COLUMN added_by INTEGER NOT NULL DEFAULT 0;
UPDATE kept SET added_by = changed_by;

-- Posts for their author alone are left out of searches by an index.
CREATE INDEX post_private ON post (author_id, id) WHERE visibility = 'only-me';

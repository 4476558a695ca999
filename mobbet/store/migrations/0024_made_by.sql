-- Whom a blog is by, for search engines and feeds; '' for the blog's own name.
ALTER TABLE blog ADD COLUMN made_by TEXT NOT NULL DEFAULT '';

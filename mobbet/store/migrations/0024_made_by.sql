-- Whom a blog is by, for search engines and feeds ('' for the blog's own name), and the picture of its library that is its icon (0 for the usual one).
ALTER TABLE blog ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN icon INTEGER NOT NULL DEFAULT 0;

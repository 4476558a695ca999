-- Whether a reader's browser works a moment before it sends a comment; to whom letters go about comments that wait ('author', 'editors'), how often
-- ('each', 'day' or '' for never), and when they were last told by the day.
ALTER TABLE blog ADD COLUMN comment_work INTEGER NOT NULL DEFAULT 0;
ALTER TABLE blog ADD COLUMN comment_letters TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN comment_letters_to TEXT NOT NULL DEFAULT 'author';
ALTER TABLE blog ADD COLUMN comments_told_at INTEGER NOT NULL DEFAULT 0;
-- Of a mention on another site: the page that mentions, and the address of whoever wrote it.
ALTER TABLE comment ADD COLUMN source TEXT NOT NULL DEFAULT '';
ALTER TABLE comment ADD COLUMN address TEXT NOT NULL DEFAULT '';
CREATE INDEX comment_source ON comment (post_id, source) WHERE source <> '';

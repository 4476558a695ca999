-- A library of pictures, sound, video and files: what is known of each, and how a picture is made of its original.
ALTER TABLE media ADD COLUMN kind TEXT NOT NULL DEFAULT 'picture' CHECK (kind IN ('picture', 'sound', 'video', 'file'));
ALTER TABLE media ADD COLUMN state TEXT NOT NULL DEFAULT 'ready' CHECK (state IN ('working', 'ready', 'failed'));
ALTER TABLE media ADD COLUMN problem TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN caption TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN credit TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN licence TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN source TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN labels TEXT NOT NULL DEFAULT '[]';
ALTER TABLE media ADD COLUMN is_moving INTEGER NOT NULL DEFAULT 0;
ALTER TABLE media ADD COLUMN colour TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN tiny TEXT NOT NULL DEFAULT '[]';
ALTER TABLE media ADD COLUMN taken TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN camera TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN place TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN recipe TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN seconds REAL NOT NULL DEFAULT 0;
ALTER TABLE media ADD COLUMN loudness REAL;
ALTER TABLE media ADD COLUMN wave TEXT NOT NULL DEFAULT '[]';
ALTER TABLE media ADD COLUMN transcript TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN captions TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN poster_second REAL NOT NULL DEFAULT 0;
-- grows with everything that a page shows of it
ALTER TABLE media ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE media ADD COLUMN aside_at INTEGER;
CREATE INDEX media_added ON media (blog_id, added_at DESC, id DESC);

-- The files made of an item for readers, by use: 'whole', a cut's name, 'sound', 'video', 'captions', 'wave', 'file'.
CREATE TABLE copy (
    media_id INTEGER NOT NULL REFERENCES media (id) ON DELETE CASCADE,
    use TEXT NOT NULL,
    type TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    hash TEXT NOT NULL,
    bytes INTEGER NOT NULL,
    PRIMARY KEY (media_id, use, type, width)
) STRICT, WITHOUT ROWID;
INSERT INTO copy SELECT media_id, 'whole', type, width, height, hash, bytes FROM derivative;
DROP TABLE derivative;

-- Work that takes time, done by one worker for each data folder.
CREATE TABLE job (
    id INTEGER PRIMARY KEY,
    media_id INTEGER NOT NULL REFERENCES media (id) ON DELETE CASCADE,
    state TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'working', 'done', 'failed')),
    tries INTEGER NOT NULL DEFAULT 0,
    progress REAL NOT NULL DEFAULT 0,
    added_at INTEGER NOT NULL
) STRICT;
CREATE INDEX job_waiting ON job (id) WHERE state IN ('waiting', 'working');
CREATE INDEX job_media ON job (media_id, id);
INSERT INTO job (media_id, added_at) SELECT id, added_at FROM media;

-- Which items the working text of a post shows.
CREATE TABLE post_media (
    media_id INTEGER NOT NULL,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    PRIMARY KEY (media_id, post_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX post_media_post ON post_media (post_id);
INSERT OR IGNORE INTO post_media SELECT media_id, placement.post_id FROM placement_media JOIN placement ON placement.id = placement_id;

-- The picture that a post is shown by in lists, where one was chosen.
ALTER TABLE post ADD COLUMN lead_media INTEGER REFERENCES media (id);
ALTER TABLE placement ADD COLUMN lead_media INTEGER REFERENCES media (id);

-- Search over names and words of the library.
CREATE VIRTUAL TABLE media_text USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
INSERT INTO media_text (rowid, words) SELECT id, name || ' ' || alt FROM media;

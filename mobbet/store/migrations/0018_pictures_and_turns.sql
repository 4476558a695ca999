-- A post may wait for its turn in the queue before it is placed.
ALTER TABLE post ADD COLUMN waits_turn INTEGER NOT NULL DEFAULT 0;

-- What posts say of pictures: whether one describes it, and the words, in rows numbered (post << 32) | item.
ALTER TABLE post_media ADD COLUMN is_described INTEGER NOT NULL DEFAULT 0;
CREATE VIRTUAL TABLE said_text USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
INSERT INTO said_text (rowid, words)
SELECT (post_media.post_id << 32) | post_media.media_id, GROUP_CONCAT(node.value ->> '$.alt', ' ')
FROM post_media
JOIN post ON post.id = post_media.post_id
JOIN revision ON revision.post_id = post.id
    AND revision.number = (SELECT MAX(number) FROM revision AS newest WHERE newest.post_id = post.id)
JOIN JSON_TREE(revision.body) AS node
    ON node.key = 'attrs' AND node.value ->> '$.src' = 'media:' || post_media.media_id AND IFNULL(node.value ->> '$.alt', '') <> ''
GROUP BY post_media.post_id, post_media.media_id;
UPDATE post_media SET is_described = 1 WHERE ((post_id << 32) | media_id) IN (SELECT rowid FROM said_text);
CREATE TRIGGER post_media_removed AFTER DELETE ON post_media BEGIN
    DELETE FROM said_text WHERE rowid = (OLD.post_id << 32) | OLD.media_id;
END;

-- Names from before letters were composed (NFC) as they came. Two spellings of one name that both stand are left to be merged by hand.
UPDATE OR IGNORE tag SET name = COMPOSED(name) WHERE name <> COMPOSED(name);
UPDATE OR IGNORE category SET name = COMPOSED(name) WHERE name <> COMPOSED(name);

-- Search for readers, over the pages of the current editions. What everybody may read stands in an index of its own, so that neither counts, order
-- nor near words follow from anything else.
CREATE TABLE site_page (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL,
    post_id INTEGER NOT NULL,
    audience TEXT NOT NULL,
    page_path TEXT NOT NULL,
    digest TEXT NOT NULL,
    written_at INTEGER NOT NULL,
    UNIQUE (blog_id, post_id)
) STRICT;
CREATE INDEX site_page_written ON site_page (blog_id, written_at, id, audience, post_id);
CREATE VIRTUAL TABLE site_text USING fts5 (title, text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
CREATE VIRTUAL TABLE site_text_closed USING fts5 (title, text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
CREATE VIRTUAL TABLE site_vocabulary USING fts5vocab (site_text, row);
CREATE VIRTUAL TABLE site_vocabulary_closed USING fts5vocab (site_text_closed, row);

-- Posts whose page of the current edition the index has not read.
CREATE TABLE site_to_index (
    blog_id INTEGER NOT NULL,
    post_id INTEGER NOT NULL,
    PRIMARY KEY (blog_id, post_id)
) STRICT, WITHOUT ROWID;
INSERT INTO site_to_index SELECT blog_id, CAST(SUBSTR(key, 6) AS INTEGER) FROM edition_page WHERE to_edition IS NULL AND key GLOB 'post/[0-9]*';
CREATE TRIGGER edition_page_begins AFTER INSERT ON edition_page WHEN NEW.to_edition IS NULL AND NEW.key GLOB 'post/[0-9]*'
BEGIN
    INSERT INTO site_to_index SELECT NEW.blog_id, CAST(SUBSTR(NEW.key, 6) AS INTEGER)
        WHERE NOT EXISTS (SELECT 1 FROM site_to_index WHERE blog_id = NEW.blog_id AND post_id = CAST(SUBSTR(NEW.key, 6) AS INTEGER));
END;
CREATE TRIGGER edition_page_ends AFTER UPDATE OF to_edition ON edition_page WHEN NEW.to_edition IS NOT NULL AND NEW.key GLOB 'post/[0-9]*'
BEGIN
    INSERT INTO site_to_index SELECT NEW.blog_id, CAST(SUBSTR(NEW.key, 6) AS INTEGER)
        WHERE NOT EXISTS (SELECT 1 FROM site_to_index WHERE blog_id = NEW.blog_id AND post_id = CAST(SUBSTR(NEW.key, 6) AS INTEGER));
END;

-- Words that readers searched for and did not find, by day.
CREATE TABLE not_found (
    blog_id INTEGER NOT NULL,
    day INTEGER NOT NULL,
    words TEXT NOT NULL,
    times INTEGER NOT NULL,
    PRIMARY KEY (blog_id, words, day)
) STRICT, WITHOUT ROWID;

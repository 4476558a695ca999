-- Pages of lists had numbers in their addresses, counted from the oldest post. Each keeps its oldest post, so that the address redirects
-- to the page on which that post stands now.
CREATE TABLE numbered_page (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    list TEXT NOT NULL,
    number INTEGER NOT NULL,
    goes_out INTEGER NOT NULL,
    post_id INTEGER NOT NULL,
    PRIMARY KEY (blog_id, list, number)
) STRICT, WITHOUT ROWID;
CREATE INDEX numbered_page_place ON numbered_page (blog_id, list, goes_out, post_id);

INSERT INTO numbered_page (blog_id, list, number, goes_out, post_id)
    SELECT blog_id, list, place / size + 1, goes_out, post_id
    FROM (
        SELECT listing.blog_id, list, listing.goes_out, listing.post_id, blog.posts_on_page AS size,
            ROW_NUMBER() OVER (PARTITION BY listing.blog_id, list ORDER BY listing.goes_out, listing.post_id) - 1 AS place,
            COUNT(*) OVER (PARTITION BY listing.blog_id, list) AS posts
        FROM listing
        JOIN blog ON blog.id = listing.blog_id
        JOIN (SELECT blog_id, MAX(instant) AS instant FROM edition GROUP BY blog_id) AS latest ON latest.blog_id = listing.blog_id
        WHERE shows_from <= latest.instant AND shows_until > latest.instant AND audience = 'everyone'
            AND list NOT IN ('all', 'top') AND list NOT LIKE 'under:%'
    )
    WHERE place % size = 0 AND place < posts - size;

-- Of what an edition changed: files of pictures, sound and the design, and addresses that redirect. The rest are pages.
ALTER TABLE edition ADD COLUMN files INTEGER NOT NULL DEFAULT 0;
ALTER TABLE edition ADD COLUMN addresses INTEGER NOT NULL DEFAULT 0;
CREATE TEMP TABLE changed AS
    SELECT blog_id, number, SUM(kind IN ('media', 'card', 'asset')) AS files, SUM(kind IN ('short', 'former')) AS addresses
    FROM (
        SELECT DISTINCT blog_id, key, SUBSTR(key, 1, INSTR(key, '/') - 1) AS kind, from_edition AS number FROM edition_page
        UNION
        SELECT blog_id, key, SUBSTR(key, 1, INSTR(key, '/') - 1), to_edition FROM edition_page WHERE to_edition IS NOT NULL
    )
    GROUP BY blog_id, number;
UPDATE edition SET files = changed.files, addresses = changed.addresses
    FROM changed WHERE changed.blog_id = edition.blog_id AND changed.number = edition.number;
DROP TABLE changed;

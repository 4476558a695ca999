-- What of a house was given to readers, part by part (core/house.py): from shows_from on, until another row of its blog and part begins. The value is JSON.
CREATE TABLE house_given (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    part TEXT NOT NULL,
    shows_from INTEGER NOT NULL,
    value TEXT NOT NULL,
    given_by INTEGER REFERENCES person (id) ON DELETE SET NULL,
    given_at INTEGER NOT NULL,
    why TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX house_given_of_blog ON house_given (blog_id, part, shows_from, id);
INSERT INTO house_given (blog_id, part, shows_from, value, given_by, given_at, why)
    SELECT blog_id, 'look', shows_from, value, given_by, given_at, why FROM look ORDER BY id;
DROP TABLE look;

-- What the people of a blog try of it, which no reader gets.
CREATE TABLE house_tried (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    part TEXT NOT NULL,
    value TEXT NOT NULL,
    tried_by INTEGER REFERENCES person (id) ON DELETE SET NULL,
    PRIMARY KEY (blog_id, part)
) STRICT, WITHOUT ROWID;
INSERT INTO house_tried (blog_id, part, value, tried_by) SELECT id, 'look', tried_look, tried_by FROM blog WHERE tried_look <> '';
ALTER TABLE blog DROP COLUMN tried_look;
ALTER TABLE blog DROP COLUMN tried_by;

-- The menu is a value of the house; it led to the categories and posts that were marked so.
INSERT INTO house_given (blog_id, part, shows_from, value, given_by, given_at, why)
    SELECT blog.id, 'menu', 0, JSON_OBJECT('menu', (
        SELECT JSON_GROUP_ARRAY(JSON_OBJECT('to', target)) FROM (
            SELECT target FROM (
                SELECT 0 AS rank, 0 AS place, 0 AS number, 'newest' AS target
                UNION ALL SELECT 1, position, category.id, 'category:' || category.id FROM category WHERE category.blog_id = blog.id AND category.in_menu = 1
                UNION ALL SELECT 2, 0, post.id, 'post:' || post.id FROM post WHERE post.blog_id = blog.id AND (post.in_menu = 1
                    OR EXISTS (SELECT 1 FROM placement WHERE placement.post_id = post.id AND placement.in_menu = 1 AND shows_from < shows_until))
                UNION ALL SELECT 3, 0, 0, 'subjects' UNION ALL SELECT 3, 1, 0, 'archive' UNION ALL SELECT 3, 2, 0, 'feed'
            ) ORDER BY rank, place, number
        )
    )), NULL, blog.made_at, ''
    FROM blog WHERE EXISTS (SELECT 1 FROM category WHERE category.blog_id = blog.id AND category.in_menu = 1)
        OR EXISTS (SELECT 1 FROM post WHERE post.blog_id = blog.id AND post.in_menu = 1);
DROP INDEX placement_menu;
DROP INDEX placement_in_menu;
ALTER TABLE category DROP COLUMN in_menu;
ALTER TABLE post DROP COLUMN in_menu;
ALTER TABLE placement DROP COLUMN in_menu;

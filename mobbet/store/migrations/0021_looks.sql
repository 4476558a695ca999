-- How a site looks, as it was given to readers: from shows_from on, until another row of its blog begins. The value is JSON (docs/look.md).
CREATE TABLE look (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    shows_from INTEGER NOT NULL,
    value TEXT NOT NULL,
    given_by INTEGER REFERENCES person (id) ON DELETE SET NULL,
    given_at INTEGER NOT NULL,
    why TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX look_of_blog ON look (blog_id, shows_from, id);

-- What the people of a blog try, which no reader gets; '' for nothing.
ALTER TABLE blog ADD COLUMN tried_look TEXT NOT NULL DEFAULT '';
ALTER TABLE blog ADD COLUMN tried_by INTEGER REFERENCES person (id) ON DELETE SET NULL;

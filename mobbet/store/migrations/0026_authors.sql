-- Profiles: the last part of the address of an author's page, a line and links (a JSON list) beside the text; a picture of each blog's library.
ALTER TABLE person ADD COLUMN author_slug TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN author_line TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN author_links TEXT NOT NULL DEFAULT '[]';
ALTER TABLE membership ADD COLUMN picture INTEGER REFERENCES media (id) ON DELETE SET NULL;
UPDATE person SET author_slug = CASE
    WHEN name <> '' AND name NOT GLOB '*[^A-Za-z ]*' AND NOT EXISTS (SELECT 1 FROM person AS other WHERE other.id < person.id AND LOWER(other.name) = LOWER(person.name))
    THEN LOWER(REPLACE(TRIM(name), ' ', '-')) ELSE 'person-' || id END;
CREATE UNIQUE INDEX person_author_slug ON person (author_slug);

-- What an author wrote is a list like any other.
INSERT INTO listing (blog_id, list, goes_out, post_id, shows_from, shows_until, placement_id, audience)
    SELECT listing.blog_id, 'author:' || author_id, listing.goes_out, listing.post_id, listing.shows_from, listing.shows_until, placement_id, listing.audience
    FROM listing JOIN placement ON placement.id = placement_id WHERE list = 'all';

-- The language that dates on screens are in, as a code of CLDR ('' for Mobbet's own English), and the keys that somebody prefers, as JSON.
ALTER TABLE person ADD COLUMN date_language TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN own_keys TEXT NOT NULL DEFAULT '{}';

-- The profile of a contributor as readers of a blog see it: what an editor let stand there last. It holds while they are no more than a
-- contributor there, and after they were taken out.
CREATE TABLE shown_profile (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    shown_name TEXT NOT NULL,
    shown_line TEXT NOT NULL DEFAULT '',
    shown_text TEXT NOT NULL DEFAULT '',
    shown_links TEXT NOT NULL DEFAULT '[]',
    shown_address TEXT NOT NULL DEFAULT '',
    shown_picture INTEGER REFERENCES media (id) ON DELETE SET NULL,
    PRIMARY KEY (person_id, blog_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX shown_profile_picture ON shown_profile (blog_id) WHERE shown_picture IS NOT NULL;

INSERT INTO shown_profile (blog_id, person_id, shown_name, shown_line, shown_text, shown_links, shown_address, shown_picture)
SELECT blog_id, person_id, name, author_line, profile, author_links, web_address, picture FROM membership JOIN person ON person.id = person_id WHERE role = 'contributor';

-- Whoever comes as a contributor is shown by their name alone until an editor says more; whoever becomes one stays as they were shown.
CREATE TRIGGER membership_contributes AFTER INSERT ON membership WHEN NEW.role = 'contributor'
BEGIN
    INSERT INTO shown_profile (blog_id, person_id, shown_name) SELECT NEW.blog_id, id, name FROM person WHERE id = NEW.person_id
        AND NOT EXISTS (SELECT 1 FROM shown_profile WHERE blog_id = NEW.blog_id AND person_id = NEW.person_id);
END;
CREATE TRIGGER membership_contributes_now AFTER UPDATE OF role ON membership WHEN NEW.role = 'contributor' AND OLD.role <> 'contributor'
BEGIN
    DELETE FROM shown_profile WHERE blog_id = NEW.blog_id AND person_id = NEW.person_id;
    INSERT INTO shown_profile (blog_id, person_id, shown_name, shown_line, shown_text, shown_links, shown_address, shown_picture)
    SELECT NEW.blog_id, id, name, author_line, profile, author_links, web_address, NEW.picture FROM person WHERE id = NEW.person_id;
END;

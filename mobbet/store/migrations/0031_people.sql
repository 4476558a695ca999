-- Contributors, and colleagues who are suspended on one blog.
CREATE TABLE membership_now (
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    role TEXT NOT NULL CHECK (role IN ('owner', 'editor', 'writer', 'contributor')),
    picture INTEGER REFERENCES media (id) ON DELETE SET NULL,
    joined_at INTEGER NOT NULL DEFAULT 0,
    suspended_at INTEGER,
    PRIMARY KEY (blog_id, person_id)
) STRICT, WITHOUT ROWID;
INSERT INTO membership_now (blog_id, person_id, role, picture) SELECT blog_id, person_id, role, picture FROM membership;
DROP TABLE membership;
ALTER TABLE membership_now RENAME TO membership;
CREATE INDEX membership_person ON membership (person_id, blog_id);

-- What a blog has otherwise than the table of rights, as JSON (core/rights.py, HouseRights).
ALTER TABLE blog ADD COLUMN rights TEXT NOT NULL DEFAULT '{}';

-- When somebody was last here.
ALTER TABLE person ADD COLUMN seen_at INTEGER NOT NULL DEFAULT 0;
UPDATE person SET seen_at = IFNULL((SELECT MAX(used_at) FROM session WHERE person_id = person.id), 0);

-- An invitation to work on blogs, good once and for a while. What ended it ('' while it waits): taken, withdrawn.
CREATE TABLE invitation (
    id INTEGER PRIMARY KEY,
    token_hash TEXT NOT NULL UNIQUE,
    email TEXT NOT NULL COLLATE NOCASE,
    invited_by INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    made_at INTEGER NOT NULL,
    ends_at INTEGER NOT NULL,
    ended TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE TABLE invitation_role (
    invitation_id INTEGER NOT NULL REFERENCES invitation (id) ON DELETE CASCADE,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    role TEXT NOT NULL,
    PRIMARY KEY (invitation_id, blog_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX invitation_role_blog ON invitation_role (blog_id);

-- A letter with a link that is for its recipient alone; the list of letters to readers leaves it out.
ALTER TABLE letter ADD COLUMN is_private INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invitation ADD COLUMN letter_id INTEGER REFERENCES letter (id) ON DELETE SET NULL;

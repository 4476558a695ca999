-- What was asked and said about a post's going out: asked (of one colleague, or of any editor), yes, back, taken-back. The newest row of a post holds.
-- A yes keeps the revision, the readers and the categories it was given for, and which changes it outlasts.
CREATE TABLE decision (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    asked_of INTEGER REFERENCES person (id),
    revision INTEGER NOT NULL,
    visibility TEXT NOT NULL,
    categories TEXT NOT NULL,
    outlasts TEXT NOT NULL DEFAULT '',
    remark TEXT NOT NULL DEFAULT '',
    decided_at INTEGER NOT NULL
) STRICT;
CREATE INDEX decision_post ON decision (post_id, id);
CREATE INDEX decision_blog ON decision (blog_id, id);

-- A post that is given to somebody to write, with the day by which it is wanted.
ALTER TABLE post ADD COLUMN wanted_by TEXT NOT NULL DEFAULT '';
ALTER TABLE post ADD COLUMN given_by INTEGER NOT NULL DEFAULT 0;

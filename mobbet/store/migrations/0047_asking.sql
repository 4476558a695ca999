-- What readers answered to the questions of a post: `answers` is JSON [[question, answer], ...]. Of a poll, `voter` is a hash of the network and agent, so that
-- each votes once; '' for a form, which takes any number.
CREATE TABLE answer (
    id INTEGER PRIMARY KEY,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    post_id INTEGER NOT NULL REFERENCES post (id) ON DELETE CASCADE,
    form TEXT NOT NULL,
    title TEXT NOT NULL,
    person_id INTEGER REFERENCES person (id) ON DELETE SET NULL,
    voter TEXT NOT NULL DEFAULT '',
    network TEXT NOT NULL DEFAULT '',
    answers TEXT NOT NULL,
    made_at INTEGER NOT NULL
) STRICT;
CREATE INDEX answer_form ON answer (post_id, form, id);
CREATE INDEX answer_blog ON answer (blog_id, id);
CREATE UNIQUE INDEX answer_voter ON answer (post_id, form, voter) WHERE voter <> '';

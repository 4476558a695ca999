-- Other programs that write: codes that a program exchanges for a token, and the tokens.
CREATE TABLE program_code (
    code_hash TEXT PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    client TEXT NOT NULL,
    redirect TEXT NOT NULL,
    scopes TEXT NOT NULL,
    challenge TEXT NOT NULL,
    over_at INTEGER NOT NULL,
    token_id INTEGER
) STRICT;
CREATE TABLE program_token (
    id INTEGER PRIMARY KEY,
    token_hash TEXT NOT NULL UNIQUE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    blog_id INTEGER NOT NULL REFERENCES blog (id) ON DELETE CASCADE,
    client TEXT NOT NULL,
    scopes TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    used_at INTEGER NOT NULL
) STRICT;
CREATE INDEX program_token_person ON program_token (person_id);

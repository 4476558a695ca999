-- A second factor: a secret for one-time codes, sealed; the time step of the last code that was taken, since none is good twice; and whether the password
-- is one that is long enough only beside a second factor.
ALTER TABLE person ADD COLUMN code_secret TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN code_step INTEGER NOT NULL DEFAULT 0;
ALTER TABLE person ADD COLUMN has_short_password INTEGER NOT NULL DEFAULT 0;

-- Passkeys (Web Authentication): the credential, its public key and its count of signatures.
CREATE TABLE passkey (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    credential TEXT NOT NULL UNIQUE,
    public_key TEXT NOT NULL,
    signatures INTEGER NOT NULL,
    label TEXT NOT NULL,
    added_at INTEGER NOT NULL,
    last_used INTEGER NOT NULL
) STRICT;
CREATE INDEX passkey_person ON passkey (person_id);

-- Recovery codes, each good once.
CREATE TABLE recovery_code (
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    code_hash TEXT NOT NULL,
    PRIMARY KEY (person_id, code_hash)
) STRICT, WITHOUT ROWID;

-- What a browser was asked for and has not answered yet: a code after a password (`sign-in`), or the answer of a passkey to a challenge.
CREATE TABLE asked_of_browser (
    token_hash TEXT PRIMARY KEY,
    what TEXT NOT NULL,
    person_id INTEGER REFERENCES person (id) ON DELETE CASCADE,
    challenge TEXT NOT NULL DEFAULT '',
    over_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- Links of letters, each good once: another password (`password`), an address that is confirmed (`address`, with the new one).
CREATE TABLE account_link (
    token_hash TEXT PRIMARY KEY,
    what TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    new_address TEXT NOT NULL DEFAULT '',
    over_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- Which browser a session is of, from where it began, and when its person proved last who they are.
ALTER TABLE session ADD COLUMN browser TEXT NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN begun_from TEXT NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN proved_at INTEGER NOT NULL DEFAULT 0;

-- The roles that must have a second factor on a blog, as a JSON list.
ALTER TABLE blog ADD COLUMN factor_roles TEXT NOT NULL DEFAULT '[]';

"""People, their sessions, and their failed attempts to sign in."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Person:
    """Somebody with an account: who works on blogs, or only reads. `password_hash` is None for those who come in by letters."""

    id: int
    email: str
    name: str
    profile: str
    password_hash: str | None
    made_at: int
    suspended_at: int | None = None
    theme: str = ""
    web_address: str = ""
    author_slug: str = ""
    author_line: str = ""
    author_links: str = "[]"
    seen_at: int = 0
    code_secret: str = ""
    """The secret of one-time codes, sealed; '' for none."""
    code_step: int = 0
    has_short_password: int = 0
    date_language: str = ""
    own_keys: str = "{}"

    @property
    def initials(self) -> str:
        words = self.name.split() or [self.email]
        return "".join(word[0] for word in (words[0], *words[1:][-1:])).upper()


def _person(row: Row) -> Person:
    return Person(**data_of(row))


def add(
    db: Database, *, email: str, name: str, profile: str, password_hash: str | None, made_at: int, slug: str
) -> Person:
    return existing(maybe(_person, db.one(
        "INSERT INTO person (email, name, profile, password_hash, made_at, author_slug) VALUES (?, ?, ?, ?, ?, ?) RETURNING *",
        email, name, profile, password_hash, made_at, slug,
    )))  # fmt: skip


def by_id(db: Database, person_id: int) -> Person | None:
    return maybe(_person, db.one("SELECT * FROM person WHERE id = ?", person_id))


def by_email(db: Database, email: str) -> Person | None:
    return maybe(_person, db.one("SELECT * FROM person WHERE email = ?", email))


def by_name(db: Database, blog_id: int, name: str) -> Person | None:
    """The member of a blog with that name or e-mail address, in any case."""
    return maybe(_person, db.one(
        "SELECT person.* FROM person JOIN membership ON person_id = person.id"
        " WHERE blog_id = ? AND (FOLD(name) = FOLD(?) OR email = ?)",
        blog_id, name, name,
    ))  # fmt: skip


@dataclass(frozen=True)
class Member:
    """Somebody who works on a blog, with what is in their hands there: drafts, and posts in the timetable."""

    person: Person
    role: str
    suspended_at: int | None
    drafts: int
    coming: int
    out: int


def members(db: Database, blog_id: int, now: int) -> list[Member]:
    """Everybody who works on a blog, also who is suspended there, by name; what is for its author alone is counted for nobody."""
    counts = {
        row[0]: row[1:]
        for row in db.tuples(
            "SELECT author_id, SUM(placed_until IS NULL OR placed_until <= ?), SUM(placed_for > ? AND placed_until > ?), SUM(placed_for <= ? AND placed_until > ?)"
            " FROM post WHERE blog_id = ? AND aside_at IS NULL AND is_template = 0 AND visibility <> 'only-me' GROUP BY author_id",
            now, now, now, now, now, blog_id,
        )
    }  # fmt: skip
    rows = db.all(
        "SELECT person.*, role AS member_role, membership.suspended_at AS member_suspended_at FROM membership JOIN person ON person.id = person_id"
        " WHERE blog_id = ? ORDER BY FOLD(name), person.id",
        blog_id,
    )
    found = []
    for row in rows:
        values = data_of(row)
        role, suspended = values.pop("member_role"), values.pop("member_suspended_at")
        drafts, coming, out = (number or 0 for number in counts.get(values["id"], (0, 0, 0)))
        found.append(Member(Person(**values), role, suspended, drafts, coming, out))
    return found


def member(db: Database, blog_id: int, person_id: int) -> Member | None:
    """Somebody who works on a blog, suspended or not, without what is in their hands; None for anybody else."""
    row = db.one(
        "SELECT role, suspended_at FROM membership WHERE blog_id = ? AND person_id = ?", blog_id, person_id
    )
    return Member(existing(by_id(db, person_id)), row[0], row[1], 0, 0, 0) if row else None


def of_blog(db: Database, blog_id: int) -> list[Person]:
    """Those who work on a blog and are not suspended there."""
    return [
        _person(row)
        for row in db.all(
            "SELECT person.* FROM person JOIN membership ON person_id = person.id WHERE blog_id = ? AND membership.suspended_at IS NULL ORDER BY person.id",
            blog_id,
        )
    ]


def is_any(db: Database) -> bool:
    """True once the first person exists."""
    return db.value("SELECT EXISTS (SELECT 1 FROM person)") == 1


def set_password(db: Database, person_id: int, password_hash: str) -> None:
    db.run("UPDATE person SET password_hash = ? WHERE id = ?", password_hash, person_id)


def set_name(db: Database, person_id: int, name: str) -> None:
    db.run("UPDATE person SET name = ? WHERE id = ?", name, person_id)


def set_suspended(db: Database, person_id: int, instant: int | None) -> None:
    """Lets a person sign in no more, or again."""
    db.run("UPDATE person SET suspended_at = ? WHERE id = ?", instant, person_id)


def set_web_address(db: Database, person_id: int, address: str) -> None:
    """Where a person stands on the web; '' for nowhere."""
    db.run("UPDATE person SET web_address = ? WHERE id = ?", address, person_id)


def set_profile(db: Database, person_id: int, name: str, line: str, profile: str, links: str) -> None:
    """How readers see somebody: the name, a line, a text, and links as a JSON list."""
    db.run(
        "UPDATE person SET name = ?, author_line = ?, profile = ?, author_links = ? WHERE id = ?",
        name,
        line,
        profile,
        links,
        person_id,
    )


def set_picture(db: Database, blog_id: int, person_id: int, media_id: int | None) -> None:
    """The picture of a blog's library that somebody is shown by there."""
    db.run(
        "UPDATE membership SET picture = ? WHERE blog_id = ? AND person_id = ?", media_id, blog_id, person_id
    )


def picture(db: Database, blog_id: int, person_id: int) -> int | None:
    return db.value("SELECT picture FROM membership WHERE blog_id = ? AND person_id = ?", blog_id, person_id)


def with_slug(db: Database, slug: str) -> int | None:
    """The person with that slug, which no other has."""
    return db.value("SELECT id FROM person WHERE author_slug = ?", slug)


def set_theme(db: Database, person_id: int, theme: str) -> None:
    """Light, dark, or '' for as the device has it."""
    db.run("UPDATE person SET theme = ? WHERE id = ?", theme, person_id)


def set_date_language(db: Database, person_id: int, language: str) -> None:
    """The language of dates on somebody's screens; '' for English."""
    db.run("UPDATE person SET date_language = ? WHERE id = ?", language, person_id)


def set_own_keys(db: Database, person_id: int, keys: str) -> None:
    """The keys that somebody prefers, as JSON."""
    db.run("UPDATE person SET own_keys = ? WHERE id = ?", keys, person_id)


def every(db: Database) -> list[Person]:
    """Everybody who works on a blog, or may sign in, by number; readers are left out."""
    return [
        _person(row)
        for row in db.all(
            "SELECT * FROM person WHERE password_hash IS NOT NULL OR EXISTS (SELECT 1 FROM membership WHERE person_id = person.id) ORDER BY id"
        )
    ]


def begin_session(
    db: Database, token_hash: str, person_id: int, begun_at: int, ends_at: int, blog_id: int | None, idle: int
) -> None:
    """A session from now up to an instant, that ends before when it was not used for `idle` seconds."""
    db.run("DELETE FROM session WHERE ends_at <= ? OR used_at <= ?", begun_at, begun_at - idle)
    db.run(
        "INSERT INTO session (token_hash, person_id, begun_at, ends_at, blog_id, used_at) VALUES (?, ?, ?, ?, ?, ?)",
        token_hash,
        person_id,
        begun_at,
        ends_at,
        blog_id,
        begun_at,
    )
    db.run("UPDATE person SET seen_at = ? WHERE id = ?", begun_at, person_id)


def of_session(
    db: Database, token_hash: str, now: int, blog_id: int | None, idle: int
) -> tuple[Person, int] | None:
    """(whose session it is, when it was last used); with a blog, one for reading that blog, otherwise one for all of Mobbet. None for nobody."""
    row = db.one(
        "SELECT person.*, used_at FROM session JOIN person ON person.id = person_id"
        " WHERE token_hash = ? AND ends_at > ? AND used_at > ? AND blog_id IS ? AND suspended_at IS NULL",
        token_hash, now, now - idle, blog_id,
    )  # fmt: skip
    if row is None:
        return None
    values = data_of(row)
    used_at = values.pop("used_at")
    return Person(**values), used_at


def use_session(db: Database, token_hash: str, now: int) -> None:
    """Notes that a session is in use, and that its person is here."""
    db.run("UPDATE session SET used_at = ? WHERE token_hash = ?", now, token_hash)
    db.run(
        "UPDATE person SET seen_at = ? WHERE id = (SELECT person_id FROM session WHERE token_hash = ?)",
        now,
        token_hash,
    )


def end_session(db: Database, token_hash: str) -> None:
    db.run("DELETE FROM session WHERE token_hash = ?", token_hash)


def end_sessions(db: Database, person_id: int) -> None:
    """Ends every session of a person, and forgets their devices."""
    db.run("DELETE FROM session WHERE person_id = ?", person_id)
    db.run("DELETE FROM device WHERE person_id = ?", person_id)


def end_other_sessions(db: Database, person_id: int, token_hash: str) -> None:
    db.run("DELETE FROM session WHERE person_id = ? AND token_hash <> ?", person_id, token_hash)


MOST_DEVICES = 20


def add_device(db: Database, person_id: int, token_hash: str, now: int) -> None:
    """A browser in which a person signed in; of each person the last few are known."""
    db.run(
        "INSERT OR REPLACE INTO device (token_hash, person_id, seen_at) VALUES (?, ?, ?)",
        token_hash,
        person_id,
        now,
    )
    db.run(
        "DELETE FROM device WHERE person_id = ? AND token_hash NOT IN (SELECT token_hash FROM device WHERE person_id = ? ORDER BY seen_at DESC LIMIT ?)",
        person_id,
        person_id,
        MOST_DEVICES,
    )


def count_devices(db: Database, person_id: int) -> int:
    """In how many browsers a person is known to have signed in."""
    return db.value("SELECT COUNT(*) FROM device WHERE person_id = ?", person_id)


def is_device_of(db: Database, person_id: int, token_hash: str) -> bool:
    return (
        db.value("SELECT 1 FROM device WHERE token_hash = ? AND person_id = ?", token_hash, person_id)
        is not None
    )


def add_try(db: Database, key: str, at: int) -> None:
    db.run("INSERT INTO signin_failure (who, at) VALUES (?, ?)", key, at)


def tries(db: Database, key: str, since: int) -> tuple[int, int]:
    """How many tries since then, and when the last one was (0 without any)."""
    row = existing(
        db.one("SELECT COUNT(*), IFNULL(MAX(at), 0) FROM signin_failure WHERE who = ? AND at > ?", key, since)
    )
    return row[0], row[1]


def forget_tries(db: Database, key: str) -> None:
    db.run("DELETE FROM signin_failure WHERE who = ?", key)


def forget_tries_before(db: Database, instant: int) -> None:
    """Forgets what counts no more; a few at a time, so that no try waits for it."""
    db.run(
        "DELETE FROM signin_failure WHERE rowid IN (SELECT rowid FROM signin_failure WHERE at <= ? LIMIT 200)",
        instant,
    )

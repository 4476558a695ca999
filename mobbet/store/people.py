"""People, their sessions, and their failures at signing in."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of


@dataclass(frozen=True)
class Person:
    id: int
    email: str
    name: str
    profile: str
    password_hash: str | None
    made_at: int

    @property
    def initials(self) -> str:
        words = self.name.split() or [self.email]
        return "".join(word[0] for word in (words[0], *words[1:][-1:])).upper()


def _person(row: Row | None) -> Person | None:
    return Person(**data_of(row)) if row else None


def add(db: Database, *, email: str, name: str, profile: str, password_hash: str | None, made_at: int) -> Person:
    return _person(db.one(
        "INSERT INTO person (email, name, profile, password_hash, made_at) VALUES (?, ?, ?, ?, ?) RETURNING *",
        email, name, profile, password_hash, made_at,
    ))  # fmt: skip


def by_id(db: Database, person_id: int) -> Person | None:
    return _person(db.one("SELECT * FROM person WHERE id = ?", person_id))


def by_email(db: Database, email: str) -> Person | None:
    return _person(db.one("SELECT * FROM person WHERE email = ?", email))


def by_name(db: Database, blog_id: int, name: str) -> Person | None:
    """The member of a blog with that name or e-mail address, in any case."""
    return _person(db.one(
        "SELECT person.* FROM person JOIN membership ON person_id = person.id"
        " WHERE blog_id = ? AND (LOWER(name) = LOWER(?) OR email = ?)",
        blog_id, name, name,
    ))  # fmt: skip


def of_blog(db: Database, blog_id: int) -> list[Person]:
    return [
        _person(row)
        for row in db.all(
            "SELECT person.* FROM person JOIN membership ON person_id = person.id WHERE blog_id = ? ORDER BY person.id", blog_id
        )
    ]


def is_any(db: Database) -> bool:
    """True once the first person exists."""
    return db.value("SELECT EXISTS (SELECT 1 FROM person)") == 1


def set_password(db: Database, person_id: int, password_hash: str) -> None:
    db.run("UPDATE person SET password_hash = ? WHERE id = ?", password_hash, person_id)


def begin_session(db: Database, token_hash: str, person_id: int, begun_at: int, ends_at: int, blog_id: int | None) -> None:
    db.run("DELETE FROM session WHERE ends_at <= ?", begun_at)
    db.run("INSERT INTO session VALUES (?, ?, ?, ?, ?)", token_hash, person_id, begun_at, ends_at, blog_id)


def of_session(db: Database, token_hash: str, now: int, blog_id: int | None) -> Person | None:
    """Whose session it is; with a blog, one for reading that blog, otherwise one for all of Mobbet."""
    return _person(db.one(
        "SELECT person.* FROM session JOIN person ON person.id = person_id WHERE token_hash = ? AND ends_at > ? AND blog_id IS ?",
        token_hash, now, blog_id,
    ))  # fmt: skip


def end_session(db: Database, token_hash: str) -> None:
    db.run("DELETE FROM session WHERE token_hash = ?", token_hash)


def end_other_sessions(db: Database, person_id: int, token_hash: str) -> None:
    db.run("DELETE FROM session WHERE person_id = ? AND token_hash <> ?", person_id, token_hash)


def add_failure(db: Database, who: str, at: int) -> None:
    db.run("INSERT INTO signin_failure (who, at) VALUES (?, ?)", who, at)


def failures(db: Database, who: str, since: int) -> tuple[int, int]:
    """How many failures since then, and when the last one was (0 without any)."""
    row = db.one("SELECT COUNT(*), IFNULL(MAX(at), 0) FROM signin_failure WHERE who = ? AND at > ?", who, since)
    return row[0], row[1]


def forget_failures(db: Database, who: str, before: int) -> None:
    """Forgets the failures of one address, and everyone's from before that time."""
    db.run("DELETE FROM signin_failure WHERE who = ? OR at <= ?", who, before)

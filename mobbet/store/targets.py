"""Places outside, and what is known to be there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Target:
    """A place outside: its address, the edition it has whole, how far the sending is, and what went wrong last."""

    id: int
    blog_id: int
    address: str
    made_at: int
    edition: int
    sent_at: int | None
    checked_at: int | None
    tries: int
    next_try: int
    done: int
    wanted: int
    problem: str
    credentials: str = ""


def _target(row: Row) -> Target:
    return Target(**data_of(row))


def of_blog(db: Database, blog_id: int) -> list[Target]:
    return [_target(row) for row in db.all("SELECT * FROM target WHERE blog_id = ? ORDER BY id", blog_id)]


def every(db: Database) -> list[Target]:
    return [_target(row) for row in db.all("SELECT * FROM target ORDER BY id")]


def by_id(db: Database, number: int) -> Target | None:
    return maybe(_target, db.one("SELECT * FROM target WHERE id = ?", number))


def add(db: Database, blog_id: int, address: str, now: int) -> int:
    return db.value(
        "INSERT INTO target (blog_id, address, made_at) VALUES (?, ?, ?) RETURNING id", blog_id, address, now
    )


def set_credentials(db: Database, number: int, sealed: str) -> None:
    """Keeps what a place asks for, sealed."""
    db.run("UPDATE target SET credentials = ? WHERE id = ?", sealed, number)


def find(db: Database, blog_id: int, address: str) -> Target | None:
    return maybe(_target, db.one("SELECT * FROM target WHERE blog_id = ? AND address = ?", blog_id, address))


def remove(db: Database, number: int) -> None:
    db.run("DELETE FROM target WHERE id = ?", number)


class Lying(NamedTuple):
    """A file at a target: the hash of what it was made of, '' where it is not known what lies there (it was on its way, or was altered);
    and its fingerprint there, '' of one that an older Mobbet sent.
    """

    hash: str
    fingerprint: str = ""


def files(db: Database, number: int) -> dict[str, Lying]:
    """{name: what lies there} of a target."""
    return {
        row[0]: Lying(*row[1:])
        for row in db.tuples("SELECT path, hash, fingerprint FROM target_file WHERE target_id = ?", number)
    }


def count_files(db: Database, number: int) -> int:
    """How many files are known to lie at a target as they should."""
    return db.value("SELECT COUNT(*) FROM target_file WHERE target_id = ? AND hash <> ''", number)


def set_files(db: Database, number: int, put: dict[str, Lying], removed: list[str]) -> None:
    """Notes files that were sent, and names that were removed."""
    db.run_many(
        "INSERT OR REPLACE INTO target_file VALUES (?, ?, ?, ?)",
        [(number, name, *lying) for name, lying in put.items()],
    )
    db.run_many(
        "DELETE FROM target_file WHERE target_id = ? AND path = ?", [(number, name) for name in removed]
    )


def set_progress(db: Database, number: int, done: int, wanted: int) -> None:
    db.run("UPDATE target SET done = ?, wanted = ? WHERE id = ?", done, wanted, number)


def set_sent(db: Database, number: int, edition: int, now: int) -> None:
    db.run(
        "UPDATE target SET edition = ?, sent_at = ?, tries = 0, next_try = 0, problem = '' WHERE id = ?",
        edition,
        now,
        number,
    )


def set_failed(db: Database, number: int, problem: str, next_try: int) -> None:
    db.run(
        "UPDATE target SET problem = ?, tries = tries + 1, next_try = ? WHERE id = ?",
        problem,
        next_try,
        number,
    )


def set_checked(db: Database, number: int, now: int) -> None:
    db.run("UPDATE target SET checked_at = ? WHERE id = ?", now, number)


def set_behind(db: Database, number: int) -> None:
    """What lies there is not what was sent: it is sent again."""
    db.run("UPDATE target SET edition = 0, next_try = 0, done = 0, wanted = 0 WHERE id = ?", number)


def try_now(db: Database, number: int) -> None:
    db.run("UPDATE target SET next_try = 0 WHERE id = ?", number)

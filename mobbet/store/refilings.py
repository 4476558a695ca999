"""Changes of the filing that can be undone."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class Refiling:
    """One change: what it was in words, and what stood before as JSON."""

    id: int
    blog_id: int
    person_id: int
    words: str
    before: str
    made_at: int
    undone_at: int | None


def add(db: Database, blog_id: int, person_id: int, words: str, before: str, now: int) -> int:
    return db.value(
        "INSERT INTO refiling (blog_id, person_id, words, before, made_at) VALUES (?, ?, ?, ?, ?) RETURNING id", blog_id, person_id, words, before, now
    )


def by_id(db: Database, blog_id: int, number: int) -> Refiling | None:
    row = db.one("SELECT * FROM refiling WHERE blog_id = ? AND id = ?", blog_id, number)
    return Refiling(**dict(row)) if row else None


def newest(db: Database, blog_id: int) -> int | None:
    """The last change that is not undone."""
    return db.value("SELECT MAX(id) FROM refiling WHERE blog_id = ? AND undone_at IS NULL", blog_id)


def set_undone(db: Database, number: int, now: int) -> None:
    db.run("UPDATE refiling SET undone_at = ? WHERE id = ?", now, number)

"""Changes that can be undone: of the filing, of posts, of the timetable."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Change:
    """One change: what it was in words, and what stood before as JSON."""

    id: int
    blog_id: int
    person_id: int
    words: str
    before: str
    made_at: int
    undone_at: int | None
    kind: str = "filing"


def add(
    db: Database, blog_id: int, person_id: int, words: str, before: str, now: int, kind: str = "filing"
) -> int:
    return db.value(
        "INSERT INTO change (blog_id, person_id, words, before, made_at, kind) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id, person_id, words, before, now, kind,
    )  # fmt: skip


def by_id(db: Database, blog_id: int, number: int, kind: str = "filing") -> Change | None:
    row = db.one("SELECT * FROM change WHERE blog_id = ? AND id = ? AND kind = ?", blog_id, number, kind)
    return Change(**data_of(row)) if row else None


def newest(db: Database, blog_id: int, kind: str = "filing") -> int | None:
    """The last change of a kind that is not undone."""
    return db.value(
        "SELECT MAX(id) FROM change WHERE blog_id = ? AND kind = ? AND undone_at IS NULL", blog_id, kind
    )


def set_undone(db: Database, number: int, now: int) -> None:
    db.run("UPDATE change SET undone_at = ? WHERE id = ?", now, number)

"""The revisions of a post: who saved what, and when."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class RevisionRow:
    """One kept revision. `is_placed` when readers get, got or will get it; `name` is '' without one."""

    number: int
    person: str
    begun_at: int
    saved_at: int
    words: int
    name: str
    is_placed: bool


def of_post(db: Database, post_id: int) -> list[RevisionRow]:
    """The revisions of a post, newest first."""
    rows = db.all(
        "SELECT number, person.name AS person, begun_at, saved_at, words, revision.name,"
        " EXISTS (SELECT 1 FROM placement WHERE placement.post_id = revision.post_id AND placement.revision = number) AS is_placed"
        " FROM revision JOIN person ON person.id = person_id WHERE post_id = ? ORDER BY number DESC",
        post_id,
    )
    return [RevisionRow(**{**data_of(row), "is_placed": bool(row["is_placed"])}) for row in rows]


def set_name(db: Database, post_id: int, number: int, name: str) -> None:
    db.run("UPDATE revision SET name = ? WHERE post_id = ? AND number = ?", name, post_id, number)

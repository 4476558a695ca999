"""Ideas: a title with a line, until they become drafts."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Idea:
    """What somebody meant to write about."""

    id: int
    title: str
    line: str
    person: str
    noted_at: int


def of_blog(db: Database, blog_id: int, most: int) -> list[Idea]:
    """The newest ideas of a blog first."""
    rows = db.all(
        "SELECT idea.id, title, line, person.name AS person, noted_at FROM idea JOIN person ON person.id = person_id WHERE blog_id = ? ORDER BY noted_at DESC, idea.id DESC LIMIT ?",
        blog_id,
        most,
    )
    return [Idea(**data_of(row)) for row in rows]


def by_id(db: Database, blog_id: int, number: int) -> Idea | None:
    row = db.one(
        "SELECT idea.id, title, line, person.name AS person, noted_at FROM idea JOIN person ON person.id = person_id WHERE blog_id = ? AND idea.id = ?",
        blog_id,
        number,
    )
    return Idea(**data_of(row)) if row else None


def note(db: Database, blog_id: int, person_id: int, title: str, line: str, now: int) -> int:
    """Adds an idea; answers its number."""
    return db.value(
        "INSERT INTO idea (blog_id, person_id, title, line, noted_at) VALUES (?, ?, ?, ?, ?) RETURNING id",
        blog_id,
        person_id,
        title,
        line,
        now,
    )


def drop(db: Database, blog_id: int, number: int) -> None:
    db.run("DELETE FROM idea WHERE id = ? AND blog_id = ?", number, blog_id)

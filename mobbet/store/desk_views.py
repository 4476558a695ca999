"""Filters of the desk that somebody kept under a name."""

from __future__ import annotations

from mobbet.store.database import Database


def of(db: Database, blog_id: int, person_id: int) -> list[tuple[int, str, str]]:
    """(number, name, query) of what a person kept for a blog, by name."""
    rows = db.all(
        "SELECT id, name, query FROM desk_view WHERE blog_id = ? AND person_id = ? ORDER BY name COLLATE NOCASE",
        blog_id,
        person_id,
    )
    return [tuple(row) for row in rows]


def keep(db: Database, blog_id: int, person_id: int, name: str, query: str) -> None:
    """Keeps a filter under a name, in the place of another of that name."""
    db.run(
        "INSERT INTO desk_view (blog_id, person_id, name, query) VALUES (?, ?, ?, ?) ON CONFLICT (blog_id, person_id, name) DO UPDATE SET query = excluded.query",
        blog_id, person_id, name, query,
    )  # fmt: skip


def forget(db: Database, person_id: int, number: int) -> None:
    db.run("DELETE FROM desk_view WHERE id = ? AND person_id = ?", number, person_id)

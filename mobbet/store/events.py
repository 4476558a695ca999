"""A counter of changes for each blog, for open windows."""

from __future__ import annotations

from mobbet.store.database import Database


def add(db: Database, blog_id: int) -> None:
    db.run(
        "INSERT INTO blog_event (blog_id, number) VALUES (?, 1) ON CONFLICT DO UPDATE SET number = number + 1",
        blog_id,
    )


def number(db: Database, blog_id: int) -> int:
    """The number of the last change of a blog; 0 before the first."""
    return db.value("SELECT number FROM blog_event WHERE blog_id = ?", blog_id) or 0

"""Blogs whose site stands at an edition that was put back, so that nothing goes out by itself."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database

ASKS, WAITS = "asks", "waits"


@dataclass(frozen=True)
class Hold:
    """The edition that was put back, whether the desk asks when something is due (`way`), and since when."""

    edition: int
    way: str
    since: int


def of_blog(db: Database, blog_id: int) -> Hold | None:
    row = db.one("SELECT edition, way, since FROM hold WHERE blog_id = ?", blog_id)
    return Hold(*row) if row else None


def begin(db: Database, blog_id: int, hold: Hold) -> None:
    """Begins a hold, or changes the one there is."""
    db.run(
        "INSERT INTO hold VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET edition = excluded.edition, way = excluded.way, since = excluded.since",
        blog_id, hold.edition, hold.way, hold.since,
    )  # fmt: skip


def end(db: Database, blog_id: int) -> None:
    db.run("DELETE FROM hold WHERE blog_id = ?", blog_id)

"""Days of the timetable that somebody marked: holidays, sessions."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class MarkedDays:
    """One or more days in a row, as ISO dates, with what they are; `skips` when slots do not come on them."""

    id: int
    blog_id: int
    first: str
    last: str
    words: str
    skips: int


def of_blog(db: Database, blog_id: int, first: str = "", last: str = "9999") -> list[MarkedDays]:
    """Those that touch a stretch of days, in order."""
    rows = db.all(
        "SELECT * FROM marked_day WHERE blog_id = ? AND last >= ? AND first <= ? ORDER BY first, last, id",
        blog_id,
        first,
        last,
    )
    return [MarkedDays(**data_of(row)) for row in rows]


def add(db: Database, blog_id: int, first: str, last: str, words: str, skips: bool) -> bool:
    """Marks days, once; False where they were marked so already."""
    done = db.run(
        "INSERT INTO marked_day (blog_id, first, last, words, skips) SELECT ?, ?, ?, ?, ?"
        " WHERE NOT EXISTS (SELECT 1 FROM marked_day WHERE blog_id = ? AND first = ? AND last = ? AND words = ?)",
        blog_id, first, last, words, int(skips), blog_id, first, last, words,
    )  # fmt: skip
    return done.rowcount > 0


def remove(db: Database, blog_id: int, number: int) -> bool:
    return db.run("DELETE FROM marked_day WHERE blog_id = ? AND id = ?", blog_id, number).rowcount > 0

"""The pages of lists whose addresses had a number, counted from the oldest post: which post stood first on each."""

from __future__ import annotations

from mobbet.core.division import Place
from mobbet.core.keys import ListName
from mobbet.store.database import Database


def place(db: Database, blog_id: int, name: ListName, number: int) -> Place | None:
    """Where the oldest post of that page stood; None for a page that never was."""
    row = db.one(
        "SELECT goes_out, post_id FROM numbered_page WHERE blog_id = ? AND list = ? AND number = ?",
        blog_id, name, number,
    )  # fmt: skip
    return (row[0], row[1]) if row else None


def numbers(
    db: Database, blog_id: int, name: ListName, first: Place | None = None, last: Place | None = None
) -> list[int]:
    """The numbers of a list's pages; with both ends given, of those whose oldest post stood between them."""
    low, high = first or (-(1 << 62), 0), last or (1 << 62, 0)
    rows = db.all(
        "SELECT number FROM numbered_page WHERE blog_id = ? AND list = ? AND (goes_out, post_id) >= (?, ?) AND (goes_out, post_id) <= (?, ?)"
        " ORDER BY number",
        blog_id, name, *low, *high,
    )  # fmt: skip
    return [row[0] for row in rows]


def of_list(db: Database, blog_id: int, name: ListName) -> list[tuple[int, Place]]:
    """(number, where the oldest post of that page stood) of each page of a list."""
    rows = db.all(
        "SELECT number, goes_out, post_id FROM numbered_page WHERE blog_id = ? AND list = ? ORDER BY number",
        blog_id,
        name,
    )
    return [(row[0], (row[1], row[2])) for row in rows]

"""Posts that were given to somebody to write, with the day by which they are wanted."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Assignment:
    """A draft that its author was given: by whom, and the day (ISO 8601) by which it is wanted, '' for none."""

    post_id: int
    title: str
    wanted_by: str
    given_by: int


def give(db: Database, post_id: int, wanted_by: str, given_by: int) -> None:
    """Notes who gave a post to its author, and by when it is wanted."""
    db.run("UPDATE post SET wanted_by = ?, given_by = ? WHERE id = ?", wanted_by, given_by, post_id)


def of_person(db: Database, blog_id: int, person_id: int, most: int) -> list[Assignment]:
    """What somebody was given and has in hand, the soonest wanted first."""
    return [
        Assignment(**data_of(row))
        for row in db.all(
            "SELECT id AS post_id, title, wanted_by, given_by FROM post WHERE blog_id = ? AND author_id = ? AND given_by <> 0 AND placed_until IS NULL AND aside_at IS NULL"
            " ORDER BY wanted_by = '', wanted_by, id LIMIT ?",
            blog_id, person_id, most,
        )
    ]  # fmt: skip

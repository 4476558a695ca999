"""Looks of blogs: those given to readers, each from an instant on, and the one that is tried."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Given:
    """A look that readers get from an instant on; `value` is JSON."""

    id: int
    blog_id: int
    shows_from: int
    value: str
    given_by: int | None
    given_at: int
    why: str


def _given(row: Row) -> Given:
    return Given(**data_of(row))


def given_at(db: Database, blog_id: int, instant: int) -> Given | None:
    """The look that readers get at an instant; None where none was ever given."""
    return maybe(
        _given,
        db.one(
            "SELECT * FROM look WHERE blog_id = ? AND shows_from <= ? ORDER BY shows_from DESC, id DESC LIMIT 1",
            blog_id,
            instant,
        ),
    )


def every_given(db: Database, blog_id: int, most: int) -> list[Given]:
    """The looks that were given, the newest first."""
    rows = db.all(
        "SELECT * FROM look WHERE blog_id = ? ORDER BY shows_from DESC, id DESC LIMIT ?", blog_id, most
    )
    return [_given(row) for row in rows]


def give(db: Database, blog_id: int, value: str, person_id: int, now: int, why: str) -> None:
    """Readers get a look from now on."""
    db.run(
        "INSERT INTO look (blog_id, shows_from, value, given_by, given_at, why) VALUES (?, ?, ?, ?, ?, ?)",
        blog_id, now, value, person_id, now, why,
    )  # fmt: skip


def set_tried(db: Database, blog_id: int, value: str, person_id: int | None) -> None:
    """Has a look tried, or none with ''."""
    db.run("UPDATE blog SET tried_look = ?, tried_by = ? WHERE id = ?", value, person_id, blog_id)

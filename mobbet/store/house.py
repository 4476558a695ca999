"""The house of a blog, part by part: what was given to readers, each value from an instant on, and what is tried."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Given:
    """A value of a part that readers get from an instant on; `value` is JSON."""

    id: int
    blog_id: int
    part: str
    shows_from: int
    value: str
    given_by: int | None
    given_at: int
    why: str


def _given(row: Row) -> Given:
    return Given(**data_of(row))


def given_at(db: Database, blog_id: int, part: str, instant: int) -> Given | None:
    """What readers get of a part at an instant; None where nothing was ever given."""
    return maybe(
        _given,
        db.one(
            "SELECT * FROM house_given WHERE blog_id = ? AND part = ? AND shows_from <= ? ORDER BY shows_from DESC, id DESC LIMIT 1",
            blog_id,
            part,
            instant,
        ),
    )


def every_given(db: Database, blog_id: int, part: str, most: int) -> list[Given]:
    """What was given of a part, the newest first."""
    rows = db.all(
        "SELECT * FROM house_given WHERE blog_id = ? AND part = ? ORDER BY shows_from DESC, id DESC LIMIT ?",
        blog_id,
        part,
        most,
    )
    return [_given(row) for row in rows]


def give(
    db: Database, blog_id: int, part: str, value: str, person_id: int | None, now: int, why: str
) -> None:
    """Readers get a value of a part from now on."""
    db.run(
        "INSERT INTO house_given (blog_id, part, shows_from, value, given_by, given_at, why) VALUES (?, ?, ?, ?, ?, ?, ?)",
        blog_id, part, now, value, person_id, now, why,
    )  # fmt: skip


def set_moments(db: Database, blog_id: int, part: str, instants: Iterable[int]) -> None:
    """Keeps the instants at which a part that was given changes by itself."""
    db.run("DELETE FROM house_moment WHERE blog_id = ? AND part = ?", blog_id, part)
    db.run_many(
        "INSERT INTO house_moment (blog_id, at, part) VALUES (?, ?, ?)",
        [(blog_id, at, part) for at in sorted(set(instants))],
    )


def tried(db: Database, blog_id: int, part: str) -> str:
    """What is tried of a part; '' for nothing."""
    return db.value("SELECT value FROM house_tried WHERE blog_id = ? AND part = ?", blog_id, part) or ""


def every_tried(db: Database, blog_id: int) -> dict[str, str]:
    """{part: value} of what is tried."""
    return {
        row[0]: row[1] for row in db.all("SELECT part, value FROM house_tried WHERE blog_id = ?", blog_id)
    }


def set_tried(db: Database, blog_id: int, part: str, value: str, person_id: int | None) -> None:
    """Has a value of a part tried, or none with ''."""
    if not value:
        db.run("DELETE FROM house_tried WHERE blog_id = ? AND part = ?", blog_id, part)
        return
    db.run(
        "INSERT OR REPLACE INTO house_tried (blog_id, part, value, tried_by) VALUES (?, ?, ?, ?)",
        blog_id,
        part,
        value,
        person_id,
    )

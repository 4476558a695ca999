"""Blocks kept under a name, to be put into posts as a copy or shown there as standing copy."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Kept:
    """Blocks under a name; `version` grows with every change."""

    id: int
    blog_id: int
    name: str
    body: str
    version: int
    changed_by: int
    changed_at: int
    removed_at: int | None
    added_by: int = 0


def _kept(row: Row) -> Kept:
    return Kept(**data_of(row))


def add(db: Database, blog_id: int, name: str, body: str, person_id: int, now: int) -> Kept:
    return existing(maybe(_kept, db.one(
        "INSERT INTO kept (blog_id, name, body, changed_by, changed_at, added_by) VALUES (?, ?, ?, ?, ?, ?) RETURNING *", blog_id, name, body, person_id, now, person_id
    )))  # fmt: skip


def change(db: Database, number: int, name: str, body: str, person_id: int, now: int) -> None:
    """Changes name and blocks of what is kept; the version grows, which every page that shows it reads."""
    db.run(
        "UPDATE kept SET name = ?, body = ?, version = version + 1, changed_by = ?, changed_at = ? WHERE id = ?",
        name,
        body,
        person_id,
        now,
        number,
    )


def remove(db: Database, number: int, now: int) -> None:
    """Takes it from the list; posts that show it as standing copy keep its last text."""
    db.run("UPDATE kept SET removed_at = ? WHERE id = ?", now, number)


def by_id(db: Database, blog_id: int, number: int) -> Kept | None:
    return maybe(_kept, db.one("SELECT * FROM kept WHERE id = ? AND blog_id = ?", number, blog_id))


def by_name(db: Database, blog_id: int, name: str) -> Kept | None:
    return maybe(
        _kept,
        db.one("SELECT * FROM kept WHERE blog_id = ? AND name = ? AND removed_at IS NULL", blog_id, name),
    )


def every(db: Database, blog_id: int) -> list[Kept]:
    """What is kept and not removed, by name."""
    return [
        _kept(row)
        for row in db.all(
            "SELECT * FROM kept WHERE blog_id = ? AND removed_at IS NULL ORDER BY name", blog_id
        )
    ]


def document(db: Database, blog_id: int, number: int) -> dict[str, Any] | None:
    """The blocks as a document."""
    body = db.value("SELECT body FROM kept WHERE id = ? AND blog_id = ?", number, blog_id)
    from mobbet.core.document import schema

    return schema.load(body) if body else None


def placements_of(db: Database, number: int, now: int) -> list[tuple[int, int]]:
    """(placement, post) of every placement that shows it now or will."""
    rows = db.all(
        "SELECT placement.id, placement.post_id FROM placement_kept JOIN placement ON placement.id = placement_id"
        " WHERE kept_id = ? AND shows_until > ? AND shows_from < shows_until ORDER BY placement.post_id",
        number, now,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def posts_showing(db: Database, blog_id: int, number: int) -> list[int]:
    """The posts whose working text shows it as standing copy."""
    sign = f'"copy":{number}}}'
    rows = db.all(
        "SELECT post.id FROM post JOIN revision ON post_id = post.id AND number = post.revision"
        " WHERE blog_id = ? AND aside_at IS NULL AND instr(body, ?) > 0 ORDER BY post.id",
        blog_id, sign,
    )  # fmt: skip
    return [row[0] for row in rows]

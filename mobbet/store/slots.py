"""Slots of a blog, and the queue of finished posts that fills them."""

from __future__ import annotations

import json

from mobbet.core.slots import Slot
from mobbet.store.database import Database


def of_blog(db: Database, blog_id: int) -> list[Slot]:
    """The slots of a blog in the order they were made."""
    rows = db.all("SELECT rule, time, starts, excepted, id FROM slot WHERE blog_id = ? ORDER BY id", blog_id)
    return [Slot(row[0], row[1], row[2], tuple(json.loads(row[3])), row[4]) for row in rows]


def add(db: Database, blog_id: int, slot: Slot, now: int) -> int:
    return db.value(
        "INSERT INTO slot (blog_id, rule, time, starts, excepted, made_at) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id, slot.rule, slot.time, slot.starts, json.dumps(slot.excepted), now,
    )  # fmt: skip


def set_excepted(db: Database, number: int, excepted: tuple[str, ...]) -> None:
    db.run("UPDATE slot SET excepted = ? WHERE id = ?", json.dumps(excepted), number)


def remove(db: Database, blog_id: int, number: int) -> bool:
    return db.run("DELETE FROM slot WHERE blog_id = ? AND id = ?", blog_id, number).rowcount > 0


def queue(db: Database, blog_id: int) -> list[int]:
    """The posts of the queue, the first to go out first."""
    return [
        row[0]
        for row in db.all("SELECT post_id FROM queued WHERE blog_id = ? ORDER BY position, post_id", blog_id)
    ]


def set_queue(db: Database, blog_id: int, post_ids: list[int]) -> None:
    db.run("DELETE FROM queued WHERE blog_id = ?", blog_id)
    db.run_many(
        "INSERT INTO queued (post_id, blog_id, position) VALUES (?, ?, ?)",
        [(number, blog_id, at) for at, number in enumerate(post_ids)],
    )


def is_queued(db: Database, post_id: int) -> bool:
    return db.value("SELECT 1 FROM queued WHERE post_id = ?", post_id) is not None


def to_come(db: Database, blog_id: int, after: int, most: int = 2000) -> list[tuple[int, int, str]]:
    """(instant, post, title) of the posts that go out for the first time after an instant, in order."""
    rows = db.all(
        f"SELECT goes_out, placement.post_id, {db.title('placement.post_id', 'title')} FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND shows_from > ? AND goes_out > ? AND shows_from < shows_until ORDER BY goes_out, placement.post_id LIMIT ?",
        blog_id, after, after, most,
    )  # fmt: skip
    return [tuple(row) for row in rows]

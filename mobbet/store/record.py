"""The record of who did what; rows are added, never changed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of

NO_BLOG_DAYS = 30
"""For how many days rows are kept that belong to no blog, such as tries to sign in; the trigger `record_is_kept` has the same number."""


@dataclass(frozen=True)
class Entry:
    """One row: when, what (a key of `core/record.KINDS`), who, on which blog and post, and from where."""

    id: int
    at: int
    kind: str
    actor_id: int | None
    actor: str
    on_blog: int | None
    on_post: int | None
    subject: str
    detail: str
    origin: str


def _entry(row: Row) -> Entry:
    return Entry(**data_of(row))


def add(db: Database, row: Entry) -> None:
    db.run(
        "INSERT INTO record (at, kind, actor_id, actor, on_blog, on_post, subject, detail, origin) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        row.at, row.kind, row.actor_id, row.actor, row.on_blog, row.on_post, row.subject, row.detail, row.origin,
    )  # fmt: skip


def of_blog(
    db: Database,
    blog_id: int,
    kinds: Iterable[str] = (),
    actor_id: int = 0,
    since: int = 0,
    before: int = 2**62,
    most: int = 100,
) -> list[Entry]:
    """The newest rows of a blog, of some kinds alone and of one person where they are named, older than a row."""
    kinds = list(kinds)
    marks = ", ".join("?" * len(kinds))
    return [
        _entry(row)
        for row in db.all(
            "SELECT * FROM record WHERE on_blog = ? AND id < ? AND at >= ?"
            + (f" AND kind IN ({marks})" if kinds else "")
            + (" AND actor_id = ?" if actor_id else "")
            + " ORDER BY id DESC LIMIT ?",
            blog_id, before, since, *kinds, *([actor_id] if actor_id else []), most,
        )
    ]  # fmt: skip


def of_post(db: Database, post_id: int, most: int) -> list[Entry]:
    """What happened with a post, the newest first."""
    return [
        _entry(row)
        for row in db.all("SELECT * FROM record WHERE on_post = ? ORDER BY id DESC LIMIT ?", post_id, most)
    ]


def since(db: Database, instant: int, after: int, most: int) -> list[Entry]:
    """Rows of the whole data folder from an instant on, the oldest first, after a row."""
    return [
        _entry(row)
        for row in db.all(
            "SELECT * FROM record WHERE at >= ? AND id > ? ORDER BY id LIMIT ?", instant, after, most
        )
    ]


def forget_old(db: Database, most: int) -> int:
    """Removes rows that are older than their blog keeps them, seen from the newest row; answers with how many."""
    return db.run(
        "DELETE FROM record WHERE id IN (SELECT record.id FROM record LEFT JOIN blog ON blog.id = on_blog"
        f" WHERE at <= (SELECT MAX(at) FROM record) - 86400 * IFNULL(record_days, {NO_BLOG_DAYS}) LIMIT ?)",
        most,
    ).rowcount  # fmt: skip

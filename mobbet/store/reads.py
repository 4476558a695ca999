"""How often posts were read, month by month."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class OldAndRead:
    """A post that is out, when it last went out or was updated, and how often it was read lately."""

    id: int
    title: str
    since: int
    count: int


def add(db: Database, found: Mapping[tuple[int, int], int]) -> None:
    """Adds {(post, month): how often it was read} to what was read in those months. Posts that are gone are left out."""
    db.run_many(
        "INSERT INTO reads (post_id, month, count) SELECT id, ?, ? FROM post WHERE id = ?"
        " ON CONFLICT (post_id, month) DO UPDATE SET count = count + excluded.count",
        [(month, times, post) for (post, month), times in sorted(found.items())],
    )


def old_and_read(
    db: Database, blog_id: int, month: int, before: int, now: int, least: int, most: int
) -> list[OldAndRead]:
    """Posts read at least so often since a month that are out unchanged since before an instant, and that nobody looked at since; the most read first."""
    rows = db.all(
        "WITH much AS MATERIALIZED (SELECT post_id, SUM(count) AS total FROM reads WHERE month >= ? GROUP BY post_id HAVING total >= ?)"
        " SELECT post.id, post.title, placement.shows_from AS since, total AS count FROM much JOIN post ON post.id = much.post_id"
        " JOIN placement ON placement.post_id = post.id AND shows_from <= ? AND shows_until > ? WHERE post.blog_id = ? AND shows_from < ? AND looked_at < ?"
        f" AND {db.sees()}"
        " ORDER BY total DESC, post.id LIMIT ?",
        month, least, now, now, blog_id, before, before, most,
    )  # fmt: skip
    return [OldAndRead(**data_of(row)) for row in rows]


def count_most_read(db: Database, blog_id: int, month: int, now: int, most: int) -> bool:
    """Keeps which posts that are out were read most since a month, the most read first; answers whether they are others, or in another order."""
    before = most_read(db, blog_id)
    rows = db.column(
        "SELECT reads.post_id FROM reads JOIN placement ON placement.post_id = reads.post_id AND shows_from <= ? AND shows_until > ?"
        " WHERE reads.month >= ? AND placement.blog_id = ? AND placement.kind = '' GROUP BY reads.post_id ORDER BY SUM(reads.count) DESC, reads.post_id LIMIT ?",
        now, now, month, blog_id, most,
    )  # fmt: skip
    if rows == before:
        return False
    db.run("DELETE FROM most_read WHERE blog_id = ?", blog_id)
    db.run_many(
        "INSERT INTO most_read (blog_id, position, post_id) VALUES (?, ?, ?)",
        [(blog_id, position, post_id) for position, post_id in enumerate(rows)],
    )
    return True


def most_read(db: Database, blog_id: int) -> list[int]:
    """The posts that were read most when they were last counted, the most read first."""
    return db.column("SELECT post_id FROM most_read WHERE blog_id = ? ORDER BY position", blog_id)


def set_looked(db: Database, post_id: int, now: int) -> None:
    """Notes that somebody looked at a post again."""
    db.run("UPDATE post SET looked_at = ? WHERE id = ?", now, post_id)

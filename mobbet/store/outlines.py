"""Questions about many posts at once: where they stand, and what leads to them."""

from __future__ import annotations

import json
from collections.abc import Iterable

from mobbet.store import filed
from mobbet.store.database import Database
from mobbet.store.filed import Filed


def shown(db: Database, post_ids: Iterable[int], instant: int) -> dict[int, Filed]:
    """{post: what shows of it at an instant} of those that are out, for whatever audience."""
    return {row.post_id: row for row in filed.of_posts(db, post_ids) if row.shows_from <= instant < row.shows_until}


def order(db: Database, blog_id: int, name: str, instant: int, audiences: Iterable[str]) -> list[int]:
    """The posts of a list from the oldest on."""
    return db.numbers(
        "SELECT post_id AS number FROM listing WHERE blog_id = :blog AND list = :list AND shows_from <= :instant AND shows_until > :instant"
        " AND audience IN (SELECT value FROM JSON_EACH(:audiences)) ORDER BY goes_out, post_id",
        {"blog": blog_id, "list": name, "instant": instant, "audiences": json.dumps(list(audiences))},
    )


def times(db: Database, post_ids: Iterable[int], instant: int) -> dict[int, int]:
    """{post: when it went out} of those that are out."""
    rows = db.all(
        "SELECT post_id, goes_out FROM placement WHERE post_id IN (SELECT value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ? ORDER BY id",
        json.dumps(list(post_ids)), instant, instant,
    )  # fmt: skip
    return dict(map(tuple, rows))


def addresses(db: Database, post_ids: Iterable[int], instant: int) -> dict[int, set[str]]:
    """{post: every address it has had up to an instant}."""
    rows = db.all("SELECT owner, path FROM address WHERE kind = 'post' AND owner IN (SELECT value FROM JSON_EACH(?)) AND since <= ?", json.dumps(list(post_ids)), instant)
    found: dict[int, set[str]] = {}
    for owner, path in rows:
        found.setdefault(owner, set()).add(path)
    return found


def linking_to(db: Database, post_ids: Iterable[int], instant: int) -> list[tuple[int, int]]:
    """(post that is out, post of these that its text leads to)."""
    rows = db.all(
        "SELECT DISTINCT placement.post_id, placement_link.post_id FROM placement_link JOIN placement ON placement.id = placement_id"
        " WHERE placement_link.post_id IN (SELECT value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ?",
        json.dumps(list(post_ids)), instant, instant,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def leading_on(db: Database, blog_id: int) -> bool:
    """Whether a post of a blog leads to another one when it comes down."""
    return db.value("SELECT 1 FROM placement WHERE leads_to IS NOT NULL AND blog_id = ? LIMIT 1", blog_id) is not None


def series(db: Database, placement_ids: Iterable[int]) -> list[int]:
    """The series that these placements are parts of."""
    return db.column(
        "SELECT DISTINCT series_id FROM placement WHERE series_id IS NOT NULL AND id IN (SELECT value FROM JSON_EACH(?)) ORDER BY series_id", json.dumps(list(placement_ids))
    )

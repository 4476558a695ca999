"""Queries over many posts at once: where they are, and what links to them."""

from __future__ import annotations

import json
from collections.abc import Iterable

from mobbet.store import filed
from mobbet.store.database import Database
from mobbet.store.filed import FiledPlacement


def shown(db: Database, post_ids: Iterable[int], instant: int) -> dict[int, FiledPlacement]:
    """{post: what shows of it at an instant} of those that are out, for whatever audience."""
    return {
        row.post_id: row
        for row in filed.of_posts(db, post_ids)
        if row.shows_from <= instant < row.shows_until
    }


def order(db: Database, blog_id: int, name: str, instant: int, audiences: tuple[str, ...]) -> list[int]:
    """The posts of a list from the oldest on."""
    readers = {f"audience{at}": audience for at, audience in enumerate(audiences)}
    return db.numbers(
        "SELECT post_id AS number FROM listing WHERE blog_id = :blog AND list = :list AND shows_from <= :instant AND shows_until > :instant"
        f" AND audience IN ({', '.join(f':{name}' for name in readers)}) ORDER BY goes_out, post_id",
        {"blog": blog_id, "list": name, "instant": instant, **readers},
    )


def times(db: Database, post_ids: Iterable[int], instant: int) -> dict[int, int]:
    """{post: when it went out} of those that are out."""
    rows = db.tuples(
        "SELECT post_id, goes_out FROM placement WHERE post_id IN (SELECT value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ? ORDER BY id",
        json.dumps(list(post_ids)), instant, instant,
    )  # fmt: skip
    return dict(rows)


def paths(db: Database, post_ids: Iterable[int], instant: int) -> list[tuple[int, str]]:
    """(post, its address) of those that are out."""
    return db.tuples(
        "SELECT post_id, path FROM placement WHERE post_id IN (SELECT value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ? ORDER BY id",
        json.dumps(list(post_ids)), instant, instant,
    )  # fmt: skip


def addresses(db: Database, post_ids: Iterable[int], instant: int) -> list[tuple[int, str]]:
    """(post, address) of every address that these posts have had up to an instant."""
    return db.tuples(
        "SELECT owner, path FROM address WHERE kind = 'post' AND owner IN (SELECT value FROM JSON_EACH(?)) AND since <= ?",
        json.dumps(list(post_ids)),
        instant,
    )


def linking_to(db: Database, post_ids: Iterable[int], instant: int) -> list[tuple[int, int]]:
    """(post that is out, post of these that its text leads to)."""
    return db.tuples(
        "SELECT DISTINCT placement.post_id, placement_link.post_id FROM placement_link JOIN placement ON placement.id = placement_id"
        " WHERE placement_link.post_id IN (SELECT value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ?",
        json.dumps(list(post_ids)), instant, instant,
    )  # fmt: skip


def leading_on(db: Database, blog_id: int) -> bool:
    """Whether a post of a blog leads to another one when it comes down."""
    return (
        db.value(
            "SELECT 1 FROM placement INDEXED BY placement_leads_to WHERE leads_to IS NOT NULL AND blog_id = ? LIMIT 1",
            blog_id,
        )
        is not None
    )


def series(db: Database, placement_ids: Iterable[int]) -> list[int]:
    """The series that these placements are parts of."""
    return db.column(
        "SELECT DISTINCT series_id FROM placement WHERE series_id IS NOT NULL AND id IN (SELECT value FROM JSON_EACH(?)) ORDER BY series_id",
        json.dumps(list(placement_ids)),
    )

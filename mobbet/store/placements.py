"""Placements: what readers get of a post and when; the lists that follow from them; addresses."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.audience import EVERYONE
from mobbet.core.facts import list_keys
from mobbet.core.timing import month_of
from mobbet.store.database import Database, Row


@dataclass(frozen=True)
class Placement:
    """One stretch of time in which readers get one revision, with the docket as it stood."""

    id: int
    blog_id: int
    post_id: int
    revision: int
    zone: str
    goes_out_wall: str
    comes_down_wall: str | None
    goes_out: int
    comes_down: int
    shows_from: int
    shows_until: int
    path: str
    audience: str
    author_id: int
    excerpt: str
    description: str
    categories: tuple[int, ...]
    tags: tuple[int, ...]
    media: tuple[int, ...]
    placed_by: int
    placed_at: int
    series_id: int | None = None
    series_position: int = 0
    links: tuple[int, ...] = ()
    kept: tuple[int, ...] = ()
    lead_media: int | None = None


_LISTS = ("categories", "tags", "media", "links", "kept")


def _placement(row: Row | None) -> Placement | None:
    if row is None:
        return None
    values = dict(row)
    return Placement(**{**values, **{name: tuple(json.loads(values[name])) for name in _LISTS}})


def add(db: Database, placement: Placement, categories_with_parents: tuple[int, ...]) -> int:
    """Adds a placement (its id is ignored), its lists, its address, and returns its id."""
    values = {**placement.__dict__, **{name: json.dumps(getattr(placement, name)) for name in _LISTS}}
    del values["id"]
    columns = ", ".join(values)
    marks = ", ".join("?" * len(values))
    number = db.value(f"INSERT INTO placement ({columns}) VALUES ({marks}) RETURNING id", *values.values())
    db.run_many("INSERT INTO placement_media VALUES (?, ?)", [(media_id, number) for media_id in placement.media])
    db.run_many("INSERT INTO placement_link VALUES (?, ?)", [(post_id, number) for post_id in placement.links])
    db.run_many("INSERT INTO placement_kept VALUES (?, ?)", [(kept_id, number) for kept_id in placement.kept])
    if placement.shows_from < placement.shows_until:
        db.run(
            "INSERT INTO address VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET since = MIN(since, excluded.since)",
            placement.blog_id, placement.path, placement.post_id, placement.shows_from,
        )  # fmt: skip
    db.run_many(_ADD_LISTING, listing_rows(number, placement, categories_with_parents))
    return number


_ADD_LISTING = "INSERT INTO listing (blog_id, list, goes_out, post_id, shows_from, shows_until, placement_id) VALUES (?, ?, ?, ?, ?, ?, ?)"


def listing_rows(number: int, placement: Placement, categories_with_parents: tuple[int, ...]) -> list[tuple]:
    """The rows of `listing` that follow from a placement: none unless everyone may read it."""
    if placement.audience != EVERYONE or placement.shows_from >= placement.shows_until:
        return []
    keys = list_keys(categories_with_parents, placement.tags, month_of(placement.goes_out, placement.zone))
    return [
        (placement.blog_id, key, placement.goes_out, placement.post_id, placement.shows_from, placement.shows_until, number)
        for key in keys
    ]


def listings(db: Database, placement_id: int) -> list[tuple]:
    """The kept rows of `listing` of a placement, to be compared with `listing_rows`."""
    return [
        tuple(row)
        for row in db.all(
            "SELECT blog_id, list, goes_out, post_id, shows_from, shows_until, placement_id FROM listing WHERE placement_id = ?", placement_id
        )
    ]


def end(db: Database, placement_id: int, instant: int) -> None:
    """Ends a placement: from that instant on readers do not get it (never, if it had not begun)."""
    db.run("UPDATE placement SET shows_until = MAX(shows_from, ?) WHERE id = ?", instant, placement_id)
    db.run(
        "UPDATE listing SET shows_until = (SELECT shows_until FROM placement WHERE id = placement_id) WHERE placement_id = ?",
        placement_id,
    )
    db.run("DELETE FROM listing WHERE placement_id = ? AND shows_from >= shows_until", placement_id)


def of_post(db: Database, post_id: int) -> list[Placement]:
    """The placements of a post in the order they were made."""
    return [_placement(row) for row in db.all("SELECT * FROM placement WHERE post_id = ? ORDER BY id", post_id)]


def every(db: Database, blog_id: int) -> list[Placement]:
    return [_placement(row) for row in db.all("SELECT * FROM placement WHERE blog_id = ? ORDER BY id", blog_id)]


def body(db: Database, placement_id: int) -> str:
    """The document that a placement shows, as JSON."""
    return db.value(
        "SELECT body FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision WHERE placement.id = ?",
        placement_id,
    )


def set_mentions(db: Database, placement_id: int, media: tuple[int, ...], links: tuple[int, ...]) -> None:
    """Writes the pictures and links of a placement anew, when a standing copy in it has changed."""
    known = {row[0] for row in db.all("SELECT media.id FROM media JOIN placement USING (blog_id) WHERE placement.id = ?", placement_id)}
    media = tuple(number for number in media if number in known)
    db.run("UPDATE placement SET media = ?, links = ? WHERE id = ?", json.dumps(media), json.dumps(links), placement_id)
    db.run("DELETE FROM placement_media WHERE placement_id = ?", placement_id)
    db.run_many("INSERT INTO placement_media VALUES (?, ?)", [(number, placement_id) for number in media])
    db.run("DELETE FROM placement_link WHERE placement_id = ?", placement_id)
    db.run_many("INSERT INTO placement_link VALUES (?, ?)", [(number, placement_id) for number in links])


def address_owner(db: Database, blog_id: int, path: str) -> int | None:
    """The post to which an address belongs, for ever."""
    return db.value("SELECT post_id FROM address WHERE blog_id = ? AND path = ?", blog_id, path)


def next_change(db: Database, blog_id: int, after: int) -> int | None:
    """The next instant after which readers get something else; None when nothing is planned."""
    return db.value(
        "SELECT MIN(instant) FROM ("
        " SELECT MIN(shows_from) AS instant FROM placement WHERE blog_id = ? AND shows_from > ? UNION ALL"
        " SELECT MIN(shows_until) FROM placement WHERE blog_id = ? AND shows_until > ?)",
        blog_id, after, blog_id, after,
    )  # fmt: skip


def turned_between(db: Database, blog_id: int, first: int, last: int) -> list[int]:
    """The posts that began or ended to be shown after `first` and up to `last`."""
    return [
        row[0]
        for row in db.all(
            "SELECT post_id FROM placement WHERE blog_id = ? AND shows_from > ? AND shows_from <= ? UNION"
            " SELECT post_id FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_until <= ?",
            blog_id, first, last, blog_id, first, last,
        )
    ]  # fmt: skip


def mark_unsettled(db: Database, blog_id: int, post_id: int) -> None:
    """Notes that the facts of a post changed, for the next edition."""
    db.run("INSERT INTO unsettled (blog_id, post_id) VALUES (?, ?)", blog_id, post_id)

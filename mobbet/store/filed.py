"""What placements are filed under and where they are, read and written for many posts at once."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Any, NamedTuple

from mobbet.core.audience import EVERYONE, LOCKED, list_audience
from mobbet.core.facts import list_keys
from mobbet.core.keys import ListName
from mobbet.core.timing import month_of
from mobbet.store import addresses
from mobbet.store.database import Database

Numbers = tuple[int, ...]


class FiledPlacement(NamedTuple):
    """As much of a placement as its lists and its address follow from."""

    id: int
    blog_id: int
    post_id: int
    zone: str
    goes_out: int
    shows_from: int
    shows_until: int
    audience: str
    listed: str
    front: str
    path: str
    slug: str
    categories: Numbers
    tags: Numbers
    kind: str
    author_id: int

    @property
    def list_audience(self) -> str | None:
        """Who finds it in lists; None for nobody, since it is a page or private."""
        return None if self.kind else list_audience(self.audience, self.listed)

    def is_for_readers(self, now: int) -> bool:
        """Whether readers get it now, or are going to."""
        return self.shows_until > now and self.shows_from < self.shows_until

    def is_filed_as(self, other: FiledPlacement) -> bool:
        """Whether its lists follow from the same facts as those of another state of the post."""
        return self is other or (self[3:10] == other[3:10] and self[12:] == other[12:])

    def filed_under(self, categories: Numbers, tags: Numbers) -> FiledPlacement:
        return self._replace(categories=categories, tags=tags)

    def living_at(self, path: str, slug: str) -> FiledPlacement:
        return self._replace(path=path, slug=slug)


_COLUMNS = ", ".join(FiledPlacement._fields)
_numbers = lru_cache(maxsize=4096)(lambda text: tuple(json.loads(text)))
_text = lru_cache(maxsize=4096)(json.dumps)


def _filed(rows: list[tuple[Any, ...]]) -> list[FiledPlacement]:
    return [FiledPlacement._make((*row[:12], *map(_numbers, row[12:14]), *row[14:])) for row in rows]


def of_posts(db: Database, post_ids: Iterable[int]) -> list[FiledPlacement]:
    """The placements of these posts, by post and in the order they were made."""
    return _filed(
        db.tuples(
            f"SELECT {_COLUMNS} FROM placement WHERE post_id IN (SELECT value FROM JSON_EACH(?)) ORDER BY post_id, id",
            json.dumps(list(post_ids)),
        )
    )


def of_numbers(db: Database, numbers: Iterable[int]) -> list[FiledPlacement]:
    """The placements of these numbers, by post."""
    return _filed(
        db.tuples(
            f"SELECT {_COLUMNS} FROM placement WHERE id IN (SELECT value FROM JSON_EACH(?)) ORDER BY post_id, id",
            json.dumps(list(numbers)),
        )
    )


def dockets(db: Database, post_ids: Iterable[int]) -> dict[int, tuple[Numbers, Numbers]]:
    """{post: (its categories, the main one first; its tags)} as their dockets have them."""
    wanted = json.dumps(list(post_ids))
    found: dict[int, tuple[list[int], list[int]]] = {post_id: ([], []) for post_id in json.loads(wanted)}
    for at, (table, column) in enumerate((("post_category", "category_id"), ("post_tag", "tag_id"))):
        for post_id, number in db.all(
            f"SELECT post_id, {column} FROM {table} WHERE post_id IN (SELECT value FROM JSON_EACH(?)) ORDER BY post_id, position",
            wanted,
        ):
            found[post_id][at].append(number)
    return {post_id: (tuple(categories), tuple(tags)) for post_id, (categories, tags) in found.items()}


def set_dockets(
    db: Database,
    before: Mapping[int, tuple[Numbers, Numbers]],
    dockets: Mapping[int, tuple[Numbers, Numbers]],
    now: int,
) -> None:
    """Writes what the dockets of posts are filed under, where it differs from what they were before."""
    for at, table in enumerate(("post_category", "post_tag")):
        new = {post_id: pair[at] for post_id, pair in dockets.items() if pair[at] != before[post_id][at]}
        db.run_many(f"DELETE FROM {table} WHERE post_id = ?", [(post_id,) for post_id in new])
        db.run_many(
            f"INSERT INTO {table} VALUES (?, ?, ?)",
            [
                (post_id, place, number)
                for post_id, numbers in new.items()
                for place, number in enumerate(numbers)
            ],
        )
    db.run_many("UPDATE post SET changed_at = ? WHERE id = ?", [(now, post_id) for post_id in dockets])


def refile(db: Database, pairs: list[tuple[FiledPlacement, FiledPlacement]]) -> None:
    """Writes what placements (as they are, as they shall be) are filed under, and where they live.

    Only what differs is written: the tables are found by category and tag, and a look for a placement would go through all of them.
    """
    moved = [new for old, new in pairs if (old.path, old.slug) != (new.path, new.slug)]
    db.run_many(
        "UPDATE placement SET path = ?, slug = ? WHERE id = ?",
        [(new.path, new.slug, new.id) for new in moved],
    )
    pairs = [(old, new) for old, new in pairs if (old.categories, old.tags) != (new.categories, new.tags)]
    db.run_many(
        "UPDATE placement SET categories = ?, tags = ? WHERE id = ?",
        [(_text(new.categories), _text(new.tags), new.id) for _, new in pairs],
    )
    for table, column, field in (
        ("placement_category", "category_id", "categories"),
        ("placement_tag", "tag_id", "tags"),
    ):
        sets = [
            (old.id, {*getattr(old, field)}, {*getattr(new, field)})
            for old, new in pairs
            if getattr(old, field) != getattr(new, field)
        ]
        db.run_many(
            f"DELETE FROM {table} WHERE {column} = ? AND placement_id = ?",
            [(number, id) for id, before, after in sets for number in before - after],
        )
        db.run_many(
            f"INSERT INTO {table} VALUES (?, ?)",
            [(number, id) for id, before, after in sets for number in after - before],
        )


def take_addresses(db: Database, rows: Iterable[FiledPlacement], now: int) -> None:
    """Gives placements that readers get, or are going to get, their addresses: their own from `now` on, or from when they begin to show."""
    addresses.take_for_posts(
        db,
        [
            (row.blog_id, row.path, row.post_id, max(now, row.shows_from))
            for row in rows
            if row.is_for_readers(now)
        ],
    )


def listing_rows(row: FiledPlacement, category_lists: tuple[ListName, ...]) -> list[tuple[Any, ...]]:
    """The rows of `listing` that follow from a placement: none for what stands in nobody's lists."""
    audience = row.list_audience
    if audience is None or row.shows_from >= row.shows_until:
        return []
    keys = list_keys(category_lists, row.tags, month_of(row.goes_out, row.zone), row.front, row.author_id)
    return [
        (row.blog_id, key, row.goes_out, row.post_id, row.shows_from, row.shows_until, row.id, audience)
        for key in keys
    ]


def listings(db: Database, numbers: Iterable[int]) -> list[tuple[Any, ...]]:
    """The kept rows of `listing` of placements, to be compared with `listing_rows`."""
    rows = db.all(
        "SELECT blog_id, list, goes_out, post_id, shows_from, shows_until, placement_id, audience FROM listing"
        " WHERE placement_id IN (SELECT value FROM JSON_EACH(?))",
        json.dumps(list(numbers)),
    )
    return [tuple(row) for row in rows]


def set_listings(db: Database, numbers: Iterable[int], wanted: Iterable[tuple[Any, ...]], now: int) -> None:
    """Writes the lists of these placements anew where they differ from the wanted rows."""
    wanted, there = set(wanted), set(listings(db, numbers))
    db.run_many(
        "DELETE FROM listing WHERE blog_id = ? AND list = ? AND goes_out = ? AND post_id = ? AND placement_id = ?",
        [(*row[:4], row[6]) for row in there - wanted],
    )
    add_listings(db, sorted(wanted - there), now)


_ADD_LISTING = "INSERT INTO listing (blog_id, list, goes_out, post_id, shows_from, shows_until, placement_id, audience) VALUES (?, ?, ?, ?, ?, ?, ?, ?)"


def restore_listings(db: Database, rows: list[tuple[Any, ...]]) -> None:
    """Adds rows of lists whose addresses are there."""
    db.run_many(_ADD_LISTING, rows)


def add_listings(db: Database, rows: list[tuple[Any, ...]], now: int) -> None:
    """Adds rows of lists. The address of a category or tag is public from when the first post that everyone may read stands on its page."""
    db.run_many(_ADD_LISTING, rows)
    opened: dict[ListName, int] = {}
    for _, name, _, _, shows_from, shows_until, _, audience in rows:
        if audience in (EVERYONE, LOCKED) and shows_until > now and name.kind in ("category", "under", "tag"):
            opened[name] = min(opened.get(name, shows_until), max(now, shows_from))
    for name, instant in opened.items():
        addresses.open_from(db, name.shown_on.kind, name.number, instant)

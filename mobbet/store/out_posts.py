"""A cache of posts that are out, for the lifetime of a snapshot; those of a list are read together."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import lru_cache
from typing import Any

import orjson

from mobbet.core.docket import SHOWN
from mobbet.core.facts import OutPost
from mobbet.core.values import made_of
from mobbet.store import profiles
from mobbet.store.database import Database, Row, data_of

MOST_POSTS = 20_000
AHEAD = 200
"""How many posts of a list are read at once, since those after one are asked for next."""


def _fixed(column: str) -> str:
    return profiles.FIXED.format(column=column, person="placement.author_id", blog="placement.blog_id")


_POST = f"""
SELECT placement.id AS number, placement.post_id AS id, placement.revision, path, audience, title, subtitle, IFNULL({_fixed("shown_name")}, person.name) AS author, IFNULL({_fixed("shown_address")}, person.web_address) AS author_address, placement.author_id,
    zone, goes_out, shows_from, categories, tags, media, links, kept, {", ".join(f"placement.{column}" for column in SHOWN)}, revision.words,
    (SELECT home_post FROM post WHERE post.id = placement.post_id) AS home_post
FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision
    JOIN person ON person.id = placement.author_id
"""
Order = list[tuple[int, int, int]]
"""A list as (goes out, post, placement) from the oldest on."""


class OutPosts:
    """The posts that placements of one data folder show."""

    def __init__(self, db: Database, front_door: Callable[[], int]) -> None:
        """`front_door` answers with the page that stands at the front; 0 for none."""
        self._db = db
        self._front_door = front_door
        self._kept: dict[int, OutPost] = {}

    def of(self, number: int) -> OutPost:
        """What the placement of that number shows; asked for once, since a post stands on many lists."""
        if number not in self._kept:
            self._make_room(1)
            self._kept[number] = self.where("WHERE placement.id = ?", number)[0]
        return self._kept[number]

    def in_order(self, order: Order, at: int) -> OutPost:
        """The post at a place of a list; those after it are read along with it."""
        if order[at][2] not in self._kept:
            missing = [number for _, _, number in order[at : at + AHEAD] if number not in self._kept]
            self._make_room(len(missing))
            rows = self._db.all(
                _POST + "WHERE placement.id IN (SELECT value FROM JSON_EACH(?))", json.dumps(missing)
            )
            self._kept.update({row["number"]: self._out(row) for row in rows})
        return self._kept[order[at][2]]

    def where(self, rest: str, *values: Any) -> list[OutPost]:
        """What those placements show that a condition in SQL chooses, in the order it gives."""
        return [self._out(row) for row in self._db.all(_POST + rest, *values)]

    def _make_room(self, count: int) -> None:
        if len(self._kept) + count > MOST_POSTS:
            self._kept.clear()

    def _out(self, row: Row) -> OutPost:
        values = data_of(row)
        del values["number"]
        values["updated"] = max(values.pop("shows_from"), values["goes_out"])
        if values["kind"] and values["id"] == self._front_door():
            values["path"] = "/"
        for name in ("categories", "tags", "media", "links"):
            values[name] = _numbers(values[name])
        values["kept"] = tuple((number, self._version(number)) for number in _numbers(values["kept"]))
        return made_of(OutPost, values)

    def _version(self, number: int) -> int:
        return self._db.value("SELECT version FROM kept WHERE id = ?", number) or 0


@lru_cache(maxsize=2048)
def _numbers(text: str) -> tuple[int, ...]:
    """Numbers written as JSON; many posts have the same, or none."""
    return tuple(orjson.loads(text))

"""What each kind of page shows of the house style, so that a change of it alters those pages alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields
from functools import lru_cache
from typing import Any

import orjson

from mobbet.core.canonical import digest
from mobbet.core.facts import House
from mobbet.core.promo_places import NOWHERE, Reach, reach_of

AROUND, POSTS, LISTS, SUBJECTS, ADDRESSES, REDIRECT, CARD, BUT_STYLE, FRONT, PROMOS, NONE = (
    "around",
    "posts",
    "lists",
    "subjects",
    "addresses",
    "redirect",
    "card",
    "but style",
    "front",
    "promos",
    "",
)
_AROUND = (
    "name",
    "tagline",
    "zone",
    "language",
    "home",
    "letters",
    "link_rules",
    "label",
    "menu",
    "foot",
    "menu_open",
    "foot_line",
    "licence",
    "front_door",
    "icon",
    "foot_categories",
    "foot_counts",
    "server",
    "counts_reads",
    "takes_subscribers",
    "me",
)
PARTS: Mapping[str, tuple[str, ...]] = {
    "whole": tuple(field.name for field in fields(House)),
    AROUND: _AROUND,
    POSTS: (*_AROUND, "frame_hosts", "made_by", "below_posts", "sharing", "share_links", "takes_mentions"),
    LISTS: (*_AROUND, "frame_hosts", "read_on", "front_shows"),
    SUBJECTS: (*_AROUND, "subject_pictures"),
    ADDRESSES: ("home", "language", "link_rules"),
    REDIRECT: ("home", "language"),
    CARD: ("name",),
    BUT_STYLE: (
        *(
            field.name
            for field in fields(House)
            if field.name not in ("look_json", "sections", "promos", "promos_most")
        ),
        "letters",
        "front_shows",
        "pictures",
        "below_posts",
    ),
    FRONT: ("sections", "front_door"),
    PROMOS: ("promos", "promos_most"),
}
"""{part: the fields of the house style}. Pages that readers open have it around their text; feeds and site maps
show its addresses; files nothing. `BUT_STYLE` is all that pages other than the style sheet show, but for the sections of the front page (`FRONT`), which that page reads,
and the rules for blocks below posts (`PROMOS`), of which each post reads those that stand below it. What else a page shows of the house style
is among the facts it reads."""


class HouseDigest(str):
    """The digests of all parts of a house style, and of Mobbet's own code, as one text that an edition keeps."""

    __slots__ = ()

    @classmethod
    def made_of(cls, house: House, version: str) -> HouseDigest:
        parts = {
            part: digest([version, *(getattr(house, name) for name in names)])[:24]
            for part, names in PARTS.items()
        }
        return cls(orjson.dumps({**parts, "reach": [*reach_of(house.promos)]}).decode())

    @property
    def reach(self) -> Reach:
        """The posts that the rules for blocks below posts may concern."""
        found: Any = _parts(str(self)).get("reach")
        return Reach(tuple(found[0]), tuple(found[1]), bool(found[2])) if found else NOWHERE

    def of(self, part: str) -> str:
        """The digest of one part; of none, ''. An edition of an older Mobbet has one digest for all of them."""
        return _parts(str(self)).get(part, str(self)) if part else ""

    def differs_in(self, part: str, other: HouseDigest) -> bool:
        return self.of(part) != other.of(part)


@lru_cache(maxsize=64)
def _parts(text: str) -> dict[str, str]:
    return dict(orjson.loads(text)) if text.startswith("{") else {}

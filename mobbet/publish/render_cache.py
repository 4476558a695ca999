"""A cache of what is rendered from one post: its card, and its text for its page.

Each stands under a digest of the facts it follows from, and names the items of the library it asked for with their versions. So it is
used only where working it out again would give the same.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, cast

import orjson

from mobbet.core.canonical import digest
from mobbet.core.facts import Item
from mobbet.store.cached import Cached


class TrackedItems:
    """Answers with items of the library, and keeps what was asked for since `begin`."""

    def __init__(self, items: Callable[[int], Item | None]) -> None:
        self._items = items
        self._asked: dict[int, int | None] = {}

    def __call__(self, number: int) -> Item | None:
        item = self._items(number)
        self._asked[number] = item.version if item else None
        return item

    def begin(self) -> None:
        self._asked = {}

    @property
    def asked(self) -> list[tuple[int, int | None]]:
        """(number, version) of the items that were asked for; the version is None of one that is unknown."""
        return list(self._asked.items())


class RenderCache:
    """The memo of one edition. `read` answers with what is kept of posts; `version` is that of the code."""

    def __init__(
        self,
        read: Callable[[Iterable[int]], dict[int, Cached]],
        items: Callable[[int], Item | None],
        version: str,
    ) -> None:
        self._read = read
        self._items = items
        self._version = version
        self._at_hand: dict[int, Cached] = {}
        self._fresh: dict[int, Cached] = {}

    def read_ahead(self, posts: list[int]) -> None:
        """Has what is kept of these posts at hand, and of no others."""
        found = self._read(posts)
        self._at_hand = {post_id: found.get(post_id) or Cached(post_id) for post_id in posts}

    def worked(
        self, what: str, post_id: int, facts: Any, items: TrackedItems, make: Callable[[], dict[str, Any]]
    ) -> dict[str, Any]:
        """What a post's 'card' or 'page' is made of: as it is kept, where it follows from the same facts, or made now with `items`, and kept."""
        row, key = self._row(post_id), digest([self._version, facts])
        value = self._unpacked(getattr(row, what)) if getattr(row, f"{what}_key") == key else None
        if value is None:
            items.begin()
            value = make()
            packed = bytes(
                memoryview(orjson.dumps([items.asked, value]))
            )  # a copy: what orjson answers with keeps several times the room it needs
            self._fresh[post_id] = self._row(post_id)._replace(
                **cast(Any, {f"{what}_key": key, what: packed})
            )
        return value

    def given_up(self) -> list[Cached]:
        """The new rows, which this memo forgets."""
        rows, self._fresh = list(self._fresh.values()), {}
        return rows

    def _row(self, post_id: int) -> Cached:
        """What is kept of a post; the last one is at hand, since its card and its page are asked for one after the other."""
        if post_id in self._fresh:
            return self._fresh[post_id]
        if post_id not in self._at_hand:
            self.read_ahead([post_id])
        return self._at_hand[post_id]

    def _unpacked(self, packed: bytes) -> dict[str, Any] | None:
        """The value, where everything it asked for is as it was."""
        asked: list[tuple[int, int | None]]
        value: dict[str, Any]
        asked, value = orjson.loads(packed)
        for number, version in asked:
            item = self._items(number)
            if (item.version if item else None) != version:
                return None
        return value

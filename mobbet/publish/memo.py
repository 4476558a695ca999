"""What earlier editions worked out of posts: cards, and texts as their pages show them.

Each stands under a digest of the facts it follows from, and names the items of the library it asked for with their versions. So it is
used only where working it out again would give the same.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Any

import orjson

from mobbet.core.canonical import digest
from mobbet.core.facts import Item
from mobbet.store.worked_out import WorkedOut


class AskedItems:
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


class Memo:
    """The memo of one edition. `read` answers with what is kept of posts; `version` is that of the code; new rows are in `fresh`."""

    def __init__(self, read: Callable[[Iterable[int]], dict[int, WorkedOut]], items: Callable[[int], Item | None], version: str) -> None:
        self._read = read
        self._items = items
        self._version = version
        self._at_hand: dict[int, WorkedOut] = {}
        self.fresh: dict[int, WorkedOut] = {}

    def read_ahead(self, posts: Iterable[int]) -> None:
        """Has what is kept of these posts at hand, and of no others."""
        found = self._read(posts)
        self._at_hand = {post_id: found.get(post_id) or WorkedOut(post_id) for post_id in posts}

    def take(self, what: str, post_id: int, facts: Any) -> dict[str, Any] | None:
        """What a post's 'card' or 'page' was made of, where it follows from the same facts; None where it is to be worked out."""
        row = self._row(post_id)
        return self._unpacked(getattr(row, what)) if getattr(row, f"{what}_key") == self._key(facts) else None

    def keep(self, what: str, post_id: int, facts: Any, asked: list[tuple[int, int | None]], value: dict[str, Any]) -> None:
        packed = bytes(memoryview(orjson.dumps([asked, value])))  # a copy: what orjson answers with keeps several times the room it needs
        self.fresh[post_id] = replace(self._row(post_id), **{f"{what}_key": self._key(facts), what: packed})

    def _row(self, post_id: int) -> WorkedOut:
        """What is kept of a post; the last one is at hand, since its card and its page are asked for one after the other."""
        if post_id in self.fresh:
            return self.fresh[post_id]
        if post_id not in self._at_hand:
            self.read_ahead([post_id])
        return self._at_hand[post_id]

    def _key(self, facts: Any) -> str:
        return digest([self._version, facts])

    def _unpacked(self, packed: bytes) -> dict[str, Any] | None:
        asked, value = orjson.loads(packed)
        for number, version in asked:
            item = self._items(number)
            if (item.version if item else None) != version:
                return None
        return value

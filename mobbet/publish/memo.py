"""What earlier editions worked out of posts: cards, and texts as their pages show them.

Each stands under a digest of the facts it follows from, and names the items of the library it asked for with their versions. So it is
used only where working it out again would give the same.
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import orjson

from mobbet.core.canonical import digest
from mobbet.core.facts import Item
from mobbet.store.worked_out import WorkedOut

QUICKLY = 1
"""The level of zlib: a third of the size, for a tenth of a millisecond."""


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
    """The memo of one edition. `read` answers with what is kept of a post; `version` is that of the code; new rows are in `fresh`."""

    def __init__(self, read: Callable[[int], WorkedOut | None], items: Callable[[int], Item | None], version: str) -> None:
        self._read = read
        self._items = items
        self._version = version
        self._last: WorkedOut | None = None
        self.fresh: dict[int, WorkedOut] = {}

    def card(self, post_id: int, facts: Any) -> dict[str, Any] | None:
        """What a card was made of, where it follows from the same facts; None where it is to be made."""
        row = self._row(post_id)
        return self._unpacked(row.card) if row.card_key == self._key(facts) else None

    def keep_card(self, post_id: int, facts: Any, asked: list[tuple[int, int | None]], value: dict[str, Any]) -> None:
        self._keep(replace(self._row(post_id), card_key=self._key(facts), card=_packed(asked, value)))

    def page(self, post_id: int, facts: Any) -> dict[str, Any] | None:
        """The same for the text of a post's page."""
        row = self._row(post_id)
        return self._unpacked(row.page) if row.page_key == self._key(facts) else None

    def keep_page(self, post_id: int, facts: Any, asked: list[tuple[int, int | None]], value: dict[str, Any]) -> None:
        self._keep(replace(self._row(post_id), page_key=self._key(facts), page=_packed(asked, value)))

    def _row(self, post_id: int) -> WorkedOut:
        """What is kept of a post; the last one is at hand, since its card and its page are asked for one after the other."""
        if post_id in self.fresh:
            return self.fresh[post_id]
        if self._last is None or self._last.post_id != post_id:
            self._last = self._read(post_id) or WorkedOut(post_id)
        return self._last

    def _keep(self, row: WorkedOut) -> None:
        self.fresh[row.post_id] = row

    def _key(self, facts: Any) -> str:
        return digest([self._version, facts])

    def _unpacked(self, packed: bytes) -> dict[str, Any] | None:
        asked, value = orjson.loads(zlib.decompress(packed))
        for number, version in asked:
            item = self._items(number)
            if (item.version if item else None) != version:
                return None
        return value


def _packed(asked: list[tuple[int, int | None]], value: dict[str, Any]) -> bytes:
    return zlib.compress(orjson.dumps([asked, value]), QUICKLY)

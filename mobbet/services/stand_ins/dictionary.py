"""A dictionary of a few given words, for tests."""

from __future__ import annotations

from collections.abc import Iterable


class FewWords:
    """Knows the words it was given, in any language."""

    def __init__(self, words: Iterable[str]) -> None:
        self._words = frozenset(words)

    def knows(self, word: str, language: str) -> bool:
        return word in self._words

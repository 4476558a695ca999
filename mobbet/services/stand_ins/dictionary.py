"""A dictionary of a few given words, for tests."""

from __future__ import annotations

from collections.abc import Iterable


class FewWords:
    """Knows the words it was given, in any language."""

    def __init__(self, words: Iterable[str]) -> None:
        self._words = frozenset(words)

    def knows(self, word: str, language: str) -> bool:
        return word in self._words

    def suggest(self, word: str, language: str) -> list[str]:
        return sorted(known for known in self._words if known[:2] == word[:2])

    def suggest_more(self, word: str, language: str) -> list[str]:
        return sorted(self._words)

    def has(self, language: str) -> bool:
        return True

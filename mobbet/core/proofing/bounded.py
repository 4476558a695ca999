"""What one reading of a text tells of unknown words, where it has more of them than anybody would settle."""

from __future__ import annotations

from collections.abc import Callable

MOST_TOLD, MOST_SUGGESTED = 1000, 150
"""Different words: so many are told of, and for so many others are offered."""


class BoundedWords:
    """Tells of the first unknown words, and suggests others for fewer; `is_spent` once there are more."""

    def __init__(self, suggests: Callable[[str, str], list[str]]) -> None:
        self._suggests = suggests
        self._told: set[tuple[str, str]] = set()
        self.is_spent = False

    def tells(self, word: str, language: str) -> bool:
        """Whether an unknown word is told of."""
        if len(self._told) >= MOST_TOLD and (word, language) not in self._told:
            self.is_spent = True
            return False
        self._told.add((word, language))
        return True

    def suggests(self, word: str, language: str) -> list[str]:
        return self._suggests(word, language) if len(self._told) <= MOST_SUGGESTED else []

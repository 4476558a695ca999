"""The words of a language, by the Hunspell dictionary that comes with the package chunspell."""

from __future__ import annotations

import threading
from functools import lru_cache

LANGUAGES = {"en": "en_US"}
"""The languages for which a dictionary is there, with its name."""


class Hunspell:
    """Knows the words of the languages there are dictionaries for; of any other language it knows none."""

    def __init__(self) -> None:
        self._lock = threading.Lock()

    def knows(self, word: str, language: str) -> bool:
        """Whether the dictionary of a language has a word, in small letters or with a capital."""
        name = LANGUAGES.get(language[:2])
        return name is not None and self._knows(word, name)

    def _knows(self, word: str, name: str) -> bool:
        with self._lock:
            return _known(name, word)


@lru_cache(maxsize=200_000)
def _known(name: str, word: str) -> bool:
    dictionary = _dictionary(name)
    return dictionary.spell(word) or dictionary.spell(word.capitalize())


@lru_cache(maxsize=4)
def _dictionary(name: str):  # noqa: ANN202 - the package has no types
    import hunspell

    return hunspell.Hunspell(name)

"""The words of a language, by the Hunspell dictionary that comes with the package chunspell."""

from __future__ import annotations

import threading
from functools import lru_cache
from pathlib import Path

from mobbet.core.proofing.slips import words_near

SHIPPED = {"en": "en_US"}
"""The languages whose dictionary comes with the package, with its name."""
FOLDERS = (
    Path("/usr/share/hunspell"),
    Path("/usr/share/myspell/dicts"),
    Path("/usr/local/share/hunspell"),
    Path("/opt/homebrew/share/hunspell"),
)
"""Where other dictionaries lie on a machine."""


@lru_cache(maxsize=64)
def name_of(language: str) -> str | None:
    """The name of the dictionary for a language (`pt-BR`, `de`): its own, or another of the same language; None without one."""
    wanted, short = language.replace("-", "_"), language[:2].lower()
    found = sorted(
        {
            file.stem
            for folder in FOLDERS
            for file in folder.glob(f"{short}*.dic")
            if file.with_suffix(".aff").exists()
        }
    )
    return (
        next((name for name in found if name == wanted), None)
        or SHIPPED.get(short)
        or (found[0] if found else None)
    )


class Hunspell:
    """Knows the words of the languages there are dictionaries for; of any other language it knows none.

    A word in letters that a dictionary cannot write is nothing it could judge: it is left alone.
    """

    def __init__(self) -> None:
        self._lock = threading.Lock()

    def knows(self, word: str, language: str) -> bool:
        """Whether the dictionary of a language has a word, in small letters or with a capital."""
        name = name_of(language)
        return name is not None and self._knows(word, name)

    def has(self, language: str) -> bool:
        """Whether there is a dictionary for a language."""
        return name_of(language) is not None

    def suggest(self, word: str, language: str) -> list[str]:
        """Words that may have been meant, one slip away, the likeliest first."""
        name = name_of(language)
        if name is None:
            return []
        with self._lock:
            return list(_near(name, language, word))

    def suggest_more(self, word: str, language: str) -> list[str]:
        """Words that may have been meant, further away; this takes Hunspell a fifth of a second."""
        name = name_of(language)
        if name is None:
            return []
        with self._lock:
            return list(_suggested(name, word))

    def _knows(self, word: str, name: str) -> bool:
        with self._lock:
            return _known(name, word)


@lru_cache(maxsize=200_000)
def _known(name: str, word: str) -> bool:
    dictionary = _dictionary(name)
    try:
        return dictionary.spell(word) or dictionary.spell(word.capitalize())
    except UnicodeEncodeError:
        return True


@lru_cache(maxsize=2000)
def _near(name: str, language: str, word: str) -> tuple[str, ...]:
    try:
        return tuple(words_near(word, _dictionary(name).spell, language))
    except UnicodeEncodeError:
        return ()


@lru_cache(maxsize=2000)
def _suggested(name: str, word: str) -> tuple[str, ...]:
    try:
        return tuple(_dictionary(name).suggest(word))
    except UnicodeEncodeError:
        return ()


@lru_cache(maxsize=4)
def _dictionary(name: str):  # noqa: ANN202 - the package has no types
    import hunspell

    folder = next((folder for folder in FOLDERS if (folder / f"{name}.dic").exists()), None)
    return hunspell.Hunspell(name, hunspell_data_dir=str(folder)) if folder else hunspell.Hunspell(name)

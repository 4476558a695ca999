"""How a post stands in search results: its title and description, measured against where results cut them off."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from mobbet.core.widths import PLAIN, TEXT

TITLE_PIXELS, TITLE_SIZE = 580, 20
DESCRIPTION_PIXELS, DESCRIPTION_SIZE = 920, 14
"""Where results cut a title (one line) and a description (two lines), and the size of their letters, in pixels."""
_PLAIN = {letter: width for width, letters in PLAIN.items() for letter in letters}
_TEXT = {letter: width for width, letters in TEXT.items() for letter in letters}
_DRAWN = frozenset(_TEXT)
_WIDE = 1000
"""Letters that the fonts lack are taken to be square, as those of Chinese and Japanese are."""


@dataclass(frozen=True)
class Measured:
    """A text, its width in pixels, the most that is shown, and what is left of it there."""

    words: str
    pixels: int
    most: int
    shown: str

    @property
    def is_cut(self) -> bool:
        return self.pixels > self.most


def pixels(words: str, size: int) -> float:
    """The width of a line in the application's font."""
    return sum([_PLAIN.get(letter, _WIDE) for letter in words]) * size / 1000


def title(words: str) -> Measured:
    return _measured(words, TITLE_SIZE, TITLE_PIXELS)


def description(words: str) -> Measured:
    return _measured(words, DESCRIPTION_SIZE, DESCRIPTION_PIXELS)


def _measured(words: str, size: int, most: int) -> Measured:
    words = " ".join(words.split())
    whole = pixels(words, size)
    shown = words
    if whole > most:
        kept: list[str] = []
        for word in words.split(" "):
            if pixels(" ".join([*kept, word]) + " …", size) > most:
                break
            kept.append(word)
        shown = " ".join(kept) + " …" if kept else _letters(words, size, most)
    return Measured(words, round(whole), most, shown)


def _letters(words: str, size: int, most: int) -> str:
    """The beginning of a single word that is too long by itself."""
    at = next(at for at in range(len(words), 0, -1) if pixels(words[:at] + "…", size) <= most or at == 1)
    return words[:at] + "…"


def usual_title(title: str, label: str, name: str) -> str:
    """The title that search engines get where none was written: with the blog's section, where its owner named one, and its
    name, as far as results show them; the section goes first, then the name.
    """
    forms = ((title, label if label != "Posts" else "", name), (title, name), (title,))
    found = [" · ".join(part for part in parts if part) for parts in forms]
    return next((one for one in found if pixels(one, TITLE_SIZE) <= TITLE_PIXELS), title)


def proposed_description(paragraphs: list[str], longest: int = 155) -> str:
    """The first sentences of a text that fit together; the beginning of the first where it is too long by itself."""
    words = " ".join(" ".join(paragraphs).split())
    kept = ""
    start = 0
    for at, letter in enumerate(words):
        if letter in ".!?…" and (at + 1 == len(words) or words[at + 1] == " ") and at - start > 2:
            if at + 1 > longest:
                break
            kept, start = words[: at + 1], at + 1
    return kept or (words if len(words) <= longest else words[:longest].rsplit(" ", 1)[0].rstrip(",;:") + "…")


@lru_cache(maxsize=1024)
def can_be_drawn(words: str) -> bool:
    """Whether the fonts have every letter of a text."""
    return all(letter.isspace() for letter in set(words) - _DRAWN)


def text_width(words: str, size: int) -> float:
    """The width of a line in the font of titles, in pixels."""
    return sum([_TEXT.get(letter, _WIDE) for letter in words]) * size / 1000

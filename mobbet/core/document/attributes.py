"""How the attributes of nodes and marks are read: each reader gives the value as it is kept, or None."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any

from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.document.links import clean_address, clean_picture
from mobbet.core.document.raw import clean_html

MISSING = object()
"""Characters that XML and browsers refuse, and halves of characters."""

LANGUAGE = r"[^\s\x00-\x20\x7f-\x9f\"'<>&`~\\]"
"""What the name of a programming language is made of."""


@dataclass(frozen=True)
class Attribute:
    """One attribute of a node or mark.

    `read` returns the value as it is kept, or None when it cannot be one; `default` is used when
    the attribute is absent, and without a default it must be given.
    """

    name: str
    read: Callable[[Any], Any]
    default: Any = MISSING

    @property
    def is_required(self) -> bool:
        return self.default is MISSING


def whole(least: int, most: int) -> Callable[[Any], int | None]:
    """A whole number from `least` to `most`."""

    def read(value: Any) -> int | None:
        is_whole = isinstance(value, int) and not isinstance(value, bool)
        return value if is_whole and least <= value <= most else None

    return read


def words(longest: int) -> Callable[[Any], str | None]:
    """Words in one line, at most `longest` letters."""

    def read(value: Any) -> str | None:
        if not isinstance(value, str) or len(value) > longest:
            return None
        return " ".join(UNPRINTABLE.sub("", value).split())

    return read


def one_of(*choices: Any) -> Callable[[Any], Any]:
    """One of the given words or numbers."""
    return lambda value: value if not isinstance(value, (bool, list, dict)) and value in choices else None


def matching(pattern: str) -> Callable[[Any], str | None]:
    """A text that the pattern matches as a whole."""
    return lambda value: value if isinstance(value, str) and re.fullmatch(pattern, value) else None


def switch(value: Any) -> bool | None:
    """True or False."""
    return value if isinstance(value, bool) else None


def day_or_none(value: Any) -> str | None:
    """A day as `2026-11-26`, or ''."""
    try:
        return "" if value == "" else date.fromisoformat(value).isoformat() if len(value) == 10 else None
    except (TypeError, ValueError):
        return None


def language(value: Any) -> str | None:
    """The name of a programming language; none is ''."""
    return "" if value is None else matching(LANGUAGE + "{0,40}")(value)


def address_or_none(value: Any) -> str | None:
    """An address, or '' where there is none yet."""
    return "" if value == "" else clean_address(value)


def picture_or_none(value: Any) -> str | None:
    """The `src` of a picture, or '' where there is none."""
    return "" if value == "" else clean_picture(value)


def raw_html(value: Any) -> str | None:
    """HTML as `raw.clean_html` leaves it."""
    return (
        clean_html(UNPRINTABLE.sub("", value))[0]
        if isinstance(value, str) and len(value) <= 100_000
        else None
    )


def lines(most: int, longest: int) -> Callable[[Any], list[str] | None]:
    """A list of at most `most` lines of words; empty ones are left out."""
    read_line = words(longest)

    def read(value: Any) -> list[str] | None:
        if not isinstance(value, list) or len(value) > most:
            return None
        found = [read_line(line) for line in value]
        return None if None in found else [line for line in found if line]

    return read


def criteria(value: Any) -> list[list[Any]] | None:
    """What a review scores: at most 30 of [words, score from 0 to 10, weight from 1 to 100]."""
    if not isinstance(value, list) or len(value) > 30:
        return None
    found = []
    for row in value:
        if not isinstance(row, list) or len(row) != 3:
            return None
        name, score, weight = words(120)(row[0]), _score(row[1]), whole(1, 100)(row[2])
        if not name or score is None or weight is None:
            return None
        found.append([name, score, weight])
    return found


def _score(value: Any) -> float | int | None:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not 0 <= value <= 10:
        return None
    rounded = round(value, 1)
    return int(rounded) if rounded == int(rounded) else rounded

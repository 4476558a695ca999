"""Numbers as they stand in a sentence."""

from __future__ import annotations

SPELLED = (
    "no",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)


def spelled(number: int) -> str:
    """A number up to twelve in words, any other in digits."""
    return SPELLED[number] if number < len(SPELLED) else f"{number:,}"


_ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def ordinal(number: int) -> str:
    """“third” for 3; “number 11” from 11 on."""
    return _ORDINALS[number - 1] if number <= len(_ORDINALS) else f"number {number}"


def times_in_words(number: int) -> str:
    """How often: “once”, “twice”, “12 times”."""
    return {1: "once", 2: "twice"}.get(number, f"{number:,} times")


MOST_COUNTED = 100
"""The posts of a longer list are not counted where lists are named, so that a publication costs the same on a blog of any size."""


def counted_to(count: int, one: str) -> str:
    """`3 posts`, or `more than 100 posts`; `count` of a longer list is any number above."""
    return counted(count, one) if count <= MOST_COUNTED else f"more than {MOST_COUNTED} {one}s"


def counted(count: int, one: str, many: str = "") -> str:
    """`1 page`, `3 pages`."""
    return f"{count:,} {one if count == 1 else many or one + 's'}"

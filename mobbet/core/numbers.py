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


def times_in_words(number: int) -> str:
    """How often: “once”, “twice”, “12 times”."""
    return {1: "once", 2: "twice"}.get(number, f"{number:,} times")


def counted(count: int, one: str, many: str = "") -> str:
    """`1 page`, `3 pages`."""
    return f"{count} {one if count == 1 else many or one + 's'}"

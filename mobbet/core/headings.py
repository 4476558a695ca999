"""The heading of a post's page: the standard one, some of its parts left out, or none."""

from __future__ import annotations

from collections.abc import Iterable

from mobbet.core.errors import BadInput

STANDARD, NONE = "", "none"
PARTS = {
    "categories": "its categories", "title": "the title", "subtitle": "the subtitle", "byline": "the byline", "date": "the date", "lead": "what leads it",
}  # fmt: skip
"""What the standard heading shows, in its order."""


def read_heading(kind: str, shown: Iterable[str]) -> str:
    """A heading as it is kept: '' is standard, 'none' has none, 'without:date,lead' leaves parts out. Raises BadInput."""
    if kind == NONE:
        return NONE
    if kind not in ("", "standard"):
        raise BadInput(f"“{kind}” is no heading; choose the standard one or none.", "heading")
    hidden = [part for part in PARTS if part not in set(shown)]
    return f"without:{','.join(hidden)}" if hidden else STANDARD


def shown_parts(heading: str) -> frozenset[str]:
    """The parts that a kept heading shows."""
    if heading == NONE:
        return frozenset()
    hidden = heading.removeprefix("without:").split(",") if heading else ()
    return frozenset(part for part in PARTS if part not in hidden)


def heading_in_words(heading: str) -> str:
    if heading == NONE:
        return "no heading"
    hidden = [words for part, words in PARTS.items() if part not in shown_parts(heading)]
    if not hidden:
        return "the standard heading"
    return "a heading without " + (", ".join(hidden[:-1]) + " and " if len(hidden) > 1 else "") + hidden[-1]

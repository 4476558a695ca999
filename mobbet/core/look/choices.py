"""What can be chosen of a look, in words: a table of its places."""

from __future__ import annotations

from typing import NamedTuple

from mobbet.core.look.letters import FAMILIES

_FAMILIES = {name: family.name for name, family in FAMILIES.items()}
WORDS: dict[str, dict[str, str]] = {
    "letters.text": _FAMILIES,
    "letters.headings": {"": "the same letters", **_FAMILIES},
    "letters.plain": _FAMILIES,
    "top.shows": {"name-and-line": "the name and its line", "name": "the name alone"},
    "top.size": {"small": "small", "large": "large"},
    "top.at": {"start": "at the start", "middle": "in the middle"},
    "top.menu": {"beside": "beside it", "below": "below it"},
    "front.shows": {
        "newest-large": "the newest large, then two columns",
        "list": "one post below the other",
        "dense": "titles alone, one line each",
        "sheet": "a sheet of pictures",
        "notices": "notices, their dates large",
    },
    "post.columns": {"one": "one column", "side": "what belongs to it at the side"},
    "post.pictures": {
        "text": "as wide as the text",
        "wider": "a little wider than the text",
        "window": "as wide as the window, where one opens the post",
    },
    "page.ground": {"paper": "the paper", "tint": "the ground of boxes"},
    "page.lines": {"none": "left out", "thin": "thin", "strong": "strong"},
}
"""{place: {value: words}}."""


class Numbers(NamedTuple):
    """The numbers that a place may have, and how they are told."""

    least: int
    most: int
    unit: str


NUMBERS = {
    "letters.size": Numbers(14, 24, "px"),
    "letters.measure": Numbers(40, 90, "characters"),
    "letters.leading": Numbers(130, 200, "hundredths"),
    "page.corners": Numbers(0, 24, "px"),
    "page.width": Numbers(48, 110, "letters wide"),
}
COLOUR_NAMES = {
    "paper": "the paper",
    "ink": "the ink",
    "soft": "quieter words",
    "accent": "links and accents",
    "tint": "the ground of boxes",
    "line": "lines",
}
"""{colour of a palette: what it is called}."""

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
    "top.search": {"none": "no field for the search", "field": "a field for the search"},
    "top.height": {"low": "low", "high": "high"},
    "top.words": {"light": "light", "dark": "dark"},
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
    "post.below": {
        "author-neighbours": "who wrote it, then the posts before and after",
        "neighbours-author": "the posts before and after, then who wrote it",
        "author": "who wrote it",
        "neighbours": "the posts before and after",
        "author-alike-neighbours": "who wrote it, posts like it, then the posts before and after",
        "alike-author-neighbours": "posts like it, who wrote it, then the posts before and after",
        "alike-neighbours": "posts like it, then the posts before and after",
        "author-alike": "who wrote it, then posts like it",
        "alike": "posts like it",
        "nothing": "nothing",
    },
    "page.ground": {
        "paper": "the paper",
        "tint": "the ground of boxes",
        "picture": "a picture",
        "pattern": "a picture, repeated",
    },
    "page.lines": {"none": "left out", "thin": "thin", "strong": "strong"},
}
"""{place: {value: words}}."""


class Numbers(NamedTuple):
    """The numbers that a place may have, and how they are told: with the unit after them, or in the place of `{}`."""

    least: int
    most: int
    unit: str


NUMBERS = {
    "top.veil": Numbers(0, 95, "a veil of {} %"),
    "top.picture.x": Numbers(0, 100, "{} % from its left"),
    "top.picture.y": Numbers(0, 100, "{} % from its top"),
    "page.picture.x": Numbers(0, 100, "{} % from its left"),
    "page.picture.y": Numbers(0, 100, "{} % from its top"),
    "letters.size": Numbers(14, 24, "px"),
    "letters.measure": Numbers(40, 90, "characters"),
    "letters.leading": Numbers(130, 200, "hundredths"),
    "page.corners": Numbers(0, 24, "px"),
    "page.width": Numbers(48, 110, "letters wide"),
}
PICTURES = {
    "top.mark": "the mark before the name",
    "top.picture": "the picture on top",
    "page.picture": "the picture behind everything",
}
"""{place of a picture: what it is called}."""
COLOUR_NAMES = {
    "paper": "the paper",
    "ink": "the ink",
    "soft": "quieter words",
    "accent": "links and accents",
    "tint": "the ground of boxes",
    "line": "lines",
}
"""{colour of a palette: what it is called}."""

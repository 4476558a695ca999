"""The colours of a look on one ground, light or dark, and what follows from them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict

from mobbet.core.document.palette import DARK_WORDS, LIGHT_WORDS, NAMES, Paper
from mobbet.core.errors import BadInput
from mobbet.core.look.colours import Colour, holds, nearest, of_oklch, oklch, read_colour

TEXT, SHAPE = 4.5, 3.0
"""The contrast that text needs, and that shapes need which say something (WCAG 2.2, 1.4.3 and 1.4.11)."""


def _spelled(text: str) -> str:
    """`#rrggbb`; ValueError, which Pydantic takes, for what is no colour."""
    try:
        return read_colour(text).hex
    except BadInput as error:
        raise ValueError("write six digits from 0 to f, such as #8a3b12") from error


HexColour = Annotated[str, AfterValidator(_spelled)]


class Palette(BaseModel):
    """Six colours, each `#rrggbb`: the ground, text, quieter text, links and accents, the ground of boxes, lines."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True)

    paper: HexColour
    ink: HexColour
    soft: HexColour
    accent: HexColour
    tint: HexColour
    line: HexColour

    def colour(self, name: str) -> Colour:
        return read_colour(getattr(self, name), name)

    def with_colours(self, colours: Mapping[str, str]) -> Palette:
        return Palette(**{**self.model_dump(), **colours})

    @property
    def is_dark(self) -> bool:
        return oklch(self.colour("paper"))[0] < 0.5


COLOURS = tuple(Palette.model_fields)


@dataclass(frozen=True)
class Words:
    """The colours that words, markers and callouts of a text can have on a palette, by name."""

    tints: Mapping[str, str]
    markers: Mapping[str, str]


@lru_cache(maxsize=64)
def words_on(palette: Palette) -> Words:
    """The colours of words: those of Mobbet, moved as little as it takes for them to be read on this palette's grounds."""
    tints, markers = DARK_WORDS if palette.is_dark else LIGHT_WORDS
    grounds = palette.colour("paper"), palette.colour("tint")
    moved = {}
    for name in NAMES:
        wanted, marker = read_colour(tints[name]), read_colour(markers[name])
        moved[name] = (
            nearest(wanted, (*grounds, marker), TEXT) or nearest(wanted, grounds[:1], TEXT) or wanted
        ).hex
    return Words(moved, markers)


def paper_of(palette: Palette) -> Paper:
    """The palette as the colours that a text can have on it."""
    words = words_on(palette)
    return Paper(palette.ink, palette.paper, dict(words.tints), dict(words.markers))


_DARKENED = {
    "paper": (0.21, 0.012),
    "tint": (0.27, 0.016),
    "line": (0.36, 0.018),
    "ink": (0.92, 0.018),
    "soft": (0.74, 0.02),
}
"""{colour: (lightness, most chroma) in the dark}."""


@lru_cache(maxsize=64)
def in_the_dark(light: Palette) -> Palette:
    """The palette of the same hues for the dark; of a palette that is dark already, that itself."""
    if light.is_dark:
        return light
    found = {}
    for name, (lightness, most) in _DARKENED.items():
        _, chroma, hue = oklch(light.colour(name))
        found[name] = of_oklch(lightness, min(chroma, most), hue).hex
    _, chroma, hue = oklch(light.colour("accent"))
    dark = Palette(accent=of_oklch(0.8, chroma, hue).hex, **found)
    return dark.with_colours({name: _readable(dark, name) for name in ("ink", "soft", "accent")})


def _readable(palette: Palette, name: str) -> str:
    """One of a palette's colours, moved as little as it takes to be read on its grounds and markers."""
    markers = (DARK_WORDS if palette.is_dark else LIGHT_WORDS)[1]
    grounds = (palette.colour("paper"), palette.colour("tint"), *map(read_colour, markers.values()))
    return (nearest(palette.colour(name), grounds, TEXT) or palette.colour(name)).hex


@dataclass(frozen=True)
class Pair:
    """Two colours that meet on a page. `name` is that of the palette's colour that would be changed, '' for one that follows from others."""

    where: str
    name: str
    foreground: str
    background: str
    needed: float


def pairs(palette: Palette) -> list[Pair]:
    """Every pair of colours that can meet on a page of this palette."""
    words, found = words_on(palette), []

    def add(where: str, name: str, background: str, needed: float = TEXT) -> None:
        found.append(Pair(where, name, getattr(palette, name), background, needed))

    add("text", "ink", palette.paper)
    add("text in boxes and code", "ink", palette.tint)
    add("dates and captions", "soft", palette.paper)
    add("captions in boxes, and remarks in code", "soft", palette.tint)
    add("links, also visited", "accent", palette.paper)
    add("links in boxes", "accent", palette.tint)
    found.append(Pair("words on a button", "", palette.paper, palette.accent, TEXT))
    found.append(Pair("words of the link that skips to the text", "", palette.paper, palette.ink, TEXT))
    add("the frame around what has the focus", "accent", palette.paper, SHAPE)
    add("the frame around what has the focus in a box", "accent", palette.tint, SHAPE)
    for colour in NAMES:
        marker, tint = words.markers[colour], words.tints[colour]
        add(f"text marked {colour}", "ink", marker)
        add(f"links marked {colour}", "accent", marker)
        add(f"captions in a {colour} box", "soft", marker)
        found += [
            Pair(f"{colour} words", "", tint, palette.paper, TEXT),
            Pair(f"{colour} words in boxes and code", "", tint, palette.tint, TEXT),
            Pair(f"{colour} words marked {colour}", "", tint, marker, TEXT),
        ]
    return found


def is_readable(palette: Palette) -> bool:
    return all(
        holds(read_colour(pair.foreground), (read_colour(pair.background),), pair.needed)
        for pair in pairs(palette)
    )

"""How one post differs from the look of its site: its background, its accent, and a picture on top, within what can be read."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from mobbet.core.canonical import canonical
from mobbet.core.document.palette import DARK_WORDS, LIGHT_WORDS
from mobbet.core.errors import BadInput
from mobbet.core.look.colours import Colour, holds, nearest, of_oklch, oklch, read_colour
from mobbet.core.look.look import Look
from mobbet.core.look.palette import TEXT, HexColour, Palette, in_the_dark, is_readable

Maybe = Literal[""] | HexColour
"""A colour as `#rrggbb`; '' for that of the site."""
TINT_STEP, LINE_STEP = 0.045, 0.13
"""How much the ground of boxes, and lines, differ from the background in lightness (OKLCH)."""


class OwnLook(BaseModel):
    """The background and the accent in the light, and an item of the library for the picture on top (0 for none)."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True)

    paper: Maybe = ""
    accent: Maybe = ""
    picture: Annotated[int, Field(ge=0, le=10**15)] = 0

    @property
    def has_colours(self) -> bool:
        return bool(self.paper or self.accent)


def own_text(own: OwnLook) -> str:
    """An own look as it is kept; '' for one that differs in nothing."""
    return canonical(own.model_dump()) if own != OwnLook() else ""


@lru_cache(maxsize=256)
def read_own(text: str) -> OwnLook:
    """An own look that was kept."""
    return OwnLook(**json.loads(text)) if text else OwnLook()


def read_typed(look: Look, paper: str, accent: str, picture: int = 0) -> OwnLook:
    """An own look as somebody typed it. Raises BadInput for what is no colour, and for what could not be read, with the nearest that can."""
    own = OwnLook(
        paper=read_colour(paper, "paper").hex if paper.strip() else "",
        accent=read_colour(accent, "accent").hex if accent.strip() else "",
        picture=picture,
    )
    if own.accent:
        grounds = _grounds(_grounded(look, own))
        if not holds(read_colour(own.accent), grounds, TEXT):
            found = nearest(read_colour(own.accent), grounds, TEXT)
            remedy = f"the nearest that can is {found.hex}" if found else "choose another background"
            raise BadInput(f"Links in {own.accent} cannot be read on that background; {remedy}.", "accent")
    for palette in own_palettes(look, own):
        if own.has_colours and not is_readable(palette):
            raise BadInput(
                f"On {own.paper or palette.paper} not every word can be read; choose a lighter or a darker background.",
                "paper",
            )
    return own


@lru_cache(maxsize=256)
def own_palettes(look: Look, own: OwnLook) -> tuple[Palette, Palette]:
    """(in the light, in the dark) of a post with an own look. What was not chosen follows from the site's look, moved as little as it takes to be read."""
    light = _grounded(look, own)
    if own.accent:
        light = light.with_colours({"accent": own.accent})
    light = light.with_colours({name: _readable(light, name) for name in ("ink", "soft", "accent")})
    return light, look.in_dark if not own.paper and not own.accent else in_the_dark(light)


def _grounded(look: Look, own: OwnLook) -> Palette:
    """The site's palette on the background of the post: its dark one where that is dark."""
    if not own.paper:
        return look.light
    lightness, chroma, hue = oklch(read_colour(own.paper))
    is_dark = lightness < 0.5
    base = in_the_dark(look.light) if is_dark else look.light if not look.light.is_dark else _LIGHT
    away = 1 if is_dark else -1
    steps = {"tint": TINT_STEP, "line": LINE_STEP}
    grounds = {name: of_oklch(lightness + away * step, chroma, hue).hex for name, step in steps.items()}
    return base.with_colours({"paper": own.paper, **grounds})


_LIGHT = Palette(
    paper="#fffefa", ink="#17262b", soft="#53656a", accent="#5b2a5e", tint="#f0efe8", line="#c9d2cc"
)
"""For a light background on a site that is dark."""


def _grounds(palette: Palette) -> tuple[Colour, ...]:
    markers = (DARK_WORDS if palette.is_dark else LIGHT_WORDS)[1]
    return (palette.colour("paper"), palette.colour("tint"), *map(read_colour, markers.values()))


def _readable(palette: Palette, name: str) -> str:
    colour, grounds = palette.colour(name), _grounds(palette)
    return (colour if holds(colour, grounds, TEXT) else nearest(colour, grounds, TEXT) or colour).hex

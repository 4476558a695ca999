"""A colour in words, as people would call it."""

from __future__ import annotations

import math

from mobbet.core.look.colours import oklch, read_colour

_HUES = (
    (15, "rose"), (40, "red"), (58, "rust"), (80, "amber"), (105, "yellow"), (130, "olive"), (155, "green"), (185, "sea green"), (215, "teal"),
    (245, "sky blue"), (275, "blue"), (300, "violet"), (335, "plum"), (355, "pink"), (361, "rose"),
)  # fmt: skip
"""(hue in degrees of OKLCH up to which it goes, name)."""
_GREYS = (
    (0.25, "near black"),
    (0.4, "dark grey"),
    (0.65, "grey"),
    (0.85, "light grey"),
    (0.96, "pale grey"),
    (2.0, "white"),
)
GREY, FAINT = 0.012, 0.035
"""The chroma below which a colour is a grey, and below which it is a grey with a hue."""


def colour_words(text: str) -> str:
    """“rust”, “pale sky blue”, “warm white”."""
    lightness, chroma, radians = oklch(read_colour(text))
    degrees = math.degrees(radians) % 360
    grey = next(name for most, name in _GREYS if lightness < most)
    is_white = lightness > 0.96
    if chroma < (GREY if not is_white else 0.004):
        return grey
    hue = next(name for most, name in _HUES if degrees < most)
    if chroma < FAINT:
        return f"{'warm' if degrees < 120 or degrees > 330 else 'cool'} {grey}"
    shade = "dark " if lightness < 0.38 else "pale " if lightness > 0.82 else ""
    return shade + hue

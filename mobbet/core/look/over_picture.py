"""Whether words over a picture can be read: against the pixels that stand under them, through the veil; the worst of them counts."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable
from typing import NamedTuple

from mobbet.core.look.colours import Colour, contrast
from mobbet.core.look.look import Top
from mobbet.core.look.palette import TEXT

WORDS = {"light": Colour(255, 255, 255), "dark": Colour(16, 16, 16)}
VEILS = {"light": Colour(0, 0, 0), "dark": Colour(255, 255, 255)}
"""The colours of the words, and of the veil below them."""
HEIGHTS = {"low": 224, "high": 416}
"""How high the top is at least, in CSS pixels."""
WINDOWS = (360, 768, 1280, 1920)
"""The widths of windows, in CSS pixels, at which it is looked what stands under the words."""
WORDS_HIGH = 176
"""So high a band at the bottom of the picture the words may need."""
CELLS = (48, 8)
"""Into so many cells across and down what stands under the words is divided; each is about as large as a letter."""


THICKEST = 95
"""The thickest veil that a look may have, in hundredths."""


class Region(NamedTuple):
    """A part of a picture, in shares of its width and height."""

    left: float
    top: float
    right: float
    bottom: float


def regions(top: Top, width: int, height: int) -> list[Region]:
    """The parts of a picture of that size that stand under the words, in windows of several widths; it covers the whole top."""
    if top.picture is None:
        return []
    return [_region(top, width, height, window) for window in WINDOWS]


def _region(top: Top, width: int, height: int, window: int) -> Region:
    assert top.picture is not None
    high = HEIGHTS[top.height]
    scale = max(window / width, high / height)
    across, down = width * scale, height * scale
    left, upper = (across - window) * top.picture.x / 100, (down - high) * top.picture.y / 100
    begin = upper + max(0, high - WORDS_HIGH)
    return Region(left / across, begin / down, (left + window) / across, (upper + high) / down)


def veiled(pixel: Colour, words: str, veil: int) -> Colour:
    """A pixel as it shows through the veil."""
    over = VEILS[words]
    return Colour(*(round(one + (other - one) * veil / 100) for one, other in zip(pixel, over, strict=True)))


def worst(pixels: Iterable[Colour], words: str, veil: int) -> Colour:
    """The pixel, as it shows, against which the words are hardest to read."""
    return min((veiled(pixel, words, veil) for pixel in pixels), key=lambda one: contrast(WORDS[words], one))


def least_veil(pixels: Iterable[Colour], words: str) -> int:
    """The lightest veil, in hundredths, with which the words can be read everywhere."""
    distinct = set(pixels)

    def holds(veil: int) -> bool:
        return contrast(WORDS[words], worst(distinct, words, veil)) >= TEXT

    veil = bisect_left(range(THICKEST), True, key=holds)
    while veil and holds(veil - 1):  # rounding may disturb the order by a step
        veil -= 1
    while veil < THICKEST and not holds(veil):
        veil += 1
    return veil

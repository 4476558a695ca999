"""Colours of sRGB: contrast by WCAG 2.2, OKLab and OKLCH, and the nearest colour that can be read on another.

OKLab and its matrices are Björn Ottosson's (2020); contrast and relative luminance are those of WCAG 2.2, 1.4.3.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator
from functools import lru_cache
from itertools import product
from typing import NamedTuple

from mobbet.core.errors import BadInput

_HEX = re.compile(r"#?([0-9a-fA-F]{3}|[0-9a-fA-F]{6})")
RINGS = 4
"""So many edges of the square in turn have nothing nearer when the search ends: colours are whole numbers, so one edge is not enough."""
Lab = tuple[float, float, float]
"""Lightness (0 to 1), and two axes of colour."""


class Colour(NamedTuple):
    """A colour of sRGB, each part from 0 to 255."""

    red: int
    green: int
    blue: int

    @property
    def hex(self) -> str:
        """`#rrggbb`, as a look and its file have it."""
        return f"#{self.red:02x}{self.green:02x}{self.blue:02x}"


def read_colour(text: str, field: str = "colour") -> Colour:
    """A colour as people type it: `#8a3b12`, `8a3b12` or `#a31`. Raises BadInput."""
    found = _HEX.fullmatch(text.strip())
    if not found:
        raise BadInput(
            f"“{text.strip()[:40]}” is no colour; write six digits from 0 to f, such as #8a3b12.", field
        )
    digits = found[1] if len(found[1]) == 6 else "".join(2 * digit for digit in found[1])
    return Colour(*bytes.fromhex(digits))


_LINEAR = tuple(
    part / 255 / 12.92 if part / 255 <= 0.04045 else ((part / 255 + 0.055) / 1.055) ** 2.4
    for part in range(256)
)


def luminance(colour: Colour) -> float:
    """Relative luminance: 0 for black, 1 for white."""
    red, green, blue = (_LINEAR[part] for part in colour)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: Colour, other: Colour) -> float:
    """The ratio of two colours, from 1 to 21."""
    low, high = sorted((luminance(one), luminance(other)))
    return (high + 0.05) / (low + 0.05)


@lru_cache(maxsize=65536)
def oklab(colour: Colour) -> Lab:
    return _lab(*(_LINEAR[part] for part in colour))


def _lab(red: float, green: float, blue: float) -> Lab:
    """OKLab of linear sRGB."""
    long = (0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue) ** (1 / 3)
    middle = (0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue) ** (1 / 3)
    short = (0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue) ** (1 / 3)
    return (
        0.2104542553 * long + 0.7936177850 * middle - 0.0040720468 * short,
        1.9779984951 * long - 2.4285922050 * middle + 0.4505937099 * short,
        0.0259040371 * long + 0.7827717662 * middle - 0.8086757660 * short,
    )


def _linear_of(lab: Lab) -> tuple[float, float, float]:
    """Linear sRGB, which may lie outside 0 to 1."""
    lightness, a, b = lab
    long = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3
    middle = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3
    short = (lightness - 0.0894841775 * a - 1.2914855480 * b) ** 3
    return (
        4.0767416621 * long - 3.3077115913 * middle + 0.2309699292 * short,
        -1.2684380046 * long + 2.6097574011 * middle - 0.3413193965 * short,
        -0.0041960863 * long - 0.7034186147 * middle + 1.7076147010 * short,
    )


def _part(linear: float) -> int:
    linear = min(1.0, max(0.0, linear))
    return round(255 * (12.92 * linear if linear <= 0.0031308 else 1.055 * linear ** (1 / 2.4) - 0.055))


def distance(one: Colour, other: Colour) -> float:
    """How far two colours stand apart in OKLab."""
    return math.dist(oklab(one), oklab(other))


def of_oklch(lightness: float, chroma: float, hue: float) -> Colour:
    """The colour of that lightness (0 to 1) and hue (radians); of less chroma where sRGB has no more."""
    low, high = 0.0, chroma
    for _ in range(24):
        if all(-1e-6 <= part <= 1 + 1e-6 for part in _linear_of(_polar(lightness, high, hue))):
            break
        middle = (low + high) / 2
        is_in = all(-1e-6 <= part <= 1 + 1e-6 for part in _linear_of(_polar(lightness, middle, hue)))
        low, high = (middle, high) if is_in else (low, middle)
    return Colour(*(_part(part) for part in _linear_of(_polar(lightness, min(low or high, high), hue))))


def _polar(lightness: float, chroma: float, hue: float) -> Lab:
    return lightness, chroma * math.cos(hue), chroma * math.sin(hue)


def oklch(colour: Colour) -> tuple[float, float, float]:
    """(lightness from 0 to 1, chroma, hue in radians)."""
    lightness, a, b = oklab(colour)
    return lightness, math.hypot(a, b), math.atan2(b, a)


def holds(colour: Colour, on: Iterable[Colour], needed: float) -> bool:
    """Whether a colour has that contrast on each of those."""
    return all(contrast(colour, one) >= needed for one in on)


@lru_cache(maxsize=8192)
def nearest(colour: Colour, on: tuple[Colour, ...], needed: float) -> Colour | None:
    """The colour that has the contrast on each of those and stands nearest in OKLab: itself where it holds; None where no colour does."""
    if holds(colour, on, needed):
        return colour
    found = [
        _on_side(colour, on, needed, limit, is_lighter) for limit, is_lighter in _limits(colour, on, needed)
    ]
    return min(filter(None, found), key=lambda one: (distance(one, colour), one), default=None)


def _limits(colour: Colour, on: tuple[Colour, ...], needed: float) -> Iterator[tuple[float, bool]]:
    """(the luminance from which on colours hold, whether those are the lighter ones) above and below a colour that does not."""
    grounds = sorted(luminance(one) + 0.05 for one in on)
    barred = [(ground / needed - 0.05, ground * needed - 0.05) for ground in grounds]
    low = high = luminance(colour)
    for first, last in barred:
        if first < high < last:
            high = last
    for first, last in reversed(barred):
        if first < low < last:
            low = first
    if high <= 1:
        yield high, True
    if low >= 0:
        yield low, False


def _on_side(
    colour: Colour, on: tuple[Colour, ...], needed: float, limit: float, is_lighter: bool
) -> Colour | None:
    """The nearest colour on one side of a luminance. The best of a coarse grid is refined, and then the square around it is widened
    until nothing on its edge, wherever the green lies, is nearer than what was found, several times over."""
    wanted = oklab(colour)

    def best_green(red: float, blue: float) -> tuple[float, float]:
        """(distance, linear green) of the nearest colour with that red and blue (linear), of any green that holds."""
        least = (limit - 0.2126 * red - 0.0722 * blue) / 0.7152
        if (least > 1) if is_lighter else (least < 0):
            return math.inf, 0.0
        low, high = (max(0.0, least), 1.0) if is_lighter else (0.0, min(1.0, least))
        edge = low if is_lighter else high
        step = 1e-4 if is_lighter else -1e-4
        apart = _apart(red, edge, blue, wanted)
        if _apart(red, edge + step, blue, wanted) >= apart:
            return apart, edge
        for _ in range(24):  # more green brings it nearer still
            first, second = low + (high - low) / 3, high - (high - low) / 3
            if _apart(red, first, blue, wanted) < _apart(red, second, blue, wanted):
                high = second
            else:
                low = first
        return _apart(red, low, blue, wanted), low

    def at(red: int, blue: int) -> tuple[float, float]:
        return best_green(_LINEAR[red], _LINEAR[blue])

    centre: tuple[int, ...]
    _, centre = min((at(red, blue)[0], (red, blue)) for red, blue in product((*range(0, 256, 15),), repeat=2))
    size = 8
    while size:
        near = product(
            *(range(max(0, part - 2 * size), min(255, part + 2 * size) + 1, size) for part in centre)
        )
        _, centre = min((at(one[0], one[1])[0], one) for one in near)
        size //= 2
    best: Colour | None = None
    apart, idle = math.inf, 0
    for radius in range(256):
        bounds = []
        for red, blue in _ring(centre, radius):
            bound, green = at(red, blue)
            bounds.append(bound)
            if bound >= apart:
                continue
            part = _part(green)
            for one in (Colour(red, min(255, max(0, part + more)), blue) for more in (-1, 0, 1)):
                far = distance(one, colour)
                if far < apart and holds(one, on, needed):
                    best, apart = one, far
        idle = idle + 1 if min(bounds, default=math.inf) >= apart else 0
        if idle == RINGS and best:
            break
    return best


def _ring(centre: tuple[int, ...], radius: int) -> Iterator[tuple[int, int]]:
    """The places on the edge of a square around a centre, of those from 0 to 255."""
    for red in range(centre[0] - radius, centre[0] + radius + 1):
        is_side = abs(red - centre[0]) == radius
        for blue in range(
            centre[1] - radius, centre[1] + radius + 1, 1 if is_side or not radius else 2 * radius
        ):
            if 0 <= red <= 255 and 0 <= blue <= 255:
                yield red, blue


def _apart(red: float, green: float, blue: float, wanted: Lab) -> float:
    """How far a colour in linear sRGB stands from one in OKLab."""
    return math.dist(_lab(red, max(0.0, green), blue), wanted)

"""Maps of the coast, drawn from Natural Earth's land (public domain), which ships with the design."""

from __future__ import annotations

import json
from functools import lru_cache
from html import escape

from mobbet.core.geo import Place, Window, outlines, point_in_words, window_around
from mobbet.core.values import existing
from mobbet.publish.design import FOLDER

WIDTH, HEIGHT = 640, 240
DEGREES = 9.0
"""How many degrees of latitude the small map of a post shows."""

Ring = tuple[tuple[float, float], ...]


@lru_cache(maxsize=1)
def land() -> tuple[Ring, ...]:
    """The outlines of all land, each a ring of (longitude, latitude) in degrees."""
    rings = []
    for steps in json.loads((FOLDER / "coast.json").read_text()):
        x = y = 0
        ring = []
        for at in range(0, len(steps), 2):
            x, y = x + steps[at], y + steps[at + 1]
            ring.append((x / 100, y / 100))
        rings.append(tuple(ring))
    return tuple(rings)


@lru_cache(maxsize=64)
def drawn(window: Window) -> str:
    """The land within a window as an SVG path."""
    return outlines(land(), window)


@lru_cache(maxsize=64)
def coarse(window: Window) -> str:
    """The same with fewer points, for a map that is only looked at for a moment."""
    return outlines(land(), window, 1.2)


def small_map(place: Place) -> str:
    """The small map on a post: the coast around its place, with the point and its name."""
    window = window_around(existing(place.point), DEGREES, WIDTH, HEIGHT)
    x, y = window.place(*existing(place.point))
    words = f"{place.name}, {point_in_words(existing(place.point))}"
    anchor, shift = ("start", 12) if x < WIDTH * 0.7 else ("end", -12)
    return (
        f'<svg class="coast" viewBox="0 0 {WIDTH} {HEIGHT}" role="img" aria-label="Map: {escape(words)}">'
        f'<path class="land" d="{drawn(window)}"/><circle cx="{x:g}" cy="{y:g}" r="6"/>'
        f'<text x="{x + shift:g}" y="{y + 6:g}" text-anchor="{anchor}">{escape(place.name)}</text></svg>'
    )

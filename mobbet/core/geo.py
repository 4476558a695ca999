"""The place a post is about: a name, a point on the earth, and drawing the coast around it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import cos, radians
from typing import Any

from mobbet.core.errors import BadInput
from mobbet.core.names import one_line

LONGEST_NAME = 80
Point = tuple[float, float]


@dataclass(frozen=True)
class Place:
    """A place: its name, its (latitude, longitude) in degrees or None, and whether the post shows a small map."""

    name: str
    point: Point | None = None
    has_map: bool = False


def read_place(name: str, point: str, has_map: bool) -> Place | None:
    """A place that a person typed; None when both are empty. Raises BadInput."""
    name = one_line(name)
    if len(name) > LONGEST_NAME:
        raise BadInput(f"The name of the place has {len(name)} letters; {LONGEST_NAME} is the most.", "place")
    where = read_point(point) if point.strip() else None
    if not name and where is None:
        return None
    if not name:
        raise BadInput("The point has no name; type what the place is called.", "place")
    if has_map and where is None:
        raise BadInput(
            "A map needs a point; choose one on the coast map, or type one such as 38.72, -9.14.", "point"
        )
    return Place(name, where, has_map)


LONGEST_POINT = 100


def read_point(text: str) -> Point:
    """`38.72, -9.14`, `38.72 N 9.14 W` or `geo:38.72,-9.14` as (latitude, longitude). Raises BadInput."""
    bare = " ".join(
        text[:LONGEST_POINT]
        .removeprefix("geo:")
        .partition(";")[0]
        .replace("°", " ")
        .replace(",", " ")
        .split()
    )
    match = re.fullmatch(r"([+-]?\d{1,3}(?:\.\d+)?) ?([NSns]?) ([+-]?\d{1,3}(?:\.\d+)?) ?([EWew]?)", bare)
    if match and len(text) <= LONGEST_POINT:
        lat = float(match[1]) * (-1 if match[2] in ("S", "s") and match[2] else 1)
        lon = float(match[3]) * (-1 if match[4] in ("W", "w") and match[4] else 1)
        if -90 <= lat <= 90 and -180 <= lon <= 180:
            return round(lat, 5), round(lon, 5)
    raise BadInput(
        f"“{text.strip()[:80]}” is no point on the earth; type latitude and longitude such as 38.72, -9.14.",
        "point",
    )


def kept(place: Place | None) -> str:
    """A place as it is kept, as JSON; '' for none."""
    if place is None:
        return ""
    return json.dumps({"name": place.name, "point": place.point, "map": place.has_map}, ensure_ascii=False)


def read_kept(text: str) -> Place | None:
    if not text:
        return None
    values = json.loads(text)
    return Place(values["name"], tuple(values["point"]) if values["point"] else None, values["map"])


def point_in_words(point: Point) -> str:
    """`38.72° N, 9.14° W`."""
    lat, lon = point
    return f"{abs(lat):g}° {'N' if lat >= 0 else 'S'}, {abs(lon):g}° {'E' if lon >= 0 else 'W'}"


def structured(place: Place) -> dict[str, Any]:
    """schema.org Place, with GeoCoordinates where it has a point."""
    facts: dict[str, Any] = {"@type": "Place", "name": place.name}
    if place.point:
        facts["geo"] = {"@type": "GeoCoordinates", "latitude": place.point[0], "longitude": place.point[1]}
    return facts


@dataclass(frozen=True)
class Window:
    """A part of the earth as a drawing: degrees at its edges, and its size in drawing units (equirectangular, true to shape at its middle)."""

    west: float
    east: float
    south: float
    north: float
    width: float
    height: float

    def place(self, lat: float, lon: float) -> Point:
        """Where a point is drawn."""
        x = (lon - self.west) / (self.east - self.west) * self.width
        y = (self.north - lat) / (self.north - self.south) * self.height
        return round(x, 1), round(y, 1)


def window_around(point: Point, degrees: float, width: float, height: float) -> Window:
    """A window so many degrees of latitude high, with the point in its middle as far as the poles allow."""
    degrees = min(degrees, 180.0)
    lat = max(-90 + degrees / 2, min(90 - degrees / 2, point[0]))
    across = min(360.0, degrees * width / height / max(0.2, cos(radians(lat)) if degrees < 60 else 1.0))
    lon = point[1] if across < 360 else 0.0
    return Window(lon - across / 2, lon + across / 2, lat - degrees / 2, lat + degrees / 2, width, height)


def outlines(rings: Iterable[Sequence[Point]], window: Window, least: float = 0.4) -> str:
    """The land within a window as an SVG path; rings are (longitude, latitude) in degrees. A window may reach across the date line.

    Points nearer than `least` drawing units to the one before, and islands smaller than three times that, are left out.
    """
    parts = []
    step = (window.east - window.west) / window.width  # one drawing unit in degrees
    for ring in rings:
        west, east = min(x for x, _ in ring), max(x for x, _ in ring)
        south, north = min(y for _, y in ring), max(y for _, y in ring)
        if north < window.south or south > window.north or max(east - west, north - south) < 3 * least * step:
            continue
        for turn in (-360.0, 0.0, 360.0):
            if east + turn < window.west or west + turn > window.east:
                continue
            cut = _clipped([(x + turn, y) for x, y in ring], window)
            places = _thinned([window.place(y, x) for x, y in cut], least)
            if len(places) > 2:
                parts.append("M" + "L".join(f"{x:g} {y:g}" for x, y in places) + "Z")
    return "".join(parts)


def _clipped(ring: list[Point], window: Window) -> list[Point]:
    """A ring cut along the four edges of a window, a little outside of it (Sutherland and Hodgman, 1974)."""
    mx, my = (window.east - window.west) * 0.02, (window.north - window.south) * 0.02
    for axis, edge, sign in (
        (0, window.west - mx, 1),
        (0, window.east + mx, -1),
        (1, window.south - my, 1),
        (1, window.north + my, -1),
    ):
        if not ring:
            return ring
        kept: list[Point] = []
        before = ring[-1]
        for point in ring:
            is_in, was_in = (point[axis] - edge) * sign >= 0, (before[axis] - edge) * sign >= 0
            if is_in != was_in:
                share = (edge - before[axis]) / (point[axis] - before[axis])
                other = before[1 - axis] + share * (point[1 - axis] - before[1 - axis])
                kept.append((edge, other) if axis == 0 else (other, edge))
            if is_in:
                kept.append(point)
            before = point
        ring = kept
    return ring


def _thinned(places: list[Point], least: float) -> list[Point]:
    """Places without those nearer than `least` units to the one before."""
    kept = places[:1]
    for x, y in places[1:]:
        if abs(x - kept[-1][0]) >= least or abs(y - kept[-1][1]) >= least:
            kept.append((x, y))
    return kept

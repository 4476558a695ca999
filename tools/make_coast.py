"""Writes `mobbet/publish/design/coast.json` from Natural Earth's land (public domain), as the npm package world-atlas has it: land-50m.json."""

from __future__ import annotations

import json
import sys
from pathlib import Path

OUT = Path(__file__).parent.parent / "mobbet" / "publish" / "design" / "coast.json"


def main(source: str) -> None:
    topology = json.loads(Path(source).read_text())
    (kx, ky), (dx, dy) = topology["transform"]["scale"], topology["transform"]["translate"]
    arcs = []
    for arc in topology["arcs"]:
        x = y = 0
        points = []
        for step_x, step_y in arc:
            x, y = x + step_x, y + step_y
            points.append((round((x * kx + dx) * 100), round((y * ky + dy) * 100)))
        arcs.append(points)
    rings = []
    for geometry in topology["objects"]["land"]["geometries"]:
        polygons = geometry["arcs"] if geometry["type"] == "MultiPolygon" else [geometry["arcs"]]
        rings += [_joined(_ring(numbers, arcs)) for polygon in polygons for numbers in polygon]
    OUT.write_text(json.dumps([_steps(ring) for ring in rings if len(ring) > 3], separators=(",", ":")))


def _ring(numbers: list[int], arcs: list[list[tuple[int, int]]]) -> list[tuple[int, int]]:
    ring: list[tuple[int, int]] = []
    for number in numbers:
        points = arcs[number] if number >= 0 else arcs[~number][::-1]
        ring += points[1:] if ring else points
    return [point for at, point in enumerate(ring) if at == 0 or point != ring[at - 1]]


def _joined(ring: list[tuple[int, int]]) -> list[tuple[int, int]]:
    """A ring that crosses the date line without its leap from one edge of the map to the other; the one around the pole as it is."""
    turn, joined = 0, ring[:1]
    for before, point in zip(ring, ring[1:], strict=False):
        if abs(point[0] - before[0]) > 18000:
            turn += 36000 if point[0] < before[0] else -36000
        joined.append((point[0] + turn, point[1]))
    return joined if turn == 0 else ring


def _steps(ring: list[tuple[int, int]]) -> list[int]:
    """Hundredths of a degree, longitude before latitude, each point as the way from the one before."""
    flat, before = [], (0, 0)
    for point in ring:
        flat += [point[0] - before[0], point[1] - before[1]]
        before = point
    return flat


if __name__ == "__main__":
    main(sys.argv[1])

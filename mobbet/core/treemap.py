"""A map of areas: rectangles whose areas are in proportion to numbers, each nearly square (Bruls, Huizing, van Wijk: Squarified Treemaps, 2000)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Box:
    """A rectangle in drawing units."""

    x: float
    y: float
    width: float
    height: float

    def inside(self, edge: float, top: float) -> Box:
        """What is left within an edge and a strip for a heading at the top."""
        return Box(
            self.x + edge, self.y + top, max(0.0, self.width - 2 * edge), max(0.0, self.height - top - edge)
        )


def squarified(sizes: Sequence[float], box: Box) -> list[Box]:
    """One rectangle for each size, which must be positive and fall from first to last; together they fill the box."""
    total = sum(sizes)
    if not sizes or total <= 0 or box.width <= 0 or box.height <= 0:
        return [Box(box.x, box.y, 0, 0) for _ in sizes]
    areas = [size * box.width * box.height / total for size in sizes]
    made: list[Box] = []
    at = 0
    while at < len(areas):
        side = min(box.width, box.height)
        row = [areas[at]]
        while at + len(row) < len(areas) and _worst([*row, areas[at + len(row)]], side) <= _worst(row, side):
            row.append(areas[at + len(row)])
        made += _laid(row, box)
        box = _rest(sum(row), box)
        at += len(row)
    return made


def _worst(row: list[float], side: float) -> float:
    """The greatest ratio of two sides in a row of areas along a side."""
    total = sum(row)
    if not total or not side:
        return float("inf")
    return max(side * side * max(row) / total**2, total**2 / (side * side * min(row)))


def _laid(row: list[float], box: Box) -> list[Box]:
    total, made = sum(row), []
    if box.width >= box.height:
        width, y = total / box.height, box.y
        for area in row:
            made.append(Box(box.x, y, width, area / width))
            y += area / width
    else:
        height, x = total / box.width, box.x
        for area in row:
            made.append(Box(x, box.y, area / height, height))
            x += area / height
    return made


def _rest(used: float, box: Box) -> Box:
    if box.width >= box.height:
        width = min(box.width, used / box.height)
        return Box(box.x + width, box.y, box.width - width, box.height)
    height = min(box.height, used / box.width)
    return Box(box.x, box.y + height, box.width, box.height - height)

"""Pictures in rows that keep each picture's shape: where the lines break so that they are most even."""

from __future__ import annotations

from collections.abc import Sequence

ROW_SHAPE = 3.4
"""The width over the height that a row has at best."""
MOST_IN_ROW = 6


def rows(shapes: Sequence[float]) -> list[list[int]]:
    """The indexes of the pictures of each row, in order, for pictures of these shapes (width over height).

    Every row fills the line, so its height follows from the sum of its shapes; the breaks are chosen so
    that the heights together differ least from the best one (a shortest path over all breaks).
    """
    count = len(shapes)
    best: list[tuple[float, int]] = [(0.0, 0)] + [(float("inf"), 0)] * count
    for end in range(1, count + 1):
        for start in range(max(0, end - MOST_IN_ROW), end):
            cost = best[start][0] + _unevenness(sum(shapes[start:end]), end - start, count)
            if cost < best[end][0]:
                best[end] = (cost, start)
    found: list[list[int]] = []
    end = count
    while end:
        start = best[end][1]
        found.append(list(range(start, end)))
        end = start
    return found[::-1]


def _unevenness(shape: float, in_row: int, count: int) -> float:
    """How far a row's height is from the best; one picture alone in a row weighs more."""
    difference = ROW_SHAPE / shape - 1
    alone = 0.5 if in_row == 1 and count > 1 and shape < ROW_SHAPE else 0.0
    return difference * difference + alone

"""Which revisions are kept: all of the last day, then thinner with age."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

HOUR, DAY = 3600, 86400
STEPS = ((DAY, 0), (7 * DAY, HOUR), (90 * DAY, DAY), (float("inf"), 7 * DAY))
"""(age up to which a step holds, the stretch of time of which one revision is kept; 0 keeps all)."""


@dataclass(frozen=True)
class Aged:
    """A revision, when it was saved, and whether it is kept whatever its age."""

    number: int
    saved_at: int
    is_kept: bool


def to_drop(revisions: Iterable[Aged], now: int) -> list[int]:
    """The numbers of the revisions that go: of each stretch the last one stays.

    A revision that was placed or named, and the newest of all, always stays.
    """
    ordered = sorted(revisions, key=lambda revision: revision.number, reverse=True)
    seen: set[tuple[int, int]] = set()
    dropped = []
    for at, revision in enumerate(ordered):
        stretch = next(stretch for age, stretch in STEPS if now - revision.saved_at < age)
        place = (stretch, revision.saved_at // stretch) if stretch else (0, revision.number)
        if place in seen and not revision.is_kept and at:
            dropped.append(revision.number)
        seen.add(place)
    return dropped

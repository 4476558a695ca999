"""The pages of a list that are divided anew when posts come to it, leave it, or stand elsewhere on it.

A cut depends on its neighbourhood alone (`core/division.py`), so the list is compared around each post that moved, with and without
the moves, from one cut that both have to another.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple, Protocol

from mobbet.core.division import AROUND, Part, Place, has_address, pages

MANY = 60
"""The number of moved posts from which a list is compared as a whole."""

FIRST: Place = (-(1 << 62), 0)
LAST: Place = (1 << 62, 0)
"""Places before and after every post."""


class MovedPlace(NamedTuple):
    """Where a post stood on the list, and where it stands; None where it does not."""

    before: Place | None
    now: Place | None


class List(Protocol):
    """A list of posts as it is now."""

    @property
    def count(self) -> int: ...
    def places(self, start: int, most: int) -> list[Place]: ...
    def rank(self, place: Place) -> int: ...


@dataclass
class Redivision:
    """Pages with an address, by their first posts: `pages` may show something else than before, of these, `showing_others` are
    there before and now and surely show other posts. `stretches` are the parts of the list, from one place up to another, in which these pages begin.
    """

    pages: set[int] = field(default_factory=set)
    showing_others: set[int] = field(default_factory=set)
    stretches: list[tuple[Place, Place]] = field(default_factory=list)


class _Shown(NamedTuple):
    """A page: its posts, whether it has an address, and the first posts of the pages with an address before it and after it; 0 for none."""

    posts: tuple[int, ...]
    has_address: bool
    older: int
    newer: int


def redivided(moves: Iterable[MovedPlace], posts: List, size: int) -> Redivision:
    """What these moves did to a list."""
    moved = [move for move in moves if move.before != move.now]
    found = Redivision()
    if not moved:
        return found
    if len(moved) >= MANY or posts.count <= 4 * AROUND * size:
        parts = [(0, posts.count)]
    else:
        parts = list(_neighbourhoods(moved, posts, size))
    for part in parts:
        width = AROUND * size
        while True:
            low, high = max(0, part[0] - width), min(posts.count, part[1] + width)
            stretch = _Stretch(posts.places(low, high - low), low == 0, high == posts.count)
            if _compare(found, stretch, moved, posts.count - high, size):
                break
            width *= 2
    return found


def _neighbourhoods(moved: list[MovedPlace], posts: List, size: int) -> Iterator[Part]:
    """(first, last number) of the posts around the moved ones, near ones together."""
    ranks = sorted(posts.rank(place) for move in moved for place in move if place)
    low = high = ranks[0]
    for rank in ranks[1:]:
        if rank - high > 4 * AROUND * size:
            yield low, high
            low = rank
        high = rank
    yield low, high


class _Stretch(NamedTuple):
    """Places of a list that follow one another as it is now, and whether they are its first and its last."""

    now: list[Place]
    begins: bool
    ends: bool

    def holds(self, place: Place) -> bool:
        return (self.begins or place >= self.now[0]) and (self.ends or place <= self.now[-1])

    def is_before(self, place: Place) -> bool:
        """Whether a place stands after all of these."""
        return not self.ends and place > self.now[-1]


def _compare(found: Redivision, stretch: _Stretch, moved: list[MovedPlace], after: int, size: int) -> bool:
    """Adds the pages that differ in a stretch with `after` posts after it; answers False, and adds none, where it is too short to tell."""
    left, arrived = [{place for move in moved if (place := move[at])} for at in (0, 1)]
    before = sorted({*stretch.now} - arrived | set(filter(stretch.holds, left)))
    after_before = after + sum(map(stretch.is_before, left)) - sum(map(stretch.is_before, arrived))
    old = _shown(before, stretch, after_before, size)
    new = _shown(stretch.now, stretch, after, size)
    if not (stretch.begins or _is_alike(old, new, 0)) or not (stretch.ends or _is_alike(old, new, -1)):
        return False
    was, now = ({page.posts[0]: page for page in pages if page.has_address} for pages in (old, new))
    differing = {first for first in was.keys() | now.keys() if was.get(first) != now.get(first)}
    found.pages |= differing
    found.showing_others |= {
        first for first in differing & was.keys() & now.keys() if was[first].posts != now[first].posts
    }
    places = sorted({*before, *stretch.now})
    found.stretches.append((FIRST if stretch.begins else places[0], LAST if stretch.ends else places[-1]))
    return True


def _shown(places: Sequence[Place], stretch: _Stretch, after: int, size: int) -> list[_Shown]:
    """The pages of a stretch, as far as its cuts are known."""
    ids = [post_id for _, post_id in places]
    parts = pages(ids, size, stretch.begins, stretch.ends)
    count = len(ids) + after
    firsts = [ids[start] for start, _ in parts]
    return [
        _Shown(
            tuple(ids[part[0] : part[1]]),
            has_address(part, count, size),
            firsts[at - 1] if at else 0,
            firsts[at + 1] if at + 1 < len(parts) and has_address(parts[at + 1], count, size) else 0,
        )
        for at, part in enumerate(parts)
    ]


def _is_alike(old: list[_Shown], new: list[_Shown], at: int) -> bool:
    """Whether the outermost pages at one end are the same, so that nothing beyond them differs."""
    return bool(old and new) and old[at] == new[at]

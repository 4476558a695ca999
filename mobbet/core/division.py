"""Divides a list of posts into pages, so that a post that comes or goes alters few of them wherever it stands.

A list is cut before each post whose weight, a hash of its number, is the greatest among the posts up to `reach(size)` places away. So
a cut depends on its neighbourhood alone: posts further away alter nothing, and a list that only grows keeps all its cuts. A part between
two cuts is divided into pages of `size` posts, from its oldest on; the last one has from half as many to one and a half times as many.
(Content-defined chunking by local maxima: Bjørner, Blass and Gurevich, 2010.)

A page is known by its oldest post. It has an address of its own once one of its posts is no longer on the list's first page.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence

Place = tuple[int, int]
"""(goes out, post): where a post stands in a list from the oldest on."""
Part = tuple[int, int]
"""(place of the first post, place after the last one), from 0, the oldest."""
_MASK = (1 << 64) - 1
AROUND = 8
"""How many pages to each side of a place are divided at once."""


def reach(size: int) -> int:
    """How many posts to each side decide about a cut."""
    return size // 2


def weight(post_id: int) -> int:
    """A post's weight: a number of 64 bits, another one for each post (SplitMix64)."""
    mixed = (post_id + 0x9E3779B97F4A7C15) & _MASK
    mixed = (mixed ^ (mixed >> 30)) * 0xBF58476D1CE4E5B9 & _MASK
    mixed = (mixed ^ (mixed >> 27)) * 0x94D049BB133111EB & _MASK
    return mixed ^ (mixed >> 31)


def cuts(ids: Sequence[int], size: int) -> Iterator[int]:
    """The indexes at which these posts, which follow one another in a list, are cut; those too near to either end are not known."""
    far = reach(size)
    weights = [weight(post_id) for post_id in ids]
    for at in range(far, len(ids) - far):
        if weights[at] == max(weights[at - far : at + far + 1]):
            yield at


def divided(start: int, end: int, size: int) -> Iterator[Part]:
    """The pages of the part of a list between two cuts, which is not empty."""
    while 2 * (end - start) >= 3 * size:
        yield start, start + size
        start += size
    if start < end:
        yield start, end


def pages(ids: Sequence[int], size: int, begins: bool = True, ends: bool = True) -> list[Part]:
    """The pages of posts that follow one another in a list: from the first known cut, or from the oldest post where the list `begins` with
    these, up to the last known cut, or the newest post where it `ends` with them.
    """
    shortest = reach(size) + 1 if begins else 0
    marks = [0] * begins + [at for at in cuts(ids, size) if at >= shortest] + [len(ids)] * ends
    return [part for start, end in zip(marks, marks[1:], strict=False) for part in divided(start, end, size)]


def has_address(part: Part, count: int, size: int) -> bool:
    """Whether one of the page's posts is not among the newest `size`."""
    return part[0] < count - size


class Division:
    """The pages of one list of `count` posts, found where they are asked for; `ids(start, most)` answers with its posts."""

    def __init__(self, size: int, count: int, ids: Callable[[int, int], Sequence[int]]) -> None:
        self._size = size
        self._count = count
        self._ids = ids
        self._known: list[list[Part]] = []

    def holding(self, place: int) -> Part:
        """The page on which the post at a place stands. Raises IndexError for a place outside the list."""
        if not 0 <= place < self._count:
            raise IndexError(place)
        for known in self._known:
            if known[0][0] <= place < known[-1][1]:
                return known[bisect_right(known, (place, self._count)) - 1]
        self._known.append(self._around(place))
        return self.holding(place)

    def _around(self, place: int) -> list[Part]:
        """Pages that follow one another, among them the one that holds a place."""
        width = AROUND * self._size
        while True:
            low, high = max(0, place - width), min(self._count, place + width)
            ids = self._ids(low, high - low)
            parts = pages(ids, self._size, low == 0, high == self._count)
            found = [(low + start, low + end) for start, end in parts]
            if found and found[0][0] <= place < found[-1][1]:
                return found
            width *= 2

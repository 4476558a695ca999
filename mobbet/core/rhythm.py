"""The rhythm of a blog: its usual gap, what stands out in what is to come, and a year of it by weeks."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import pairwise
from statistics import median

DAY = 86400
IN_A_ROW = 3
LEAST_LONG = 2
"""In days: a gap is only called long when it is longer than the usual one by so much."""


@dataclass(frozen=True)
class PlannedPost:
    """A post that goes out: at which instant, on which day of its blog's zone, and its main category (0 for none)."""

    instant: int
    day: date
    post: int
    title: str
    category: int = 0
    words: int = 0


@dataclass(frozen=True)
class Remark:
    """Something that stands out: `what` is 'same day', 'in a row' or 'gap'; the posts it concerns, and days of a gap."""

    what: str
    posts: tuple[PlannedPost, ...]
    days: int = 0


def usual_gap(instants: Sequence[int]) -> int | None:
    """The usual gap in days between instants, newest first: their median, so that one long pause does not count; None for fewer than three."""
    gaps = [(later - earlier) / DAY for later, earlier in pairwise(instants)]
    return max(1, round(median(gaps))) if len(gaps) >= 2 else None


def remarks(goings: Sequence[PlannedPost], usual: int | None, now: int) -> list[Remark]:
    """What stands out among posts in the order in which they go out, of which at least one is to come: two on one day, three of one
    category in a row, and gaps longer than usual.
    """
    found = []
    for earlier, later in pairwise(goings):
        if later.instant <= now:
            continue
        if earlier.day == later.day:
            found.append(Remark("same day", (earlier, later)))
        days = (later.day - earlier.day).days
        if usual is not None and days > max(usual * 1.5, usual + LEAST_LONG):
            found.append(Remark("gap", (earlier, later), days))
    begun = 0
    for at in range(1, len(goings) + 1):
        if at == len(goings) or goings[at].category != goings[begun].category:
            if at - begun >= IN_A_ROW and goings[begun].category and goings[at - 1].instant > now:
                found.append(Remark("in a row", tuple(goings[begun:at])))
            begun = at
    return sorted(found, key=lambda one: one.posts[0].instant)


@dataclass
class Week:
    """One week from its Monday: how many posts went out in it, how many words they have, and how many of each category."""

    monday: date
    posts: int = 0
    words: int = 0
    categories: dict[int, int] = field(default_factory=dict)


def by_weeks(goings: Iterable[PlannedPost], first: date, weeks: int) -> list[Week]:
    """So many weeks from a Monday on."""
    found = [Week(first + timedelta(weeks=number)) for number in range(weeks)]
    for one in goings:
        at = (one.day - first).days // 7
        if 0 <= at < weeks:
            week = found[at]
            week.posts += 1
            week.words += one.words
            week.categories[one.category] = week.categories.get(one.category, 0) + 1
    return found

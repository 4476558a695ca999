"""The strip: time drawn as a line with blocks for posts, from a week to years of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from itertools import pairwise
from urllib.parse import urlencode

from mobbet.actions.workshop import Workshop
from mobbet.core.screen_dates import day_and_month, short_month, time_in_words
from mobbet.core.timing import instant_of_wall, local
from mobbet.store import desk as desk_store
from mobbet.store.blogs import Blog
from mobbet.store.desk import OnDay
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import Strip, StripBar, StripBlock, StripGap
from mobbet.web.write import addresses as to_write

USUAL_WEEKS, LEAST_WEEKS, MOST_WEEKS = 12, 1, 520
PART_BACK = 2 / 3
"""How much of the strip lies before now, as it opens."""
LEFT, RIGHT = 24.0, 1208.0
MOST_BLOCKS = 150
"""With more posts than that, bars tell how many there are."""
BAR, GROUND = 30.0, 66.0
REACH = 32.0
"""How wide what can be pressed about a block is, where its neighbours leave room, in drawing units."""
LONG_GAP, QUIET, MOST_GAPS = 8, 7, 4
"""In days: how long a gap, and the quiet since the last post, must be to be named; and how many gaps are."""
DAY = 86400


@dataclass(frozen=True)
class Range:
    """A stretch of time that is drawn: from midnight of a day, so many weeks."""

    first: date
    weeks: int

    @property
    def last(self) -> date:
        return self.first + timedelta(weeks=self.weeks)


def read_range(workshop: Workshop, blog: Blog, start: str, weeks: str) -> Range:
    """The range of an address, or the usual one around now."""
    now = local(workshop.clock(), blog.zone).date()
    count = (
        min(MOST_WEEKS, max(LEAST_WEEKS, int(weeks))) if weeks.isdecimal() and len(weeks) < 5 else USUAL_WEEKS
    )
    try:
        first = date.fromisoformat(start)
    except ValueError:
        first = now - timedelta(days=now.weekday(), weeks=round(count * PART_BACK))
    return Range(min(max(first, date(1971, 1, 4)), date(2190, 1, 4)), count)


def strip(workshop: Workshop, blog: Blog, drawn: Range) -> Strip | None:
    """A stretch of the blog as a drawing; None while the blog has nothing to draw."""
    now = workshop.clock()
    first, last = (
        instant_of_wall(f"{day.isoformat()} 00:00", blog.zone) for day in (drawn.first, drawn.last)
    )

    def x(instant: float) -> float:
        return round(LEFT + (RIGHT - LEFT) * (instant - first) / (last - first), 1)

    rows = desk_store.out_days(workshop.db, blog.id, first, last, now, MOST_BLOCKS + 1)
    if not rows and not desk_store.has_placed(workshop.db, blog.id):
        return None
    is_many = len(rows) > MOST_BLOCKS
    bars = _bars(workshop, blog, drawn, x) if is_many else []
    blocks = (
        []
        if is_many
        else _reached([block for row in rows for block in _blocks(row, blog, first, last, now, x)])
    )
    out = [row.goes_out for row in rows if row.shows_from <= now]
    count = sum(bar.count for bar in bars) if is_many else len(rows)
    coming = "" if is_many or len(out) == len(rows) else f", {len(rows) - len(out)} of them to come"
    return Strip(
        drawn.first.isoformat(), drawn.weeks, _labels(drawn, blog, x), x(now) if first <= now < last else None, blocks, bars, [] if is_many else _gaps(out, now, last, x),
        f"{count:,} post{'s' if count != 1 else ''}{coming} in {drawn.weeks} week{'s' if drawn.weeks != 1 else ''} from {_day(drawn.first)} {drawn.first.year}", to_desk.strip(blog.slug), 14 if drawn.weeks <= 16 else 8 if drawn.weeks <= 52 else 5,
    )  # fmt: skip


def _blocks(
    row: OnDay, blog: Blog, first: int, last: int, now: int, x: Callable[[float], float]
) -> list[StripBlock]:
    """The block of a post, and the cross where it comes down."""
    kind = "out" if row.shows_from <= now else "coming"
    found = [
        StripBlock(
            x(row.goes_out),
            kind,
            f"{row.title or 'No title yet'}, {time_in_words(row.goes_out, blog.zone, now)}",
            to_write.write(row.id),
            to_desk.peek(row.id),
        )
    ]
    if first <= row.comes_down < last:
        found.append(
            StripBlock(
                x(row.comes_down),
                "down",
                f"{row.title or 'No title yet'} comes down {time_in_words(row.comes_down, blog.zone, now)}",
                to_write.write(row.id),
                to_desk.peek(row.id),
            )
        )
    return found


def _reached(blocks: list[StripBlock]) -> list[StripBlock]:
    """The blocks with the width in which each can be pressed: `REACH` about it, and no further than halfway to its neighbours."""
    found = []
    for is_down in (False, True):
        row = sorted((one for one in blocks if (one.kind == "down") is is_down), key=lambda one: one.x)
        edges = [LEFT - REACH, *((one.x + other.x) / 2 for one, other in pairwise(row)), RIGHT + REACH]
        for one, before, after in zip(row, edges, edges[1:], strict=False):
            left, right = max(before, one.x - REACH / 2), min(after, one.x + REACH / 2)
            found.append(replace(one, left=round(left, 1), reach=round(right - left, 1)))
    return sorted(found, key=lambda one: one.x)


def _bars(workshop: Workshop, blog: Blog, drawn: Range, x: Callable[[float], float]) -> list[StripBar]:
    """How many posts there are in each week, or in each month of a long range; a bar leads to them."""
    days = _steps(drawn, is_monthly=drawn.weeks > 104)
    instants = [instant_of_wall(f"{day.isoformat()} 00:00", blog.zone) for day in days]
    counts = desk_store.out_counts(workshop.db, blog.id, instants)
    most = max(counts, default=1) or 1
    found = []
    for at, count in enumerate(counts):
        if count:
            query = urlencode(
                {
                    "q": f"after:{_before(days[at])} before:{days[at + 1].isoformat()} is:out is:timetable is:post"
                }
            )
            words = f"{count} post{'s' if count != 1 else ''} from {_day(days[at])} {days[at].year}"
            height = round(6 + BAR * count / most, 1)
            found.append(
                StripBar(
                    x(instants[at]),
                    round(max(2.0, x(instants[at + 1]) - x(instants[at]) - 1), 1),
                    round(GROUND - height, 1),
                    height,
                    words,
                    f"{to_desk.desk(blog.slug)}?{query}",
                    count,
                )
            )
    return found


def _before(day: date) -> str:
    """The day before, since “after” leaves its own day out."""
    return (day - timedelta(days=1)).isoformat()


def _steps(drawn: Range, is_monthly: bool) -> list[date]:
    """The days at which weeks, or months, of a range begin, and its end."""
    found, day = [drawn.first], drawn.first
    while day < drawn.last:
        day = (
            (day.replace(day=1) + timedelta(days=32)).replace(day=1)
            if is_monthly
            else day + timedelta(weeks=1)
        )
        found.append(min(day, drawn.last))
    return found


def _labels(drawn: Range, blog: Blog, x: Callable[[float], float]) -> list[tuple[float, str]]:
    """Where lines stand, and their words: Mondays, months or years, as many as there is room for."""
    if drawn.weeks <= 2:
        days = [drawn.first + timedelta(days=number) for number in range(drawn.weeks * 7)]
    elif drawn.weeks <= 14:
        monday = drawn.first + timedelta(days=-drawn.first.weekday() % 7)
        days = [monday + timedelta(weeks=number) for number in range(drawn.weeks)]
    else:
        step = 1 if drawn.weeks <= 60 else 3 if drawn.weeks <= 160 else 12
        months = [
            date(drawn.first.year + number // 12, number % 12 + 1, 1)
            for number in range(12 * (drawn.weeks // 52 + 3))
        ]
        days = [month for month in months if (month.month - 1) % step == 0]
    shown = [day for day in days if drawn.first <= day < drawn.last]
    words = [
        _day(day) if drawn.weeks <= 14 else str(day.year) if day.month == 1 else short_month(day)
        for day in shown
    ]
    return [
        (x(instant_of_wall(f"{day.isoformat()} 00:00", blog.zone)), word)
        for day, word in zip(shown, words, strict=True)
    ]


def _day(day: date | datetime) -> str:
    return day_and_month(day)


def _gaps(out: list[int], now: int, last: int, x: Callable[[float], float]) -> list[StripGap]:
    """The longest gaps between posts, and the quiet since the last one, where they are long enough to name and to be seen."""
    pairs = [
        (earlier, later)
        for earlier, later in zip(out, out[1:])
        if later - earlier >= LONG_GAP * DAY and x(later) - x(earlier) > 60
    ]
    longest = sorted(pairs, key=lambda pair: pair[0] - pair[1])[:MOST_GAPS]
    gaps = [
        StripGap(x(earlier) + 10, x(later) - 10, f"{(later - earlier) // DAY} days", False)
        for earlier, later in sorted(longest)
    ]
    if out and now < last and now - out[-1] >= QUIET * DAY and x(now) - x(out[-1]) > 60:
        gaps.append(StripGap(x(out[-1]) + 10, x(now) - 4, f"{(now - out[-1]) // DAY} days quiet", True))
    return gaps

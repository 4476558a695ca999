"""The Timetable as a drawing: weeks as lines of seven days, a month of them, or one week by its hours; with slips for what goes out, comes down and is free."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from mobbet.actions import marked_days, slots
from mobbet.actions.workshop import Workshop
from mobbet.core.screen_dates import day_and_month, weekday_day_and_month
from mobbet.core.timing import clock_turns, instant_of_wall, local
from mobbet.store import proofs, timetable
from mobbet.store.blogs import Blog
from mobbet.web.site import addresses as to_site
from mobbet.web.timetable.contexts import Band, DayCell, Drawing, Slip, WeekLine
from mobbet.web.write import addresses as to_write

LEFT, WIDTH, DAY_WIDTH = 92, 1232, 160
TOP, HEAD, SLIP, GAP, FOOT, BAND = 30, 24, 54, 4, 8, 18
LETTERS, LINES = 19, 2
HOUR, FIRST_HOUR, LAST_HOUR = 36, 7, 22
PATTERNS = 4
"""How many other blogs can be told apart by the pattern of their slips."""
_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@dataclass(frozen=True)
class Stretch:
    """What is drawn: so many weeks from a Monday on; of a month its number, by the hours for one week."""

    monday: date
    weeks: int
    month: int = 0
    by_hours: bool = False

    @property
    def last(self) -> date:
        return self.monday + timedelta(weeks=self.weeks, days=-1)


def drawing_of(
    workshop: Workshop, blog: Blog, stretch: Stretch, others: Sequence[Blog] = (), with_updates: bool = False
) -> Drawing:
    """A blog's weeks, with those of other blogs over them, each in its pattern; all in the zone of the first."""
    now = workshop.clock()
    today = local(now, blog.zone).date()
    slips = _slips(workshop, blog, stretch, with_updates)
    for number, other in enumerate(others):
        for day, more in _of_other(workshop, blog, other, stretch, number).items():
            slips[day] = sorted([*slips.get(day, []), *more], key=lambda slip: slip.minute)
    marks = marked_days.on_days(workshop, blog, stretch.monday, stretch.last)
    turns = clock_turns(stretch.monday, stretch.last, blog.zone)
    lines, y = [], TOP
    for week in range(stretch.weeks):
        days = [stretch.monday + timedelta(weeks=week, days=number) for number in range(7)]
        bands = {
            day: [
                *(Band(one.words, bool(one.skips)) for one in marks.get(day, ())),
                *([Band(turns[day], False, True)] if day in turns else []),
            ]
            for day in days
        }
        lines.append(_week(blog, stretch, days, bands, slips, today, y))
        y += lines[-1].height
    names = [(LEFT + 8 + number * DAY_WIDTH, name) for number, name in enumerate(_NAMES)]
    return Drawing(
        WIDTH,
        y + 4,
        DAY_WIDTH,
        names,
        lines,
        f"today, {local(now, blog.zone):%H:%M}",
        [(number % PATTERNS + 1, other.name) for number, other in enumerate(others)],
    )


def _week(
    blog: Blog,
    stretch: Stretch,
    days: list[date],
    bands: dict[date, list[Band]],
    slips: dict[date, list[Slip]],
    today: date,
    y: int,
) -> WeekLine:
    """One week, `y` pixels below the top, as high as its fullest day."""
    most = max(len(found) for found in bands.values())
    room = HEAD + most * BAND
    placed = {
        day: _placed(
            slips.get(day, []),
            y + (room if stretch.by_hours else HEAD + len(bands[day]) * BAND),
            stretch.by_hours,
        )
        for day in days
    }
    height = max(HEAD + SLIP + GAP, room + GAP, *(lowest - y for _, lowest in placed.values())) + FOOT
    if stretch.by_hours:
        height = max(height, room + (LAST_HOUR - FIRST_HOUR + 1) * HOUR + FOOT)
    cells = [
        DayCell(
            LEFT + 8 + number * DAY_WIDTH, str(day.day), day.isoformat(), _day(day), day == today, placed[day][0], to_site.moment(blog.slug, at=f"{day.isoformat()} 23:59"),
            [(y + HEAD + at * BAND, replace(band, words=textwrap.shorten(band.words, 26, placeholder="…"), whole=band.words)) for at, band in enumerate(bands[day])],
            bool(stretch.month) and day.month != stretch.month,
        )
        for number, day in enumerate(days)
    ]  # fmt: skip
    hours = (
        [
            (y + room + (hour - FIRST_HOUR) * HOUR, f"{hour:02}:00")
            for hour in range(FIRST_HOUR, LAST_HOUR + 1)
        ]
        if stretch.by_hours
        else []
    )
    return WeekLine(y, height, day_and_month(days[0]), cells, hours)


def _placed(slips: list[Slip], top: int, by_hours: bool) -> tuple[list[tuple[int, Slip]], int]:
    """The slips of a day with their heights, under one another or by their hour, and where the last one ends."""
    found, free = [], top
    for slip in slips:
        y = (
            max(free, top + round((max(slip.minute, FIRST_HOUR * 60) - FIRST_HOUR * 60) / 60 * HOUR))
            if by_hours
            else free
        )
        found.append((y, slip))
        free = y + SLIP + GAP
    return found, free


def _slips(workshop: Workshop, blog: Blog, stretch: Stretch, with_updates: bool) -> dict[date, list[Slip]]:
    """The slips of a blog's own posts and free slots, day by day in their order; of updates that went out only by choice."""
    now = workshop.clock()
    first, last = _midnight(blog, stretch.monday), _midnight(blog, stretch.last + timedelta(days=1))
    happen = [
        one
        for one in timetable.events(workshop.db, blog.id, first - 1, last - 1)
        if with_updates or one[0] > now or one[1] != "is updated"
    ]
    counts = proofs.counts(workshop.db, [post for _, _, post, _ in happen])
    found: dict[date, list[Slip]] = {}
    for instant, what, post, title in happen:
        must_and_should = sum(counts.get(post, (0, 0, 0))[:2])
        found.setdefault(local(instant, blog.zone).date(), []).append(
            _slip(blog.zone, instant, what, post, title, must_and_should, instant <= now)
        )
    for turn in slots.turns(workshop, blog, max(now, first), last - 1):
        if turn.post_id is None:
            day = local(turn.instant, blog.zone).date()
            words = f"Free slot on {_day(day)} at {turn.wall[11:16]}"
            found.setdefault(day, []).append(
                Slip(
                    0,
                    "free",
                    f"{turn.wall[11:16]} free slot",
                    [],
                    words,
                    "#slot-bar",
                    minute=_minute(turn.instant, blog.zone),
                    wall=turn.wall,
                )
            )
    return {day: sorted(slips, key=lambda slip: slip.minute) for day, slips in found.items()}


def _of_other(
    workshop: Workshop, blog: Blog, other: Blog, stretch: Stretch, number: int
) -> dict[date, list[Slip]]:
    """The slips of another blog, at their times in this one's zone."""
    first, last = _midnight(blog, stretch.monday), _midnight(blog, stretch.last + timedelta(days=1))
    found: dict[date, list[Slip]] = {}
    for instant, what, post, title in timetable.events(workshop.db, other.id, first - 1, last - 1):
        slip = _slip(blog.zone, instant, what, post, title, 0, instant <= workshop.clock())
        slip = replace(slip, pattern=number % PATTERNS + 1, moves=False, words=f"{other.name}: {slip.words}")
        found.setdefault(local(instant, blog.zone).date(), []).append(slip)
    return found


def _slip(zone: str, instant: int, what: str, post: int, title: str, count: int, is_past: bool) -> Slip:
    time, minute, day = f"{local(instant, zone):%H:%M}", _minute(instant, zone), local(instant, zone).date()
    shown = textwrap.wrap(title or "No title yet", LETTERS, max_lines=LINES, placeholder="…")
    marks = f", {count} mark{'s' if count != 1 else ''} to settle" if count and not is_past else ""
    told = f"{title or 'No title yet'}, {what} {_day(day)} at {time}{marks}"
    if what == "comes down":
        return Slip(post, "down", f"{time} comes down", shown, told, to_write.write(post), minute=minute)
    if what == "is updated":
        return Slip(
            post,
            "past" if is_past else "update",
            f"{time} update",
            shown,
            told,
            to_write.write(post),
            minute=minute,
        )
    kind = "past" if is_past else "unsettled" if count else "coming"
    head = f"{time} · {count} mark{'s' if count != 1 else ''}" if kind == "unsettled" else time
    return Slip(post, kind, head, shown, told, to_write.write(post), not is_past, minute)


def _minute(instant: int, zone: str) -> int:
    moment = local(instant, zone)
    return moment.hour * 60 + moment.minute


def _midnight(blog: Blog, day: date) -> int:
    return instant_of_wall(datetime(day.year, day.month, day.day).strftime("%Y-%m-%d %H:%M"), blog.zone)


def _day(day: date) -> str:
    return weekday_day_and_month(day)

"""The weeks of the Timetable as a drawing: each a line of seven days, with slips for what goes out, comes down and is free."""

from __future__ import annotations

import textwrap
from datetime import date, datetime, timedelta

from mobbet.actions import slots
from mobbet.actions.workshop import Workshop
from mobbet.core.timing import DAYS, MONTHS, instant_of_wall, local
from mobbet.store import proofs, timetable
from mobbet.store.blogs import Blog
from mobbet.web import links
from mobbet.web.contexts_timetable import DayCell, Drawing, Slip, WeekLine

LEFT, WIDTH, DAY_WIDTH = 92, 1232, 160
TOP, HEAD, SLIP, GAP, FOOT = 30, 24, 54, 4, 8
LETTERS, LINES = 19, 2
WEEKS_BACK = 1


def drawing_of(workshop: Workshop, blog: Blog, weeks: int) -> Drawing:
    """The week before this one, this week, and those that follow."""
    now = workshop.clock()
    today = local(now, blog.zone).date()
    monday = today - timedelta(days=today.weekday(), weeks=WEEKS_BACK)
    first, last = _midnight(blog, monday), _midnight(blog, monday + timedelta(weeks=weeks))
    slips: dict[date, list[Slip]] = {}
    happen = timetable.events(workshop.db, blog.id, first - 1, last - 1)
    counts = proofs.counts(workshop.db, [post for _, _, post, _ in happen])
    for instant, what, post, title in happen:
        must_and_should = sum(counts.get(post, (0, 0, 0))[:2])
        slips.setdefault(local(instant, blog.zone).date(), []).append(_slip(blog, instant, what, post, title, must_and_should, instant <= now))
    for turn in slots.turns(workshop, blog, max(now, first), last - 1):
        if turn.post_id is None:
            slips.setdefault(local(turn.instant, blog.zone).date(), []).append(Slip(0, "free", f"{turn.wall[11:16]} free slot", [], f"Free slot on {_day(local(turn.instant, blog.zone).date())} at {turn.wall[11:16]}", ""))
    lines, y = [], TOP
    for week in range(weeks):
        begins = monday + timedelta(weeks=week)
        days = [begins + timedelta(days=number) for number in range(7)]
        most = max(1, *(len(slips.get(day, ())) for day in days))
        height = HEAD + most * (SLIP + GAP) + FOOT
        cells = [
            DayCell(LEFT + 8 + number * DAY_WIDTH, str(day.day), day.isoformat(), _day(day), day == today, [(y + HEAD + at * (SLIP + GAP), slip) for at, slip in enumerate(slips.get(day, ()))])
            for number, day in enumerate(days)
        ]
        lines.append(WeekLine(y, height, f"{begins.day} {MONTHS[begins.month - 1][:3]}", cells))
        y += height
    return Drawing(WIDTH, y + 4, DAY_WIDTH, [(LEFT + 8 + number * DAY_WIDTH, f"{name}") for number, name in enumerate(_NAMES)], lines, f"today, {local(now, blog.zone):%H:%M}")


_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


def _slip(blog: Blog, instant: int, what: str, post: int, title: str, count: int, is_past: bool) -> Slip:
    time = f"{local(instant, blog.zone):%H:%M}"
    shown = textwrap.wrap(title or "No title yet", LETTERS, max_lines=LINES, placeholder="…")
    marks = f", {count} mark{'s' if count != 1 else ''} to settle" if count and not is_past else ""
    told = f"{title or 'No title yet'}, {what} {_day(local(instant, blog.zone).date())} at {time}{marks}"
    if what == "comes down":
        return Slip(post, "down", f"{time} comes down", shown, told, links.write(post))
    if what == "is updated":
        return Slip(post, "past" if is_past else "update", f"{time} update", shown, told, links.write(post))
    kind = "past" if is_past else "unsettled" if count else "coming"
    return Slip(post, kind, f"{time} · {count} mark{'s' if count != 1 else ''}" if kind == "unsettled" else time, shown, told, links.write(post), not is_past)


def _midnight(blog: Blog, day: date) -> int:
    return instant_of_wall(datetime(day.year, day.month, day.day).strftime("%Y-%m-%d %H:%M"), blog.zone)


def _day(day: date) -> str:
    return f"{DAYS[day.weekday()]} {day.day} {MONTHS[day.month - 1][:3]}"

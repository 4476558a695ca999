"""The rhythm of a blog as a drawing: a year by weeks, with posts, words and subjects."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import groupby
from urllib.parse import urlencode

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.numbers import counted
from mobbet.core.rhythm import PlannedPost, Week, by_weeks
from mobbet.core.screen_dates import day_and_month, short_month
from mobbet.core.timing import instant_of_wall, local
from mobbet.store import timetable
from mobbet.store.blogs import Blog
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.rhythm_contexts import RhythmCell, RhythmDrawing, RhythmRow, WeekLine

WEEKS = 53
LEFT, STEP, WIDTH, CELL = 190, 19.4, 1232, 17
SMALLEST_DOT = 3.4
"""The radius of the dot for one post, in drawing units."""
BARS, ROW, TOP = 84, 22, 26
MOST_ROWS, MOST_NEGLECTED, NEGLECTED = 24, 3, 120
"""`NEGLECTED` in days: after how long without a post a subject is named."""


def drawing_of(workshop: Workshop, blog: Blog, end: date) -> RhythmDrawing:
    """The 53 weeks up to the one of a day."""
    monday = end - timedelta(days=end.weekday(), weeks=WEEKS - 1)
    first, last = (
        instant_of_wall(f"{day.isoformat()} 00:00", blog.zone)
        for day in (monday, monday + timedelta(weeks=WEEKS))
    )
    rows = timetable.goings(workshop.db, blog.id, first - 1, last - 1)
    weeks = by_weeks(
        (
            PlannedPost(instant, local(instant, blog.zone).date(), post, title, category, words)
            for instant, post, title, category, words in rows
        ),
        monday,
        WEEKS,
    )
    names = {number: subject.name for number, subject in category_subjects(workshop, blog).items()}
    lines, y = [], TOP
    for words, part, count in (
        ("Posts", "post", lambda week: week.posts),
        ("Words", "word", lambda week: week.words),
    ):
        lines.append(_bars(blog, words, part, [(week, count(week)) for week in weeks], y))
        y += BARS
    totals = {number: sum(week.categories.get(number, 0) for week in weeks) for number in {*names, 0}}
    subjects = sorted(
        (number for number in names if totals[number]), key=lambda number: (-totals[number], names[number])
    )[:MOST_ROWS]
    y += 8
    for number in [*subjects, *([0] if totals[0] else [])]:
        lines.append(
            _cells(
                blog,
                names.get(number, "no category"),
                names.get(number),
                [(week, week.categories.get(number, 0)) for week in weeks],
                y,
            )
        )
        y += ROW
    months = [
        (round(LEFT + at * STEP, 1), short_month(week.monday))
        for at, week in enumerate(weeks)
        if week.monday.day <= 7
    ]
    return RhythmDrawing(
        WIDTH, y + 6, months, lines, _sentence(weeks), _neglected(workshop, blog, names), week_lines(blog, weeks, names),
    )  # fmt: skip


def _bars(blog: Blog, name: str, part: str, counts: list[tuple[Week, int]], top: int) -> RhythmRow:
    most = max(max(count for _, count in counts), 1)
    cells = []
    for at, (week, count) in enumerate(counts):
        height = round((BARS - 24) * count / most + (2 if count else 0), 1)
        if count:
            cells.append(_cell(blog, at, week, count, part, "", top + BARS - 8 - height, height))
    return RhythmRow(name, top + BARS - 12, f"{sum(count for _, count in counts):,}", cells, top + BARS - 8)


def _cells(
    blog: Blog, name: str, category: str | None, counts: list[tuple[Week, int]], top: int
) -> RhythmRow:
    cells = [
        _cell(blog, at, week, count, "post", category or "", top, CELL, _radius(count))
        for at, (week, count) in enumerate(counts)
        if count
    ]
    return RhythmRow(name, top + 13, str(sum(count for _, count in counts)), cells, top + CELL / 2)


def _radius(count: int) -> float:
    """The radius of the dot for so many posts: its area grows with them, as far as a week is wide."""
    return round(min(CELL / 2, SMALLEST_DOT * count**0.5), 1)


def _cell(
    blog: Blog,
    at: int,
    week: Week,
    count: int,
    part: str,
    category: str,
    y: float,
    height: float,
    radius: float = 0,
) -> RhythmCell:
    words = f"{count:,} {part}{'s' if count != 1 else ''}{f' in {category}' if category else ''} in the week of {_day(week.monday)}"
    return RhythmCell(
        round(LEFT + at * STEP, 1), y, CELL, height, radius, words, _posts_of(blog, week, category)
    )


def _posts_of(blog: Blog, week: Week, category: str = "") -> str:
    """The address of the posts of a week, or of those of one subject in it."""
    before, after = (
        (week.monday + timedelta(weeks=1)).isoformat(),
        (week.monday - timedelta(days=1)).isoformat(),
    )
    query = f"after:{after} before:{before} is:out is:timetable is:post" + (
        f' in:"{category}"' if category else ""
    )
    return f"{to_desk.desk(blog.slug)}?{urlencode({'q': query})}"


def week_lines(blog: Blog, weeks: list[Week], names: dict[int, str]) -> list[WeekLine]:
    """The weeks as lines, newest first; those without a post together in one line."""
    most = max((week.posts for week in weeks), default=1) or 1
    found: list[WeekLine] = []
    for has_posts, some in groupby(reversed(weeks), key=lambda week: bool(week.posts)):
        if not has_posts:
            found.append(WeekLine(f"{counted(len(list(some)), 'week')} without a post"))
            continue
        for week in some:
            subjects = sorted(names.get(number, "no category") for number in week.categories)
            found.append(
                WeekLine(
                    _day(week.monday), f"{counted(week.posts, 'post')}, {counted(week.words, 'word')}", ", ".join(subjects), round(100 * week.posts / most), _posts_of(blog, week),
                )
            )  # fmt: skip
    return found


def _sentence(weeks: list[Week]) -> str:
    """“47 posts and 21,300 words in a year; 20 weeks had none, 5 of them in a row.”"""
    posts, words, silent = (
        sum(week.posts for week in weeks),
        sum(week.words for week in weeks),
        sum(1 for week in weeks if not week.posts),
    )
    longest = run = 0
    for week in weeks:
        run = 0 if week.posts else run + 1
        longest = max(longest, run)
    told = (
        f"{posts:,} post{'s' if posts != 1 else ''} and {words:,} word{'s' if words != 1 else ''} in a year"
    )
    if not silent:
        return f"{told}; no week was without one."
    return f"{told}; {silent} week{'s' if silent != 1 else ''} had none" + (
        f", {longest} of them in a row." if longest > 1 else "."
    )


def _neglected(workshop: Workshop, blog: Blog, names: dict[int, str]) -> str:
    """“Nothing in Zips since 3 Feb, in Darning since 11 Jan.”; '' where every subject is looked after."""
    now = workshop.clock()
    last = timetable.last_in_categories(workshop.db, blog.id, sorted(names))
    old = sorted((instant, number) for number, instant in last.items() if now - instant > NEGLECTED * 86400)[
        :MOST_NEGLECTED
    ]
    told = [
        f"in {names[number]} since {_day(day)} {day.year}"
        for instant, number in old
        for day in [local(instant, blog.zone).date()]
    ]
    return f"Nothing {', '.join(told)}." if told else ""


def _day(day: date) -> str:
    return day_and_month(day)

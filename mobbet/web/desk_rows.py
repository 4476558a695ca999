"""The desk's lists, sentence and strip, in words."""

from __future__ import annotations

from datetime import timedelta

from mobbet.actions import desk as desk_actions
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import ONLY_ME
from mobbet.core.timing import FOREVER, ago_in_words, local, short_day, time_in_words
from mobbet.store import desk as desk_store
from mobbet.store.blogs import Blog
from mobbet.store.desk import DeskRow
from mobbet.web import links
from mobbet.web.contexts_desk import DeskRows, Group, MoreRows, Row, Strip, StripBlock, StripGap

WEEKS = 12
WEEKS_BACK = 8
LEFT, RIGHT = 24.0, 1208.0
SMALL_NUMBERS = ("No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten", "Eleven", "Twelve")


def in_words(number: int) -> str:
    return SMALL_NUMBERS[number] if number < len(SMALL_NUMBERS) else str(number)


def days(number: int) -> str:
    return f"{in_words(number)} day{'s' if number != 1 else ''}"


def row_of(workshop: Workshop, blog: Blog, row: DeskRow) -> Row:
    """A post's row: its state in words, and what there is to say beside it."""
    now = workshop.clock()
    state, mark, note = "", "", ago_in_words(row.changed_at, blog.zone, now)
    is_live = row.shows_from < row.shows_until and row.shows_until > now
    if row.aside_at:
        state = "set aside"
    elif is_live:
        today = local(now, blog.zone).date()
        is_out = row.shows_from <= now
        state = short_day(local(row.goes_out, blog.zone).date(), today) if is_out else time_in_words(row.goes_out, blog.zone, now).replace(" at ", " ")
        note = f"comes down {short_day(local(row.comes_down, blog.zone).date(), today)}" if row.comes_down < FOREVER else ""
        if row.revision != row.placed_revision:
            note, mark = "changed since, not out yet" if is_out else "changed since it was placed", "bad"
    elif row.shows_from < row.shows_until:
        state = states.WORDS[states.CAME_DOWN if row.comes_down == row.shows_until else states.WITHDRAWN]
    else:
        state = f"{row.words:,} words" if row.words else "empty"
    if row.visibility == ONLY_ME:
        note = note or "only its author reads it"
    return Row(row.id, row.title or "No title yet", row.author, row.categories or "no category yet", state, mark, note)


def groups(workshop: Workshop, blog: Blog) -> DeskRows:
    found = desk_actions.groups(workshop, blog)
    named = [
        Group("In hand", [row_of(workshop, blog, row) for row in found.in_hand]),
        Group("In the timetable", [row_of(workshop, blog, row) for row in found.in_timetable]),
        Group("Published", [row_of(workshop, blog, row) for row in found.published], _more(blog, found.more)),
    ]
    shown = [group for group in named if group.rows]
    return DeskRows(shown, "", False, not shown, blog)


def older(workshop: Workshop, blog: Blog, before: tuple[int, int]) -> MoreRows:
    rows, more = desk_actions.older(workshop, blog, before)
    return MoreRows([row_of(workshop, blog, row) for row in rows], _more(blog, more))


def _more(blog: Blog, more: tuple[int, int] | None) -> str:
    return f"{links.desk_rows(blog.slug)}?before={more[0]}-{more[1]}" if more else ""


def search(workshop: Workshop, blog: Blog, query: str) -> DeskRows:
    rows = [row_of(workshop, blog, row) for row in desk_actions.find(workshop, blog, query)]
    heading = f"{len(rows)} post{'s' if len(rows) != 1 else ''} with “{query.strip()}”"
    return DeskRows([Group(heading, rows)] if rows else [], query, True, False, blog)


def sentence(workshop: Workshop, blog: Blog) -> tuple[str, str]:
    """(headline, the rest): days since the last post, the usual gap, the next one out."""
    rhythm, now = desk_actions.rhythm(workshop, blog), workshop.clock()
    if rhythm.days_quiet is None:
        headline = "Nothing is published yet."
    elif rhythm.days_quiet == 0:
        headline = "The last post went out today."
    else:
        headline = f"{days(rhythm.days_quiet)} since the last post."
    rest = []
    if rhythm.usual_gap:
        rest.append(f"You usually leave {days(rhythm.usual_gap).lower()}.")
    if rhythm.next_out:
        rest.append(f"The next goes out on {time_in_words(rhythm.next_out, blog.zone, now)}.")
    elif rhythm.days_quiet is not None:
        rest.append("Nothing is in the timetable.")
    return headline, " ".join(rest)


def strip(workshop: Workshop, blog: Blog) -> Strip | None:
    """Twelve weeks of the blog as a drawing; None while it has nothing to draw."""
    now = workshop.clock()
    today = local(now, blog.zone)
    monday = (today - timedelta(days=today.weekday(), weeks=WEEKS_BACK)).replace(hour=0, minute=0, second=0)
    first = int(monday.timestamp())
    last = first + WEEKS * 7 * 86400

    def x(instant: int) -> float:
        return round(LEFT + (RIGHT - LEFT) * (instant - first) / (last - first), 1)

    posts = desk_store.out_days(workshop.db, blog.id, first, last, now)
    if not posts:
        return None
    blocks = []
    for post in posts:
        kind = "out" if post.shows_from <= now else "coming"
        when = time_in_words(post.goes_out, blog.zone, now)
        blocks.append(StripBlock(x(post.goes_out), kind, f"{post.title}, {when}", links.write(post.id)))
        if first <= post.comes_down < last:
            when = time_in_words(post.comes_down, blog.zone, now)
            blocks.append(StripBlock(x(post.comes_down), "down", f"{post.title} comes down {when}", links.write(post.id)))
    weeks = []
    for number in range(WEEKS):
        day = monday + timedelta(weeks=number)
        weeks.append((x(int(day.timestamp())), f"{day.day} {day:%b}"))
    out = [post.goes_out for post in posts if post.shows_from <= now]
    return Strip(weeks, x(now), blocks, _gaps(out, now, x), f"{len(out)} posts out and {len(posts) - len(out)} to come in twelve weeks")


def _gaps(out: list[int], now: int, x: object) -> list[StripGap]:
    """The longest gap between posts, and the quiet since the last one, where they are long enough to name."""
    gaps = []
    pairs = [(earlier, later) for earlier, later in zip(out, out[1:], strict=False) if later - earlier >= 8 * 86400]
    if pairs:
        earlier, later = max(pairs, key=lambda pair: pair[1] - pair[0])
        gaps.append(StripGap(x(earlier) + 10, x(later) - 10, f"{(later - earlier) // 86400} days", False))
    if out and now - out[-1] >= 7 * 86400:
        gaps.append(StripGap(x(out[-1]) + 10, x(now) - 4, f"{(now - out[-1]) // 86400} days quiet", True))
    return gaps

"""Days that a keeper marks in the timetable, by hand or from a calendar file; slots may not come on them."""

from __future__ import annotations

from datetime import date, timedelta

from mobbet.actions import queue
from mobbet.actions.access import blog_for
from mobbet.actions.posts import read_line
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.calendars import read_days_of_file
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.rights import Action
from mobbet.core.timing import local
from mobbet.store import marked_days
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_STRETCH = 366
MOST_IN_FILE = 500
SECONDS = 5.0
YEARS_AHEAD = 3
"""How far ahead repeating days of a file are marked."""


def mark(
    workshop: Workshop, person: Person, slug: str, first: str, last: str, words: str, skips: bool
) -> None:
    """Marks one day, or all from one to another (ISO dates). Raises BadInput."""
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    begin, end, about = _day(first, "first"), _day(last or first, "last"), read_line(words, "title")
    if not about:
        raise BadInput("The days have no name yet; write what they are, such as “workshop closed”.", "words")
    if end < begin:
        raise BadInput(f"{end.isoformat()} is before {begin.isoformat()}; choose a later last day.", "last")
    if (end - begin).days >= LONGEST_STRETCH:
        raise BadInput(
            f"From {begin.isoformat()} to {end.isoformat()} are more than {LONGEST_STRETCH} days; mark fewer at once.",
            "last",
        )
    with changing(workshop, person, "the timetable changed"):
        if not marked_days.add(workshop.db, blog.id, begin.isoformat(), end.isoformat(), about, skips):
            raise BadInput(f"These days are marked as “{about}” already.", "words")
        queue.refill(workshop, blog, is_strict=False)


def unmark(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    with changing(workshop, person, "the timetable changed"):
        if not marked_days.remove(workshop.db, blog.id, number):
            raise NotFound("These days are not marked any more; reload the page.")
        queue.refill(workshop, blog, is_strict=False)


def bring_in(workshop: Workshop, person: Person, slug: str, data: bytes, skips: bool) -> tuple[int, int]:
    """Marks the days of a calendar file (iCalendar) from today on; answers (how many entries were marked, how many were marked before).

    Raises BadInput for what is no calendar, or has too many days.
    """
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    today = local(workshop.clock(), blog.zone).date()
    until = today.replace(year=today.year + YEARS_AHEAD, day=min(today.day, 28))
    found = workshop.services.heavy(
        read_days_of_file, data, blog.zone, today, until, seconds=SECONDS, what="This calendar"
    )
    if len(found) > MOST_IN_FILE:
        raise BadInput(f"The file has {len(found):,} entries to come; {MOST_IN_FILE} are the most.", "file")
    with changing(workshop, person, "the timetable changed"):
        new = sum(
            marked_days.add(
                workshop.db,
                blog.id,
                one.first.isoformat(),
                one.last.isoformat(),
                read_line(one.words, "title") or "marked",
                skips,
            )
            for one in found
        )
        queue.refill(workshop, blog, is_strict=False)
    return new, len(found) - new


def on_days(
    workshop: Workshop, blog: Blog, first: date, last: date
) -> dict[date, list[marked_days.MarkedDays]]:
    """What is marked on each day of a stretch."""
    found: dict[date, list[marked_days.MarkedDays]] = {}
    for one in marked_days.of_blog(workshop.db, blog.id, first.isoformat(), last.isoformat()):
        day = max(first, date.fromisoformat(one.first))
        while day <= min(last, date.fromisoformat(one.last)):
            found.setdefault(day, []).append(one)
            day += timedelta(days=1)
    return found


def _day(text: str, field: str) -> date:
    try:
        return date.fromisoformat(text.strip())
    except ValueError:
        raise BadInput(f"“{text}” is no day; write it like 2026-12-24.", field) from None

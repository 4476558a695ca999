"""The Timetable in words: what happens day by day, the slots, and the queue."""

from __future__ import annotations

from datetime import date
from urllib.parse import urlencode

from mobbet.actions import desk, queue, slots
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core import rhythm
from mobbet.core.rhythm import PlannedPost, Remark
from mobbet.core.screen_dates import (
    clock_time,
    day_and_month,
    time_in_words,
    weekday_and_day,
    weekday_day_and_month,
)
from mobbet.core.slots import Slot, in_words, occurrences
from mobbet.core.timing import local, wall
from mobbet.store import desk as desk_store
from mobbet.store import marked_days, timetable
from mobbet.store import slots as store
from mobbet.store.blogs import Blog
from mobbet.store.desk import DeskRow
from mobbet.web.desk import addresses as to_desk
from mobbet.web.shell.contexts import Choice
from mobbet.web.timetable.contexts import Entry, MarkedRow, QueueRow, SlotRow, TimetableDay

KINDS = {"goes out": "out", "is updated": "update", "comes down": "down"}
BACK, AHEAD = 120, 400
"""In days: how far around now is looked for what stands out."""
MOST_EXCEPTIONS, MOST_REMARKS, MOST_MOVABLE, MOST_DRAFTS = 3, 6, 60, 60


def slot_rows(workshop: Workshop, blog: Blog) -> list[SlotRow]:
    now = workshop.clock()
    kept = {slot.id: slot for slot in queue.kept_free(workshop, blog)}
    return [
        SlotRow(slot.id, in_words(slot), ", ".join(slot.excepted), _next(kept[slot.id], blog, now))
        for slot in store.of_blog(workshop.db, blog.id)
    ]


def _next(slot: Slot, blog: Blog, now: int) -> str:
    coming = occurrences([slot], blog.zone, now, now + queue.AHEAD)
    return time_in_words(coming[0].instant, blog.zone, now) if coming else "never again"


def queue_rows(workshop: Workshop, blog: Blog) -> list[QueueRow]:
    """The posts of the queue with the slots they will fill."""
    order = queue.waiting(workshop, blog)
    times = {
        post_id: (instant, title)
        for instant, post_id, title in store.to_come(workshop.db, blog.id, workshop.clock())
    }
    now = workshop.clock()
    return [
        QueueRow(
            number,
            times[number][1],
            time_in_words(times[number][0], blog.zone, now),
            at == 0,
            at == len(order) - 1,
        )
        for at, number in enumerate(order)
        if number in times
    ]


def days(workshop: Workshop, blog: Blog, weeks: int) -> tuple[list[TimetableDay], int]:
    """(what happens on each day that has something, how many slots are free)."""
    now = workshop.clock()
    last = now + weeks * 7 * 86400
    queued = set(store.queue(workshop.db, blog.id))
    found: list[tuple[int, Entry]] = []
    for instant, what, post_id, title in timetable.events(workshop.db, blog.id, now, last):
        kind = "queued" if post_id in queued and what == "goes out" else KINDS[what]
        found.append(
            (
                instant,
                Entry(
                    _clock(instant, blog), title, kind, "in the queue" if kind == "queued" else what, post_id
                ),
            )
        )
    free = [turn for turn in slots.turns(workshop, blog, now, last) if turn.post_id is None]
    found += [
        (turn.instant, Entry(turn.wall[11:16], "free slot", "free", "", wall=turn.wall)) for turn in free
    ]
    by_day: dict[str, list[Entry]] = {}
    last_of: dict[str, str] = {}
    for instant, entry in sorted(found, key=lambda pair: (pair[0], pair[1].kind)):
        moment = local(instant, blog.zone)
        words = weekday_and_day(moment, moment.year != local(now, blog.zone).year)
        by_day.setdefault(words, []).append(entry)
        last_of[words] = wall(instant, blog.zone)
    return [TimetableDay(words, entries, last_of[words]) for words, entries in by_day.items()], len(free)


def _clock(instant: int, blog: Blog) -> str:
    return clock_time(local(instant, blog.zone))


def pattern_words(workshop: Workshop, blog: Blog) -> str:
    """“every Tuesday at 09:00 and the last Thursday of the month at 18:30”; '' without slots."""
    found = [in_words(slot) for slot in store.of_blog(workshop.db, blog.id)]
    return " and ".join(filter(None, (", ".join(found[:-1]), found[-1]))) if found else ""


def excepted_words(workshop: Workshop, blog: Blog) -> str:
    """“24 Dec to 3 Jan and 2 more”: the days to come on which slots do not come; '' for none."""
    today = local(workshop.clock(), blog.zone).date().isoformat()
    found = [
        stretch_in_words(one.first, one.last)
        for one in marked_days.of_blog(workshop.db, blog.id, today)
        if one.skips
    ]
    found += [
        stretch_in_words(day, day)
        for slot in store.of_blog(workshop.db, blog.id)
        for day in slot.excepted
        if day >= today
    ]
    more = f" and {len(found) - MOST_EXCEPTIONS} more" if len(found) > MOST_EXCEPTIONS else ""
    return ", ".join(found[:MOST_EXCEPTIONS]) + more


def stretch_in_words(first: str, last: str) -> str:
    """“24 Dec”, “24 Dec to 3 Jan” of ISO dates."""
    words = [day_and_month(day) for day in map(date.fromisoformat, (first, last))]
    return words[0] if first == last else f"{words[0]} to {words[1]}"


def marked_rows(workshop: Workshop, blog: Blog) -> list[MarkedRow]:
    """The marked days to come."""
    today = local(workshop.clock(), blog.zone).date().isoformat()
    return [
        MarkedRow(
            one.id, f"{stretch_in_words(one.first, one.last)} {one.last[:4]}", one.words, bool(one.skips)
        )
        for one in marked_days.of_blog(workshop.db, blog.id, today)
    ]


def remarks(workshop: Workshop, blog: Blog) -> list[str]:
    """What stands out in what is to come, in words."""
    now = workshop.clock()
    rows = timetable.goings(workshop.db, blog.id, now - BACK * 86400, now + AHEAD * 86400)
    goings = [
        PlannedPost(instant, local(instant, blog.zone).date(), post, title or "No title yet", category, words)
        for instant, post, title, category, words in rows
    ]
    usual = desk.rhythm(workshop, blog).usual_gap
    names = {number: subject.name for number, subject in category_subjects(workshop, blog).items()}
    return [_remark(one, names, usual) for one in rhythm.remarks(goings, usual, now)][:MOST_REMARKS]


def _remark(one: Remark, names: dict[int, str], usual: int | None) -> str:
    first, last = one.posts[0], one.posts[-1]
    if one.what == "same day":
        return f"“{first.title}” and “{last.title}” go out on the same day, {_day(first.day)}."
    if one.what == "gap":
        return f"{one.days} days lie between “{first.title}” and “{last.title}” on {_day(last.day)}; you usually leave {usual}."
    return f"{len(one.posts)} posts in {names.get(first.category, 'one category')} go out in a row, from “{first.title}” on {_day(first.day)} to “{last.title}” on {_day(last.day)}."


def _day(day: date) -> str:
    return weekday_day_and_month(day)


def movable(workshop: Workshop, blog: Blog) -> list[Choice]:
    """What is in the timetable, for changing places."""
    return [
        Choice(str(number), title or "No title yet")
        for _, number, title in store.to_come(workshop.db, blog.id, workshop.clock(), MOST_MOVABLE)
    ]


def drafts(workshop: Workshop, blog: Blog) -> list[DeskRow]:
    """What is in hand, for putting it in a slot."""
    return desk_store.in_hand(workshop.db, blog.id, workshop.clock(), MOST_DRAFTS)


def fill_address(blog: Blog, rows: list[DeskRow], free: int) -> str:
    """Where the free slots are filled with the finished drafts, those that have lain longest first; '' where there are none of either."""
    finished = [
        row
        for row in reversed(rows)
        if row.is_read and row.words and row.categories and not row.must + row.should
    ]
    query = urlencode([("said", "queue"), *(("post", row.id) for row in finished[:free])])
    return f"{to_desk.handling(blog.slug, 'place')}?{query}" if finished and free else ""

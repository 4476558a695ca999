"""The Timetable in words: what happens day by day, the slots, and the queue."""

from __future__ import annotations

from mobbet.actions import queue, slots
from mobbet.actions.workshop import Workshop
from mobbet.core.slots import Slot, in_words, occurrences
from mobbet.core.timing import DAYS, MONTHS, local, time_in_words, wall
from mobbet.store import posts, timetable
from mobbet.store import slots as store
from mobbet.store.blogs import Blog
from mobbet.web.contexts import Choice
from mobbet.web.contexts_timetable import Entry, QueueRow, SlotRow, TimetableDay

SPANS = {"8": "the next eight weeks", "26": "the next half year", "52": "the next year"}
KINDS = {"goes out": "out", "is updated": "update", "comes down": "down"}


def spans(chosen: str) -> list[Choice]:
    return [Choice(value, words, value == chosen) for value, words in SPANS.items()]


def slot_rows(workshop: Workshop, blog: Blog) -> list[SlotRow]:
    now = workshop.clock()
    kept = {slot.id: slot for slot in queue.kept_free(workshop, blog)}
    return [SlotRow(slot.id, in_words(slot), ", ".join(slot.excepted), _next(kept[slot.id], blog, now)) for slot in store.of_blog(workshop.db, blog.id)]


def _next(slot: Slot, blog: Blog, now: int) -> str:
    coming = occurrences([slot], blog.zone, now, now + queue.AHEAD)
    return time_in_words(coming[0].instant, blog.zone, now) if coming else "never again"


def queue_rows(workshop: Workshop, blog: Blog) -> list[QueueRow]:
    order = queue.waiting(workshop, blog)
    times = {post_id: instant for instant, post_id, _ in store.to_come(workshop.db, blog.id, workshop.clock())}
    now = workshop.clock()
    return [
        QueueRow(number, posts.by_id(workshop.db, number).title, time_in_words(times[number], blog.zone, now), at == 0, at == len(order) - 1)
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
        found.append((instant, Entry(_clock(instant, blog), title, kind, "in the queue" if kind == "queued" else what, post_id)))
    free = [turn for turn in slots.turns(workshop, blog, now, last) if turn.post_id is None]
    found += [(turn.instant, Entry(turn.wall[11:16], "free slot", "free", "")) for turn in free]
    by_day: dict[str, list[Entry]] = {}
    last_of: dict[str, str] = {}
    for instant, entry in sorted(found, key=lambda pair: (pair[0], pair[1].kind)):
        moment = local(instant, blog.zone)
        year = "" if moment.year == local(now, blog.zone).year else f" {moment.year}"
        words = f"{DAYS[moment.weekday()]} {moment.day} {MONTHS[moment.month - 1]}{year}"
        by_day.setdefault(words, []).append(entry)
        last_of[words] = wall(instant, blog.zone)
    return [TimetableDay(words, entries, last_of[words]) for words, entries in by_day.items()], len(free)


def _clock(instant: int, blog: Blog) -> str:
    return f"{local(instant, blog.zone):%H:%M}"

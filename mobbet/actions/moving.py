"""Moving what is in the timetable to another day: as it is, with its effect in a sentence."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import queue, slots
from mobbet.actions.workshop import Workshop, keeper_of
from mobbet.core.errors import Refused
from mobbet.core.slots import Free
from mobbet.core.timing import instant_of_wall, local, read_wall, time_in_words
from mobbet.store import placements, posts
from mobbet.store import slots as slot_store
from mobbet.store import timetable as events
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

DAY = 86400


@dataclass(frozen=True)
class Moved:
    """What a move came to, in words, and the wall time the post had."""

    words: str
    before: str


def move(workshop: Workshop, person: Person, slug: str, post_id: int, said: str) -> Moved:
    """Gives a post of the timetable another day (`2026-12-01`, at the free slot of that day, or else its own time of day) or another
    time (`2026-12-01 09:00`). It leaves the queue. Raises BadInput and Refused.
    """
    blog = keeper_of(workshop, person, slug, "its timetable")
    with workshop.db.transaction():
        now = workshop.clock()
        pending = next((row for row in placements.of_post(workshop.db, post_id) if row.blog_id == blog.id and now < row.shows_from < row.shows_until), None)
        if pending is None:
            raise Refused("This post is not in the timetable any more; reload the page.")
        wall = read_wall(said if len(said.strip()) > 10 else f"{said.strip()} {_time(workshop, blog, said.strip(), pending.goes_out_wall)}", "day")
        instant = instant_of_wall(wall, blog.zone)
        if instant <= now:
            raise Refused(f"{time_in_words(instant, blog.zone, now)} is past; choose a time to come.")
        order = slot_store.queue(workshop.db, blog.id)
        queue.move(workshop, blog, post_id, Free(wall, instant))
        slot_store.set_queue(workshop.db, blog.id, [number for number in order if number != post_id])
        queue.refill(workshop, blog, is_strict=False)
        title = posts.by_id(workshop.db, post_id).title
        return Moved(f"“{title}” now goes out {time_in_words(instant, blog.zone, now)}; {_around(workshop, blog, post_id, instant)}.", pending.goes_out_wall)


def _time(workshop: Workshop, blog: Blog, day: str, usual: str) -> str:
    """The time of the free slot of a day, or the time of day the post had."""
    first = instant_of_wall(read_wall(f"{day} 00:00", "day"), blog.zone)
    free = next((turn for turn in slots.turns(workshop, blog, first - 1, first + DAY - 1) if turn.post_id is None), None)
    return (free.wall if free else usual)[11:16]


def _around(workshop: Workshop, blog: Blog, post_id: int, instant: int) -> str:
    """How far the posts before and after it are, and what else goes out on its day."""
    others = [(at, title) for at, what, number, title in events.events(workshop.db, blog.id, instant - 60 * DAY, instant + 60 * DAY) if what == "goes out" and number != post_id]
    day = local(instant, blog.zone).date()
    same = [title for at, title in others if local(at, blog.zone).date() == day]
    if same:
        return f"“{same[0]}” goes out on the same day"
    before, after = max((at for at, _ in others if at < instant), default=None), min((at for at, _ in others if at > instant), default=None)
    told = [f"{_days(instant - before)} after the post before it" if before else "", f"{_days(after - instant)} before the next" if after else ""]
    return ", ".join(filter(None, told)) or "nothing else goes out within two months of it"


def _days(seconds: int) -> str:
    days = max(1, round(seconds / DAY))
    return f"{days} day{'s' if days != 1 else ''}"

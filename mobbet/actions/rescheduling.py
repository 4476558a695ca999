"""Reschedules posts of the timetable, with the effect in a sentence and undo."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime, timedelta

from mobbet.actions import placing, proofing, queue, slots, undoing
from mobbet.actions.access import blog_for, editable_post, title_for
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.rights import Action
from mobbet.core.screen_dates import time_in_words
from mobbet.core.slots import Free
from mobbet.core.timing import day_of, instant_of_wall, local, read_wall
from mobbet.core.when import read_when
from mobbet.store import placements, posts
from mobbet.store import slots as slot_store
from mobbet.store import timetable as events
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement

DAY = 86400
_A_DAY = re.compile(r"\d{4}-\d\d-\d\d")


@dataclass(frozen=True)
class Rescheduled:
    """What a move came to, in words, and the number by which it is undone."""

    words: str
    number: int


def move(workshop: Workshop, person: Person, slug: str, post_id: int, said: str) -> Rescheduled:
    """Gives a post of the timetable another day (`2026-12-01`, at the free slot of that day, or else its own time of day) or another
    time, as people say it (`thu 9`). It leaves the queue. Raises BadInput and Refused.
    """
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    editable_post(workshop, person, post_id)

    def change() -> str:
        now, pending = workshop.clock(), _pending(workshop, blog, post_id)
        day = said.strip()
        wall = (
            read_wall(f"{day} {_time(workshop, blog, day, pending.goes_out_wall)}", "day")
            if _A_DAY.fullmatch(day)
            else read_when(said, now, blog.zone, "day")
        )
        instant = _to(workshop, blog, post_id, wall)
        _leave_queue(workshop, blog, [post_id])
        return f"“{title_for(workshop, person, post_id)}” now goes out {time_in_words(instant, blog.zone, now)}; {_around(workshop, blog, post_id, instant)}"

    return _recorded(workshop, person, blog, [post_id], change)


def push(workshop: Workshop, person: Person, slug: str, post_id: int, days: int = 7) -> Rescheduled:
    """Moves a post of the timetable, and everything that goes out after it, on by so many days. They leave the queue. What would come down
    before stays where it is. Raises Refused.
    """
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    editable_post(workshop, person, post_id)
    with changing(workshop, person, "a post was moved"):
        first = _pending(workshop, blog, post_id)
        later = [
            _pending(workshop, blog, number)
            for instant, number, _ in slot_store.to_come(workshop.db, blog.id, workshop.clock())
            if instant >= first.goes_out
        ]
        walls = {
            row.post_id: (datetime.fromisoformat(row.goes_out_wall) + timedelta(days=days)).strftime(
                "%Y-%m-%dT%H:%M"
            )
            for row in later
        }
        stays = [
            row.post_id for row in later if row.comes_down <= instant_of_wall(walls[row.post_id], blog.zone)
        ]
        if post_id in stays:
            raise Refused(
                f"“{title_for(workshop, person, post_id)}” comes down before that; let it stay up longer first."
            )
        going = [row.post_id for row in later if row.post_id not in stays]

        def change() -> str:
            for number in reversed(going):
                _to(workshop, blog, number, walls[number])
            _leave_queue(workshop, blog, going)
            others = f" and {len(going) - 1} after it" if len(going) > 1 else ""
            kept = (
                f"; “{title_for(workshop, person, stays[0])}”{f' and {len(stays) - 1} more stay' if len(stays) > 1 else ' stays'}, since it comes down before"
                if stays
                else ""
            )
            return f"“{title_for(workshop, person, post_id)}”{others} moved on by {days} days, to {time_in_words(_pending(workshop, blog, post_id).goes_out, blog.zone, workshop.clock())}{kept}"

        return _recorded(workshop, person, blog, going, change)


def swap(workshop: Workshop, person: Person, slug: str, post_id: int, other_id: int) -> Rescheduled:
    """Lets two posts of the timetable change places; two of the queue stay in it. Raises BadInput and Refused."""
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    editable_post(workshop, person, post_id)
    if post_id == other_id:
        raise BadInput("A post cannot change places with itself; choose another one.", "other")
    editable_post(workshop, person, other_id)

    def change() -> str:
        one, other = _pending(workshop, blog, post_id), _pending(workshop, blog, other_id)
        order = queue.waiting(workshop, blog)
        _to(workshop, blog, post_id, other.goes_out_wall)
        _to(workshop, blog, other_id, one.goes_out_wall)
        if post_id in order and other_id in order:
            places = {post_id: other_id, other_id: post_id}
            slot_store.set_queue(workshop.db, blog.id, [places.get(number, number) for number in order])
            queue.refill(workshop, blog, is_strict=False)
        else:
            _leave_queue(workshop, blog, [post_id, other_id])
        now = workshop.clock()
        times = [time_in_words(instant, blog.zone, now) for instant in (other.goes_out, one.goes_out)]
        return f"“{title_for(workshop, person, post_id)}” now goes out {times[0]}, and “{title_for(workshop, person, other_id)}” {times[1]}"

    return _recorded(workshop, person, blog, [post_id, other_id], change)


def place_at(workshop: Workshop, person: Person, slug: str, post_id: int, said: str) -> Rescheduled:
    """Places a post that is in hand at a time, such as that of a free slot. Raises what placing raises."""
    blog = blog_for(workshop, person, slug, Action.KEEP_TIMETABLE)
    editable_post(workshop, person, post_id)

    def change() -> str:
        now = workshop.clock()
        wall = read_when(said, now, blog.zone, "day")
        instant = instant_of_wall(wall, blog.zone)
        if instant <= now:
            raise Refused(f"{time_in_words(instant, blog.zone, now)} is past; choose a time to come.")
        proofing.before_placing(workshop, person, post_id)
        posts.settle(workshop.db, post_id, now, goes_out_wall=wall)
        placing.place(workshop, person, post_id)
        return f"“{title_for(workshop, person, post_id)}” goes out {time_in_words(instant, blog.zone, now)}; {_around(workshop, blog, post_id, instant)}"

    return _recorded(workshop, person, blog, [post_id], change)


def _recorded(
    workshop: Workshop, person: Person, blog: Blog, numbers: list[int], change: undoing.Change
) -> Rescheduled:
    return Rescheduled(*undoing.record(workshop, person, blog, numbers, [], change))


def _pending(workshop: Workshop, blog: Blog, post_id: int) -> Placement:
    """What is in the timetable of a post. Raises Refused for none."""
    now = workshop.clock()
    found = next(
        (
            row
            for row in placements.of_post(workshop.db, post_id)
            if row.blog_id == blog.id and now < row.shows_from < row.shows_until
        ),
        None,
    )
    if found is None:
        raise Refused("This post is not in the timetable any more; reload the page.")
    return found


def _to(workshop: Workshop, blog: Blog, post_id: int, wall: str) -> int:
    """Moves a post to a wall time; answers with the instant."""
    instant, now = instant_of_wall(wall, blog.zone), workshop.clock()
    if instant <= now:
        raise Refused(f"{time_in_words(instant, blog.zone, now)} is past; choose a time to come.")
    queue.move(workshop, blog, post_id, Free(wall, instant))
    return instant


def _leave_queue(workshop: Workshop, blog: Blog, numbers: list[int]) -> None:
    """Posts that were given a time of their own leave the queue, which goes on without them."""
    slot_store.set_queue(
        workshop.db,
        blog.id,
        [number for number in slot_store.queue(workshop.db, blog.id) if number not in numbers],
    )
    queue.refill(workshop, blog, is_strict=False)


def _time(workshop: Workshop, blog: Blog, day: str, usual: str) -> str:
    """The time of the free slot of a day, or the time of day the post had."""
    first, until = day_of(read_wall(f"{day} 00:00", "day")[:10], blog.zone)
    free = next(
        (turn for turn in slots.turns(workshop, blog, first - 1, until - 1) if turn.post_id is None), None
    )
    return (free.wall if free else usual)[11:16]


def _around(workshop: Workshop, blog: Blog, post_id: int, instant: int) -> str:
    """How far the posts before and after it are, and what else goes out on its day."""
    others = [
        (at, title)
        for at, what, number, title in events.events(
            workshop.db, blog.id, instant - 60 * DAY, instant + 60 * DAY
        )
        if what == "goes out" and number != post_id
    ]
    day = local(instant, blog.zone).date()
    same = [title for at, title in others if local(at, blog.zone).date() == day]
    if same:
        return f"“{same[0]}” goes out on the same day"
    before, after = (
        max((at for at, _ in others if at < instant), default=None),
        min((at for at, _ in others if at > instant), default=None),
    )
    told = [
        f"{_days(instant - before)} after the post before it" if before else "",
        f"{_days(after - instant)} before the next" if after else "",
    ]
    return ", ".join(filter(None, told)) or "nothing else goes out within two months of it"


def _days(seconds: int) -> str:
    days = max(1, round(seconds / DAY))
    return f"{days} day{'s' if days != 1 else ''}"

"""The slots of a blog, and the queue that fills them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import placing, post_states, proofing, queue
from mobbet.actions.access import editable_post, require
from mobbet.actions.placing import Placed
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.rights import Action
from mobbet.core.slots import Slot, in_words, occurrences, read_days, read_rule, read_time
from mobbet.core.states import OUT
from mobbet.core.timing import local
from mobbet.store import posts, slots
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

MOST_SLOTS = 50
SPAN = 366 * 86400


@dataclass(frozen=True)
class Turn:
    """One slot as it will be: its wall time and instant, and the post that fills it (None while it is free)."""

    wall: str
    instant: int
    post_id: int | None
    title: str
    is_queued: bool


def add_slot(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    rule: str,
    time: str = "09:00",
    starts: str = "",
    excepted: str = "",
) -> Slot:
    """A repeating time from a day on (today, without one). Raises BadInput."""
    require(workshop, person, blog, Action.KEEP_TIMETABLE)
    time = read_time(time)
    days = read_days(starts)
    if len(days) > 1:
        raise BadInput("Name one day from which the slot counts.", "starts")
    begin = days[0] if days else local(workshop.clock(), blog.zone).date().isoformat()
    slot = Slot(read_rule(rule, time, begin, blog.zone), time, begin, read_days(excepted))
    with changing(workshop, person, "the timetable changed"):
        known = slots.of_blog(workshop.db, blog.id)
        if any((one.rule, one.time) == (slot.rule, slot.time) for one in known):
            raise BadInput(f"There is a slot {in_words(slot)} already.", "rule")
        if len(known) >= MOST_SLOTS:
            raise BadInput(f"The blog has {MOST_SLOTS} slots, which is the most; remove one first.", "rule")
        number = slots.add(workshop.db, blog.id, slot, workshop.clock())
        queue.refill(workshop, blog)
    return Slot(slot.rule, slot.time, slot.starts, slot.excepted, number)


def leave_out(workshop: Workshop, person: Person, blog: Blog, number: int, excepted: str) -> None:
    """Names the days on which a slot does not come; the queue moves on."""
    require(workshop, person, blog, Action.KEEP_TIMETABLE)
    with changing(workshop, person, "the timetable changed"):
        if number not in [slot.id for slot in slots.of_blog(workshop.db, blog.id)]:
            raise NotFound("This slot is no more; reload the page.")
        slots.set_excepted(workshop.db, number, read_days(excepted))
        queue.refill(workshop, blog)


def remove_slot(workshop: Workshop, person: Person, blog: Blog, number: int) -> None:
    """Removes a slot; posts of the queue that stood in it move to what is left."""
    require(workshop, person, blog, Action.KEEP_TIMETABLE)
    with changing(workshop, person, "the timetable changed"):
        if not slots.remove(workshop.db, blog.id, number):
            raise NotFound("This slot is no more; reload the page.")
        queue.refill(workshop, blog)


def turns(workshop: Workshop, blog: Blog, first: int, last: int) -> list[Turn]:
    """The slots of a stretch of time with the posts that fill them, as they will be by the rules of now."""
    found = occurrences(queue.kept_free(workshop, blog), blog.zone, first, last)
    queued = set(slots.queue(workshop.db, blog.id))
    placed: dict[int, tuple[int | None, str]] = {}
    for instant, post_id, title in slots.to_come(workshop.db, blog.id, workshop.clock()):
        placed.setdefault(instant, (post_id, title))
    return [
        Turn(one.wall, one.instant, post_id, title, post_id in queued)
        for one in found
        for post_id, title in (placed.get(one.instant, (None, "")),)
    ]


def take_next_free(workshop: Workshop, person: Person, post_id: int) -> None:
    """Sets the time of a post's docket to the next free slot. Raises Refused where there is none, or the post is out."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person, "the timetable changed"):
        if post_states.state_of(workshop, post) == OUT:
            raise Refused("This post is out already; withdraw it first.")
        slots.set_queue(
            workshop.db,
            blog.id,
            [number for number in slots.queue(workshop.db, blog.id) if number != post.id],
        )
        posts.settle(
            workshop.db, post.id, workshop.clock(), goes_out_wall=queue.next_free(workshop, blog).wall
        )


def wait_for_turn(workshop: Workshop, person: Person, post_id: int) -> None:
    """Sets the docket of a post so that placing it puts it at the end of the queue; until then it has the time of the next free slot."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person):
        if post_states.state_of(workshop, post) == OUT:
            raise Refused("This post is out already; withdraw it first.")
        wall = queue.next_free(workshop, blog).wall
        posts.settle(workshop.db, post.id, workshop.clock(), goes_out_wall=wall, waits_turn=1)


def put_in_queue(workshop: Workshop, person: Person, post_id: int) -> Placed:
    """Puts a finished post at the end of the queue: it goes out at the slot that is its turn. Raises BadInput, and Refused
    also while marks of its proof must be settled.
    """
    proofing.before_placing(workshop, person, post_id)
    with changing(workshop, person, "the timetable changed"):
        wait_for_turn(workshop, person, post_id)
        return placing.place(workshop, person, post_id)


def move_in_queue(workshop: Workshop, person: Person, blog: Blog, post_id: int, step: int) -> None:
    """Moves a post of the queue up (-1) or down (1), or to the front (-1000); the rest moves along."""
    require(workshop, person, blog, Action.KEEP_TIMETABLE)
    with changing(workshop, person, "the timetable changed"):
        order = queue.waiting(workshop, blog)
        if post_id not in order:
            raise NotFound("This post is not in the queue any more; reload the page.")
        at = order.index(post_id)
        order.remove(post_id)
        order.insert(max(0, at + step), post_id)
        slots.set_queue(workshop.db, blog.id, order)
        queue.refill(workshop, blog)


def take_from_queue(workshop: Workshop, person: Person, post_id: int) -> None:
    """Lets a post keep the time it has; the queue goes on without it."""
    _, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person, "the timetable changed"):
        slots.set_queue(
            workshop.db,
            blog.id,
            [number for number in slots.queue(workshop.db, blog.id) if number != post_id],
        )
        queue.refill(workshop, blog)


def fill_ahead(workshop: Workshop, blog: Blog) -> list[Turn]:
    """Brings the queue up to date with the slots, and tells the year ahead."""
    with changing(workshop, why="the timetable changed"):
        queue.refill(workshop, blog)
    now = workshop.clock()
    return turns(workshop, blog, now, now + SPAN)

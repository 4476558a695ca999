"""The queue: finished posts without a time of their own, in the slots they fill one after the other."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from mobbet.actions.permalinks import category_subjects, filed, free_path
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Refused
from mobbet.core.filing import category_lists
from mobbet.core.slots import Free, Slot, assign, free_slots
from mobbet.store import marked_days, placements, posts, slots, stale
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement

AHEAD = 3 * 366 * 86400
"""How far ahead slots are looked for, in seconds."""
NO_SLOTS = "This blog has no free slot in the next three years; make one at the Timetable first."


def kept_free(workshop: Workshop, blog: Blog) -> list[Slot]:
    """The slots of a blog, without the marked days on which none comes."""
    days = [one for one in marked_days.of_blog(workshop.db, blog.id) if one.skips]
    skipped = {
        (date.fromisoformat(one.first) + timedelta(days=at)).isoformat()
        for one in days
        for at in range((date.fromisoformat(one.last) - date.fromisoformat(one.first)).days + 1)
    }
    return [
        replace(slot, excepted=tuple(sorted({*slot.excepted, *skipped})))
        for slot in slots.of_blog(workshop.db, blog.id)
    ]


def free_ahead(workshop: Workshop, blog: Blog, seconds: int = AHEAD) -> list[Free]:
    """The slots ahead that no post with a time of its own has taken; those of the queue are among them."""
    now = workshop.clock()
    queued = set(slots.queue(workshop.db, blog.id))
    taken = [
        instant for instant, post_id, _ in slots.to_come(workshop.db, blog.id, now) if post_id not in queued
    ]
    return free_slots(kept_free(workshop, blog), blog.zone, now, now + seconds, taken)


def next_free(workshop: Workshop, blog: Blog) -> Free:
    """The first slot that no post has. Raises Refused where there is none."""
    taken = {instant for instant, _, _ in slots.to_come(workshop.db, blog.id, workshop.clock())}
    found = next((one for one in free_ahead(workshop, blog) if one.instant not in taken), None)
    if found is None:
        raise Refused(NO_SLOTS)
    return found


def waiting(workshop: Workshop, blog: Blog) -> list[int]:
    """The posts of the queue that have not gone out and were not taken out of the timetable, in order."""
    now = workshop.clock()
    return [number for number in slots.queue(workshop.db, blog.id) if _pending(workshop, number, now)]


def waiting_but(workshop: Workshop, blog: Blog, post_id: int) -> list[int]:
    """The same, without one post."""
    return [number for number in waiting(workshop, blog) if number != post_id]


def _pending(workshop: Workshop, post_id: int, now: int) -> Placement | None:
    rows = placements.of_post(workshop.db, post_id)
    if any(row.shows_from <= now < row.shows_until for row in rows):
        return None
    return next((row for row in reversed(rows) if now < row.shows_from < row.shows_until), None)


def refill(workshop: Workshop, blog: Blog, is_strict: bool = True) -> None:
    """Gives every post of the queue the slot that is its turn.

    Raises Refused where there are fewer slots than posts, or one would come down before its turn; when it is not
    strict, such posts keep the time they have.
    """
    queue = waiting(workshop, blog)
    slots.set_queue(workshop.db, blog.id, queue)
    if not queue:
        return
    turns = assign(queue, free_ahead(workshop, blog))
    if is_strict and len(turns) < len(queue):
        raise Refused(NO_SLOTS)
    for post_id, free in turns:
        try:
            move(workshop, blog, post_id, free)
        except Refused:
            if is_strict:
                raise


def move(workshop: Workshop, blog: Blog, post_id: int, free: Free) -> None:
    """Moves what is in the timetable to another time, as it is; its text stays the one that was placed. Raises Refused when it would come down before."""
    now = workshop.clock()
    pending = _pending(workshop, post_id, now)
    if pending is None or (pending.goes_out == free.instant and pending.goes_out_wall == free.wall):
        return
    if pending.comes_down <= free.instant:
        title = placements.title_of(workshop.db, pending)
        raise Refused(
            f"“{title}” would come down before its turn; let it stay up longer, or take it out of the queue."
        )
    where = filed(category_subjects(workshop, blog), pending.categories, free.instant, blog.zone)
    path, slug = free_path(workshop, blog, post_id, pending.slug, where)
    moved = replace(
        pending, goes_out_wall=free.wall, goes_out=free.instant, shows_from=free.instant, shows_until=pending.comes_down,
        zone=blog.zone, path=path, slug=slug, placed_at=now,
    )  # fmt: skip
    placements.end(workshop.db, pending.id, now)
    placements.add(workshop.db, moved, category_lists(category_subjects(workshop, blog), moved.categories))
    stale.mark_posts(workshop.db, blog.id, post_id)
    posts.settle(workshop.db, post_id, now, goes_out_wall=free.wall)

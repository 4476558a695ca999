"""The part of the docket that says when a post goes out and comes down, and who may read it."""

from __future__ import annotations

from mobbet.actions import queue
from mobbet.actions.placing import waiting_update
from mobbet.actions.readers import visibilities
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import GROUP, LISTED, PASSWORD, PRIVATE_TITLE
from mobbet.core.errors import Refused
from mobbet.core.passwords import generated_for_post
from mobbet.core.screen_dates import time_in_words
from mobbet.core.timing import instant_of_wall
from mobbet.store import posts, slots
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement
from mobbet.store.posts import Post
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.contexts import PlacingShown, Setting

MOST_TITLES = 40


def going_of(
    workshop: Workshop,
    post: Post,
    blog: Blog,
    state: str,
    rows: list[Placement],
    is_keeper: bool,
    may_place: bool,
) -> PlacingShown:
    """Everything of it, for a keeper of the blog or one of its writers."""
    now = workshop.clock()
    free, reason = _next_free(workshop, blog, now)
    queued = slots.queue(workshop.db, blog.id)
    return PlacingShown(
        verb="Went out" if state in (states.OUT, states.CAME_DOWN) else "Goes out",
        goes_out_wall=post.goes_out_wall or "",
        comes_down_wall=post.comes_down_wall or "",
        zone_words=blog.zone.rsplit("/", 1)[-1].replace("_", " ") + " time",
        can_clear_time=state not in (states.OUT, states.IN_TIMETABLE),
        next_free=free,
        no_slot=reason,
        can_queue=state not in (states.OUT, states.SET_ASIDE) and bool(free) and post.id not in queued,
        can_publish_now=may_place
        and state not in (states.OUT, states.SET_ASIDE)
        and bool(post.goes_out_wall),
        queue_words=f"number {queued.index(post.id) + 1} of {len(queued)} in the queue"
        if post.id in queued
        else "",
        update=_update(post, blog, state, rows, now),
        update_wall=post.update_wall or "",
        waiting_update=_waiting(rows, now),
        leads_to=_leads_to(workshop, post),
        made_password=generated_for_post(),
        leads_to_title=_title(workshop, post, post.leads_to),
        titles=posts.newest_titles(workshop.db, blog.id, post.id, MOST_TITLES),
        visibilities=_visibility_choices(workshop, post, blog),
        listed=[Choice(value, words, value == post.listed) for value, words in LISTED.items()],
        has_password=bool(post.password_key),
        is_behind_password=post.visibility == PASSWORD,
        is_keeper=is_keeper,
        may_place=may_place,
    )


def _next_free(workshop: Workshop, blog: Blog, now: int) -> tuple[str, str]:
    """(the next free slot in words, '') or ('', why there is none)."""
    if not slots.of_blog(workshop.db, blog.id):
        return "", "This blog has no slots yet."
    try:
        return time_in_words(queue.next_free(workshop, blog).instant, blog.zone, now), ""
    except Refused as error:
        return "", str(error)


def _update(post: Post, blog: Blog, state: str, rows: list[Placement], now: int) -> Setting | None:
    """When changes of what is out go out; None for a post that is not out."""
    if state != states.OUT:
        return None
    instant = instant_of_wall(post.update_wall, blog.zone) if post.update_wall else now
    words = time_in_words(instant, blog.zone, now) if instant > now else "when you update it"
    return Setting("update", words, "Change when changes go out")


def _waiting(rows: list[Placement], now: int) -> str:
    """When an update that is placed goes out, in words; '' where none waits."""
    _, coming = waiting_update(rows, now)
    return time_in_words(coming.shows_from, coming.zone, now) if coming else ""


def _title(workshop: Workshop, post: Post, number: int | None) -> str:
    other = posts.on_blog(workshop.db, post.blog_id, number) if number else None
    return other.title if other else PRIVATE_TITLE if number else ""


def _leads_to(workshop: Workshop, post: Post) -> Setting | None:
    """What the address answers once the post came down; None for one that stays for good."""
    if not post.comes_down_wall:
        return None
    title = _title(workshop, post, post.leads_to)
    words = f"leads to “{title}”" if title else "answers that it is gone"
    return Setting("leads-to", words, "Change what its address does then")


def _visibility_choices(workshop: Workshop, post: Post, blog: Blog) -> list[Choice]:
    """Who it can be for, with how many people that is; a password is typed beside them."""
    found = []
    for value, (words, count) in visibilities(workshop, blog).items():
        if value != PASSWORD:
            typed = f"{GROUP}{words}" if value.startswith(GROUP) else value
            found.append(Choice(typed, words, value == post.visibility, count))
    return found

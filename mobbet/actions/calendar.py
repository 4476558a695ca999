"""The timetable as an iCalendar feed at a private address."""

from __future__ import annotations

import secrets

from mobbet.actions import slots
from mobbet.actions.access import blog_for
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.calendars import Happening, as_ics
from mobbet.core.errors import NotFound
from mobbet.core.rights import Action
from mobbet.store import blogs, timetable
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

BACK, AHEAD = 366 * 86400, 366 * 86400
"""How far a calendar reaches: a year back, and a year ahead."""


def happenings(workshop: Workshop, blog: Blog, first: int, last: int, origin: str = "") -> list[Happening]:
    """What happens after one instant and up to another, in order; free slots from now on. With `origin` each post has its address there."""
    found = [
        Happening(instant, what, post, title or "No title yet", f"{origin}/posts/{post}" if origin else "")
        for instant, what, post, title in timetable.events(workshop.db, blog.id, first, last)
    ]
    now = workshop.clock()
    free = (
        [turn for turn in slots.turns(workshop, blog, max(first, now), last) if turn.post_id is None]
        if last > now
        else []
    )
    found += [Happening(turn.instant, "free slot", 0, "") for turn in free]
    return sorted(found, key=lambda one: (one.instant, one.post))


def calendar_of(workshop: Workshop, blog: Blog, origin: str = "") -> bytes:
    """The timetable of a blog as iCalendar: a year back and a year ahead."""
    now = workshop.clock()
    return as_ics(
        f"{blog.name}: timetable", blog.slug, happenings(workshop, blog, now - BACK, now + AHEAD, origin), now
    )


def by_key(workshop: Workshop, slug: str, key: str) -> Blog:
    """The blog whose calendar has that private address. Raises NotFound."""
    blog = blogs.by_slug(workshop.db, slug)
    if blog is None or not key or not secrets.compare_digest(blog.calendar_key.encode(), key.encode()):
        raise NotFound("There is no calendar at this address; its owner may have renewed it.")
    return blog


def renew(workshop: Workshop, person: Person, slug: str) -> None:
    """Gives the calendar a new private address; the old one reads nothing any more. Only keepers of the blog may."""
    blog = blog_for(workshop, person, slug, Action.KEEP_CALENDAR)
    with changing(workshop, person, "the timetable changed"):
        blogs.settle(workshop.db, blog.id, calendar_key=secrets.token_urlsafe(24))

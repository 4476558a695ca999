"""Whom a blog's site answers, and blogs that are set aside: closed and opened, set aside and brought back, and removed after thirty days."""

from __future__ import annotations

from mobbet.actions.access import owned_blog, role_of
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.blog_states import CLOSED, KEPT_DAYS
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.rights import Action, may
from mobbet.store import blogs, events, guests
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

DAY = 86400


def close(workshop: Workshop, person: Person, slug: str, closed: str) -> Blog:
    """Says whom the site answers: '' is everyone, `people` those who work on the blog, `closed` nobody. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    if closed not in CLOSED:
        raise BadInput(f"“{closed[:20]}” is no choice; choose one of the three.", "closed")
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, closed=closed)
        note(workshop, person, "closed", blog.id, CLOSED[closed])
        events.add(workshop.db, blog.id)
    workshop.press.on_edition()  # the site of this process asks at once whom it answers
    return blog


def set_aside(workshop: Workshop, person: Person, slug: str) -> Blog:
    """Sets a blog aside: its site and its screens are no more, and after thirty days it is removed. Only the owner may. Raises Refused for the last blog."""
    blog = owned_blog(workshop, person, slug)
    if len(blogs.every(workshop.db)) == 1:
        raise Refused(f"“{blog.name}” is the only blog here; close it instead, or make another one first.")
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, set_aside_at=workshop.clock())
        note(workshop, person, "blog-aside", blog.id, blog.name)
    workshop.press.on_edition()
    return blog


def bring_back(workshop: Workshop, person: Person, slug: str) -> Blog:
    """Brings a blog back that was set aside. Only its owner may. Raises NotFound where none is."""
    blog = next((one for one in owned_aside(workshop, person) if one.slug == slug), None)
    if blog is None:
        raise NotFound(f"No blog “{slug[:80]}” of yours is set aside.")
    with changing(workshop, person) as unit:
        blogs.settle(workshop.db, blog.id, set_aside_at=None)
        note(workshop, person, "blog-back", blog.id, blog.name)
        unit.must_publish(blog.id)
    return blog


def owned_aside(workshop: Workshop, person: Person) -> list[Blog]:
    """The blogs of this owner that are set aside, the latest first."""
    found = ((blog, role_of(workshop, person, blog)) for blog in blogs.set_aside(workshop.db))
    return [blog for blog, role in found if role is not None and may(role, Action.OWN_HOUSE)]


def removed_at(blog: Blog) -> int:
    """When a blog that is set aside is removed."""
    return (blog.set_aside_at or 0) + KEPT_DAYS * DAY


def remove_aged(workshop: Workshop) -> int:
    """Removes for good the blogs that were set aside thirty days ago, with the files that no other blog has; answers how many."""
    aged = [blog for blog in blogs.set_aside(workshop.db) if removed_at(blog) <= workshop.clock()]
    for blog in aged:
        pages, media = blogs.files(workshop.db, blog.id)
        with changing(workshop):
            guests.mark_of_blog(workshop.db, blog.id)
            blogs.remove(workshop.db, blog.id)
        for name, shelf, digests in (("pages", workshop.pages, pages), ("media", workshop.media, media)):
            for digest in digests:
                if not blogs.is_file_used(workshop.db, name, digest):
                    shelf.path(digest).unlink(missing_ok=True)
    return len(aged)

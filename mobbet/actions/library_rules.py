"""What the owner settles for a blog's library."""

from __future__ import annotations

from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.store import blogs
from mobbet.store.people import Person


def set_scales_pictures(workshop: Workshop, person: Person, slug: str, scales: bool) -> None:
    """Whether phones scale large pictures down before they send them. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, scales_pictures=int(scales))

"""Publishing: the one way to bring what readers get up to date after a change."""

from __future__ import annotations

from typing import TYPE_CHECKING

from mobbet.actions.workshop import Workshop
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

if TYPE_CHECKING:
    from mobbet.publish.editions import Published


def publish(
    workshop: Workshop,
    blog: Blog,
    since: int | None = None,
    full: bool = False,
    person: Person | None = None,
    why: str = "",
) -> Published:
    """Brings what readers get up to date with the facts, as of now, and wakes the scheduler; `since` as for the press, `person` is who asked for it."""
    published = workshop.press.publish(
        blog.id, workshop.clock(), full, since, why, person.id if person else None
    )
    workshop.on_change()
    return published

"""Filters of the desk that a person keeps under a name."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.names import one_line
from mobbet.store import desk_views
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_NAME = 60


def keep(workshop: Workshop, person: Person, blog: Blog, name: str, query: str) -> None:
    """Keeps a filter under a name. Raises BadInput without one."""
    words = one_line(name)
    if not words or len(words) > LONGEST_NAME:
        raise BadInput(
            f"The name has {len(words)} letters; give the list one of 1 to {LONGEST_NAME}.", "name"
        )
    with changing(workshop):
        desk_views.keep(workshop.db, blog.id, person.id, words, query[:400])


def forget(workshop: Workshop, person: Person, number: int) -> None:
    with changing(workshop):
        desk_views.forget(workshop.db, person.id, number)

"""Who is on which post now, in memory only."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store.people import Person

LASTS = 60
"""In seconds: how long somebody counts as being there after their writing room was last heard of."""


def note(workshop: Workshop, person: Person, post_id: int) -> None:
    """Notes that a person's writing room has a post open."""
    workshop.cache.setdefault(("on", post_id), {})[person.id] = (person.name, workshop.clock())


def leave(workshop: Workshop, person: Person, post_id: int) -> None:
    """Notes that a person's writing room is closed."""
    workshop.cache.get(("on", post_id), {}).pop(person.id, None)


def on_it(workshop: Workshop, post_id: int, but: int = 0) -> list[str]:
    """The names of those who have a post open now, without one person."""
    now = workshop.clock()
    return sorted(
        name
        for number, (name, seen) in workshop.cache.get(("on", post_id), {}).items()
        if number != but and now - seen <= LASTS
    )

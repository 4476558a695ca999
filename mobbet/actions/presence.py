"""Who is on which post now, in memory only."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store.people import Person

MOST, LONGEST_TAB = 100, 40
"""How many rooms of one post are remembered, and how many letters of the name of a tab."""
LASTS = 60
"""In seconds: how long somebody counts as being there after their writing room was last heard of."""


def note(workshop: Workshop, person: Person, post_id: int, tab: str = "") -> None:
    """Notes that a person's writing room has a post open, in one tab of theirs."""
    rooms = workshop.cache.setdefault(("on", post_id), {})
    rooms[(person.id, tab[:LONGEST_TAB])] = (person.name, workshop.clock())
    for key in sorted(rooms, key=lambda key: rooms[key][1])[:-MOST]:
        del rooms[key]


def leave(workshop: Workshop, person: Person, post_id: int, tab: str = "") -> None:
    """Notes that a person's writing room is closed."""
    workshop.cache.get(("on", post_id), {}).pop((person.id, tab[:LONGEST_TAB]), None)


def on_it(workshop: Workshop, post_id: int, but: int = 0) -> list[str]:
    """The names of those who have a post open now, each once, without one person."""
    return sorted({name for (number, _), name in _now(workshop, post_id).items() if number != but})


def in_other_tab(workshop: Workshop, person: Person, post_id: int, tab: str) -> bool:
    """Whether the same person has the post open in another tab, or on another device."""
    return any(
        number == person.id and other != tab[:LONGEST_TAB] for number, other in _now(workshop, post_id)
    )


def _now(workshop: Workshop, post_id: int) -> dict[tuple[int, str], str]:
    now = workshop.clock()
    rooms = dict(workshop.cache.get(("on", post_id), {}))
    return {key: name for key, (name, seen) in rooms.items() if now - seen <= LASTS}

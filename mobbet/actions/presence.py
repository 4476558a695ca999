"""Who is on which post now, and where in its text; the same for every process of the server."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.store import presence
from mobbet.store.people import Person
from mobbet.store.presence import Present

MOST, LONGEST_TAB, LONGEST_HEADING, MOST_BLOCKS = 100, 40, 120, 100_000
"""How many rooms of one post are remembered, and how many letters of the name of a tab and of a heading."""
LASTS = 60
"""In seconds: how long somebody counts as being there after their writing room was last heard of."""


def note(
    workshop: Workshop, person: Person, post_id: int, tab: str = "", block: int = -1, heading: str = ""
) -> None:
    """Notes that a person's writing room has a post open, in one tab of theirs, and the block in which they write."""
    block = block if -1 <= block < MOST_BLOCKS else -1
    with changing(workshop):
        presence.note(
            workshop.db,
            post_id,
            person.id,
            tab[:LONGEST_TAB],
            workshop.clock(),
            block,
            heading[:LONGEST_HEADING],
            MOST,
        )


def leave(workshop: Workshop, person: Person, post_id: int, tab: str = "") -> None:
    """Notes that a person's writing room is closed."""
    with changing(workshop):
        presence.leave(workshop.db, post_id, person.id, tab[:LONGEST_TAB])


def rooms(workshop: Workshop, post_id: int, but: int = 0) -> list[Present]:
    """Who has a post open now, each once, without one person."""
    found = {
        one.person_id: one for one in reversed(presence.on(workshop.db, post_id, workshop.clock() - LASTS))
    }
    return sorted((one for one in found.values() if one.person_id != but), key=lambda one: one.name)


def on_it(workshop: Workshop, post_id: int, but: int = 0) -> list[str]:
    """The names of those who have a post open now, each once, without one person."""
    return sorted({one.name for one in rooms(workshop, post_id, but)})


def in_other_tab(workshop: Workshop, person: Person, post_id: int, tab: str) -> bool:
    """Whether the same person has the post open in another tab, or on another device."""
    return any(
        one.person_id == person.id and one.tab != tab[:LONGEST_TAB]
        for one in presence.on(workshop.db, post_id, workshop.clock() - LASTS)
    )

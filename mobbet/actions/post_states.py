"""The state of a post now, from its placements."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.core.states import Showing, state_at
from mobbet.store import placements
from mobbet.store.placements import Placement
from mobbet.store.posts import Post


def showings(rows: list[Placement]) -> list[Showing]:
    return [Showing(row.shows_from, row.shows_until, row.comes_down) for row in rows]


def state_of(workshop: Workshop, post: Post) -> str:
    """The state of a post now."""
    rows = placements.of_post(workshop.db, post.id)
    return state_at(showings(rows), workshop.clock(), post.aside_at is not None)


def is_settled(workshop: Workshop, post: Post) -> bool:
    """Whether readers get, or will get, the newest text of a post."""
    now = workshop.clock()
    return any(
        row.revision == post.revision and row.shows_until > now and row.shows_from < row.shows_until
        for row in placements.of_post(workshop.db, post.id)
    )

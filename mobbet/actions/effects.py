"""What a change would do to the site, known before it is made: the change is tried and taken back."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mobbet.actions.workshop import Workshop
from mobbet.publish.editions import Altered
from mobbet.store.blogs import Blog


@dataclass(frozen=True)
class Effect:
    """The pages a change would add, alter or remove, and what the change itself answered."""

    pages: list[Altered]
    answer: Any = None


class _TakenBack(Exception):
    """Ends the transaction in which a change was tried."""


def effect_of(workshop: Workshop, blog: Blog, change: Callable[[], Any]) -> Effect:
    """The footprint of a change; nothing is kept of it. Raises whatever the change raises."""
    found: list[Effect] = []
    try:
        with workshop.db.transaction():
            answer = change()
            found.append(Effect(workshop.press.footprint(blog.id, workshop.clock()), answer))
            raise _TakenBack
    except _TakenBack:
        return found[0]

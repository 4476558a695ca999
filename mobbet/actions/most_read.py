"""Which posts are read most: counted now and then, and kept as a fact, so that no page changes with every reader."""

from __future__ import annotations

from mobbet.actions import house
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.front import MOST_READ, MOST_SHOWN
from mobbet.core.house import MENU
from mobbet.core.menu import read_menu
from mobbet.core.timing import month_number
from mobbet.store import blogs, reads, stale
from mobbet.store.blogs import Blog

MONTHS = 2
"""The months before this one that count with it."""
SPARE = 4
"""So many times as many are kept as a section shows, since some may not be for every reader."""


def count_again(workshop: Workshop) -> int:
    """Counts for every blog whose front page shows the most read; answers for how many of them others are."""
    return sum(count_for(workshop, blog) for blog in blogs.every(workshop.db) if _is_shown(workshop, blog))


def count_for(workshop: Workshop, blog: Blog) -> bool:
    """Counts for one blog; answers whether its most read posts are others, or in another order."""
    now = workshop.clock()
    with changing(workshop, why="the most read posts changed"):
        is_other = reads.count_most_read(
            workshop.db, blog.id, month_number(now) - MONTHS, now, MOST_SHOWN * SPARE
        )
        if is_other:
            stale.mark_fact(workshop.db, blog.id, "reads", "most")
    return is_other


def _is_shown(workshop: Workshop, blog: Blog) -> bool:
    values = (house.given(workshop, blog, MENU), house.tried(workshop, blog, MENU))
    return any(
        section.kind == MOST_READ for value in values if value for section in read_menu(value).sections
    )

"""Posts that were set aside: how long they are kept, and their removal."""

from __future__ import annotations

from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.timing import read_day_count
from mobbet.store import blogs, posts, search, stale
from mobbet.store.people import Person

DAY = 86400
LONGEST = 3650


def keep_for(workshop: Workshop, person: Person, slug: str, days: str) -> None:
    """Sets after how many days posts that are set aside are removed for good; 0 for never. Raises BadInput, and NotAllowed to others than the owner."""
    blog = owned_blog(workshop, person, slug)
    count = read_day_count(days, LONGEST, "keeping them")
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, aside_days=count)


def remove_aged(workshop: Workshop) -> int:
    """Removes for good what was set aside longer ago than its blog keeps it, and publishes what follows; answers how many posts that were.

    Old addresses of a post that is removed say that it is gone, as they do while it is set aside.
    """
    now, removed = workshop.clock(), 0
    for blog in blogs.every(workshop.db):
        aged = (
            posts.set_aside_before(workshop.db, blog.id, now - blog.aside_days * DAY)
            if blog.aside_days
            else []
        )
        with changing(workshop, why="what was set aside was removed"):
            for number in aged:
                search.forget(workshop.db, number)
                posts.remove(workshop.db, number)
                stale.mark_posts(workshop.db, blog.id, number)
        removed += len(aged)
    return removed

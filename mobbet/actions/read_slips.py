"""A slip of the day: each morning a letter to the owners about what was read the day before, where they want it."""

from __future__ import annotations

from datetime import timedelta

from mobbet.actions import letters_to_colleagues, read_counts
from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.numbers import counted
from mobbet.core.timing import local
from mobbet.store import blogs, people, placements
from mobbet.store import read_counts as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

DAY, HOUR, USUAL, MOST = "day", 7, 28, 5
"""The setting; from which hour of the blog's day on the slip goes; over how many days the usual is computed; how many posts it names."""


def set_slip(workshop: Workshop, person: Person, slug: str, is_wanted: bool) -> None:
    """Whether the owners get the slip. Only an owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, read_slip=DAY if is_wanted else "", slip_told_at=workshop.clock())


def tell_daily(workshop: Workshop) -> int:
    """Writes the slips that are due; answers with how many letters."""
    written, now = 0, workshop.clock()
    for blog in blogs.every(workshop.db):
        moment = local(now, blog.zone)
        if (
            not blog.read_slip
            or moment.hour < HOUR
            or moment.date() <= local(blog.slip_told_at, blog.zone).date()
        ):
            continue
        with changing(workshop):
            blogs.settle(workshop.db, blog.id, slip_told_at=now)
            words, said = _slip(workshop, blog)
            for person in people.of_blog(workshop.db, blog.id):
                if blogs.role(workshop.db, blog.id, person.id) == "owner":
                    letters_to_colleagues.write(workshop, person, blog, words, said)
                    written += 1
    return written


def _slip(workshop: Workshop, blog: Blog) -> tuple[str, str]:
    """(a sentence, the lines below it) about the day before."""
    day = local(workshop.clock(), blog.zone).date() - timedelta(days=1)
    first = (day - timedelta(days=USUAL)).isoformat()
    facts = read_counts.facts(workshop, blog, day.isoformat(), day.isoformat())
    _, before = store.whole(workshop.db, blog.id, first, (day - timedelta(days=1)).isoformat())
    usual = round(before / USUAL)
    words = f"Yesterday {counted(facts['readers'], 'reader')} opened {counted(facts['pages'], 'page')}; usual are {usual:,} pages a day"
    lines = [f"{one['pages']:>6,}  {_title(workshop, one['id'])}" for one in facts["posts"][:MOST]]
    sources = [f"{one['pages']:>6,}  from {one['host']}" for one in facts["from"][:MOST]]
    return words, "\n".join([*lines, *([""] if sources else []), *sources])


def _title(workshop: Workshop, post_id: int) -> str:
    rows = placements.of_post(workshop.db, post_id)
    return placements.title_of(workshop.db, rows[-1]) if rows else "a post"

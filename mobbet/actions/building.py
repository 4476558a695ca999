"""Publishes what is due, and writes the site as files."""

from __future__ import annotations

import time
from dataclasses import dataclass
from pathlib import Path

from mobbet.actions import pushing
from mobbet.actions.access import is_keeper
from mobbet.actions.blogs import chosen_blogs
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.pushes import FAILED
from mobbet.publish import export
from mobbet.publish.published import Published
from mobbet.store import blogs, editions, people, placements
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


@dataclass(frozen=True)
class Built:
    """What a build came to, over all blogs it was asked for."""

    edition: int
    written: int
    removed: int
    pages: int
    seconds: float


def build(workshop: Workshop, slug: str | None = None, full: bool = False) -> Built:
    """Publishes what is due now; with `full`, renders every page anew."""
    return _sum([publish(workshop, blog, full) for blog in chosen_blogs(workshop, slug)])


def publish(
    workshop: Workshop, blog: Blog, full: bool = False, person: Person | None = None, why: str = ""
) -> Published:
    """Brings what readers get of a blog up to date with the facts as of now, and wakes the scheduler."""
    person_id = person.id if person else None
    published = workshop.press.publish(blog.id, workshop.clock(), full, why=why, person_id=person_id)
    workshop.on_change()
    return published


def _sum(parts: list[Published]) -> Built:
    return Built(
        max((part.edition for part in parts), default=0),
        sum(part.written for part in parts),
        sum(part.removed for part in parts),
        sum(part.pages for part in parts),
        sum(part.seconds for part in parts),
    )


def write_out(workshop: Workshop, out: Path, slug: str | None, instant: int) -> Built:
    """Writes the public site, as everyone may read it at that instant, as files; changes nothing else.

    With several blogs each gets a folder of its own, named by its address.
    """
    started = time.perf_counter()
    chosen = chosen_blogs(workshop, slug)
    sent = [
        export.write_out(
            workshop.db, workshop.media, blog.id, out if len(chosen) == 1 else out / blog.slug, instant
        )
        for blog in chosen
    ]
    return Built(
        0,
        sum(part.written for part in sent),
        sum(part.removed for part in sent),
        sum(part.pages for part in sent),
        time.perf_counter() - started,
    )


def next_change(workshop: Workshop) -> int | None:
    """The next instant at which some blog's site changes by itself."""
    now = workshop.clock()
    changes = (placements.next_change(workshop.db, blog.id, now) for blog in blogs.every(workshop.db))
    return min((instant for instant in changes if instant is not None), default=None)


def note_problem(workshop: Workshop, blog: Blog, problem: str) -> None:
    """Notes for the blog's desk why its scheduled publication failed; '' when it succeeded."""
    if editions.publication_problem(workshop.db, blog.id) != problem:
        with changing(workshop):
            editions.set_publication_problem(workshop.db, blog.id, problem, workshop.clock())
            if problem:
                keepers = [
                    one for one in people.of_blog(workshop.db, blog.id) if is_keeper(workshop, one, blog)
                ]
                words = f"{blog.name}: something could not go out. {problem}"
                pushing.tell(workshop, keepers, FAILED, words, f"/desk/{blog.slug}")

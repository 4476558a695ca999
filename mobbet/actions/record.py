"""The record: who did what, when, and from where."""

from __future__ import annotations

from mobbet.actions.access import blog_for
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.record import KEPT_FOR, KINDS, PARTS, read_days
from mobbet.core.rights import Action
from mobbet.store import blogs, record
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.record import Entry

ON_PAGE = 100
AT_ONCE = 500


def owner_blog(workshop: Workshop, person: Person, slug: str) -> Blog:
    """A blog of which this person reads the record. Raises NotAllowed."""
    return blog_for(workshop, person, slug, Action.READ_RECORD)


def of_blog(
    workshop: Workshop, person: Person, slug: str, part: str = "", actor: int = 0, before: int = 0
) -> tuple[Blog, list[Entry]]:
    """The newest rows of a blog, of one part of the record and of one person where they are named, before a row. Raises NotAllowed."""
    blog = blog_for(workshop, person, slug, Action.READ_RECORD)
    kinds = [name for name, kind in KINDS.items() if kind.part == part] if part in PARTS else []
    return blog, record.of_blog(workshop.db, blog.id, kinds, actor, before=before or 2**62, most=ON_PAGE + 1)


def set_days(workshop: Workshop, person: Person, slug: str, days: str) -> None:
    """For how long the record of a blog is kept. Raises BadInput."""
    blog = blog_for(workshop, person, slug, Action.READ_RECORD)
    number = read_days(days)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, record_days=number)
        note(workshop, person, "record-days", blog.id, KEPT_FOR[number])


def forget_old(workshop: Workshop) -> int:
    """Removes rows that are older than their blog keeps them, a few hundred at a time; answers with how many."""
    with changing(workshop):
        return record.forget_old(workshop.db, AT_ONCE)

"""The bar on top of every screen."""

from __future__ import annotations

from mobbet.actions.access import has_right
from mobbet.actions.workshop import Workshop
from mobbet.core.rights import Action
from mobbet.store import blogs, events
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.contexts import Bar


def bar_for(workshop: Workshop, person: Person, blog: Blog | None, screen: str) -> Bar:
    """The bar of a screen of a blog; of one that belongs to no blog, with the screens of this person's first."""
    mine = blogs.of_person(workshop.db, person.id)
    blog = blog or (mine[0] if mine else None)
    owner, keeper, readers = (
        blog is not None and has_right(workshop, person, blog, action)
        for action in (Action.OWN_HOUSE, Action.ANY_AUTHOR, Action.KEEP_READERS)
    )
    number = events.number(workshop.db, blog.id) if blog is not None else 0
    return Bar(person, mine, blog, screen, owner, keeper, readers, number)

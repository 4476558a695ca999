"""The bar on top of every screen."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store import blogs, events
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.contexts import Bar


def bar_for(workshop: Workshop, person: Person, blog: Blog | None, screen: str) -> Bar:
    """The bar of a screen of a blog; of one that belongs to no blog, with the screens of this person's first."""
    mine = blogs.of_person(workshop.db, person.id)
    blog = blog or (mine[0] if mine else None)
    role = blogs.role(workshop.db, blog.id, person.id) if blog is not None else None
    number = events.number(workshop.db, blog.id) if blog is not None else 0
    return Bar(person, mine, blog, screen, role == "owner", role in ("owner", "editor"), number)

"""The rules of a blog's letters, and the lines of a post's docket about its letter."""

from __future__ import annotations

from mobbet.actions.access import editable_post, owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.letters import read_letter, read_rules, with_rule
from mobbet.store import blogs, posts
from mobbet.store.people import Person


def set_rule(workshop: Workshop, person: Person, slug: str, name: str, typed: str) -> None:
    """Changes one rule of a blog's letters; readers may subscribe from when they are opened on, and posts from then on are written about.

    Only the owner may. Raises BadInput, NotAllowed.
    """
    blog = owned_blog(workshop, person, slug)
    kept = with_rule(blog.letters, name, typed)
    was, is_open = read_rules(blog.letters).is_open, read_rules(kept).is_open
    with changing(workshop, person, "the rules of letters were changed") as unit:
        blogs.settle(workshop.db, blog.id, letters=kept)
        if was != is_open:
            blogs.settle(workshop.db, blog.id, letters_since=workshop.clock() if is_open else None)
            unit.must_publish(blog.id)


def set_letter(workshop: Workshop, person: Person, post_id: int, shows: str, subject: str, line: str) -> None:
    """What letter goes out about a post, its subject, and a line before the text. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    values = read_letter(shows, subject, line)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), **values)

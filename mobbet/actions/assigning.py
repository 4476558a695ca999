"""Assignments: an idea or a draft that is given to somebody, with a day."""

from __future__ import annotations

from datetime import date

from mobbet.actions import attention, docket_lines
from mobbet.actions.access import editable_post, require, told_title
from mobbet.actions.letters_to_colleagues import write
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.rights import Action
from mobbet.core.timing import short_date
from mobbet.store import assignments, people, posts
from mobbet.store.people import Person
from mobbet.store.posts import Post


def give(
    workshop: Workshop, person: Person, post_id: int, to: str, wanted_by: str = "", server: str = ""
) -> None:
    """Makes a colleague the author of a post, who has it to write by a day (ISO 8601, '' for none), and writes to them. Raises BadInput."""
    post, blog = editable_post(workshop, person, post_id)
    require(workshop, person, blog, Action.GIVE_POST)
    day = read_day(wanted_by)
    with changing(workshop, person):
        docket_lines.set_author(workshop, person, post.id, to)
        assignments.give(workshop.db, post.id, day, person.id)
        somebody = people.by_id(workshop.db, int(to))
        if somebody is not None and somebody.id != person.id:
            until = f" by {short_date(day)}" if day else ""
            write(
                workshop,
                somebody,
                blog,
                f"{person.name} gives you “{told_title(posts.again(workshop.db, post))}” to write{until}",
                "",
                server,
                post.id,
            )
    workshop.on_change()


def give_idea(
    workshop: Workshop, person: Person, slug: str, number: int, to: str, wanted_by: str = "", server: str = ""
) -> Post:
    """Begins a draft of an idea, and gives it to a colleague. Raises BadInput, NotFound."""
    with changing(workshop, person):
        post = attention.begin_from_idea(workshop, person, slug, number)
        give(workshop, person, post.id, to, wanted_by, server)
    return post


def read_day(text: str) -> str:
    """A day as it is kept, or '' for none. Raises BadInput."""
    if not text.strip():
        return ""
    try:
        return date.fromisoformat(text.strip()[:10]).isoformat()
    except ValueError:
        raise BadInput(f"“{text.strip()[:20]}” is no day; write it like 2026-12-24.", "wanted_by") from None

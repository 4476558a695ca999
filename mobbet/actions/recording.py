"""Adds rows to the record, within the unit of work of what they tell."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.names import one_line
from mobbet.core.record import KINDS, LONGEST_WORDS, SOMEBODY
from mobbet.store import blogs, record
from mobbet.store.people import Person
from mobbet.store.record import Entry


def note(
    workshop: Workshop,
    person: Person | None,
    kind: str,
    blog_id: int | None = None,
    subject: str = "",
    detail: str = "",
    post_id: int | None = None,
) -> None:
    """Adds one row of a kind of `core/record.KINDS`; where the unit of work that is open is rolled back, so is the row."""
    assert kind in KINDS, kind
    row = Entry(
        0, workshop.clock(), kind, person.id if person else None, person.name if person else workshop.origin or SOMEBODY, blog_id, post_id,
        one_line(subject)[:LONGEST_WORDS], one_line(detail)[:LONGEST_WORDS], workshop.origin,
    )  # fmt: skip
    with changing(workshop, person):
        record.add(workshop.db, row)


def note_everywhere(
    workshop: Workshop, person: Person, kind: str, subject: str = "", actor: Person | None = None
) -> None:
    """Adds a row to the record of each blog on which a person works, or, where there is none, to that of the server."""
    theirs: list[int | None] = [blog.id for blog in blogs.of_person(workshop.db, person.id)]
    with changing(workshop):
        for blog_id in theirs or [None]:
            note(workshop, actor, kind, blog_id, subject)

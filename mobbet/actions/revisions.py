"""Revisions of a post: listed, compared, and put back."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import posts as post_actions
from mobbet.actions.access import editable_post
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import difference, schema
from mobbet.core.document.difference import Difference
from mobbet.core.errors import BadInput, NotFound
from mobbet.store import posts, revisions
from mobbet.store.people import Person
from mobbet.store.posts import Revision
from mobbet.store.revisions import RevisionRow

LONGEST_NAME = 80
MOST_COMPARED = 60


@dataclass(frozen=True)
class Past:
    """A revision in the list, with the words it added and removed since the one before it."""

    row: RevisionRow
    added: int
    removed: int


@dataclass(frozen=True)
class Compared:
    """Two revisions beside each other."""

    before: Revision
    now: Revision
    difference: Difference


def history(workshop: Workshop, person: Person, post_id: int) -> list[Past]:
    """The revisions that are kept, newest first; those far down come without their words counted."""
    editable_post(workshop, person, post_id)
    rows = revisions.of_post(workshop.db, post_id)
    documents = {
        row.number: schema.load(posts.body(workshop.db, post_id, row.number))
        for row in rows[: MOST_COMPARED + 1]
    }
    found = []
    for at, row in enumerate(rows):
        earlier = rows[at + 1].number if at + 1 < len(rows) else None
        before = schema.EMPTY if earlier is None else documents.get(earlier)
        if before is None or row.number not in documents:
            found.append(Past(row, 0, 0))
            continue
        found_difference = difference.compare(before, documents[row.number])
        found.append(Past(row, found_difference.added, found_difference.removed))
    return found


def compare(workshop: Workshop, person: Person, post_id: int, one: int, other: int) -> Compared:
    """The difference from revision `one` to revision `other`."""
    editable_post(workshop, person, post_id)
    before, now = _revision(workshop, post_id, one), _revision(workshop, post_id, other)
    return Compared(before, now, difference.compare(schema.load(before.body), schema.load(now.body)))


def restore(workshop: Workshop, person: Person, post_id: int, number: int) -> int:
    """Puts an earlier text back as a new revision, and answers with its number."""
    with changing(workshop):
        post, _ = editable_post(workshop, person, post_id)
        earlier = _revision(workshop, post_id, number)
        saved = post_actions.save_text(
            workshop, person, post_id, base=post.revision, title=earlier.title, subtitle=earlier.subtitle,
            body=schema.load(earlier.body), is_apart=True,
        )  # fmt: skip
    return saved.revision


def name(workshop: Workshop, person: Person, post_id: int, number: int, words: str) -> None:
    """Gives a revision a name, which keeps it for good; an empty one takes it away."""
    editable_post(workshop, person, post_id)
    _revision(workshop, post_id, number)
    words = " ".join(words.split())
    if len(words) > LONGEST_NAME:
        raise BadInput(f"The name has {len(words)} letters; {LONGEST_NAME} is the most.", "name")
    with changing(workshop):
        revisions.set_name(workshop.db, post_id, number, words)


def _revision(workshop: Workshop, post_id: int, number: int) -> Revision:
    found = posts.revision(workshop.db, post_id, number)
    if found is None:
        raise NotFound(f"Post {post_id} keeps no revision {number}; look at the list of those it keeps.")
    return found

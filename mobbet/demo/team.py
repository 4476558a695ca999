"""What people of the bench have of each other: a word that is asked, an idea that was given, an invitation that waits."""

from __future__ import annotations

from datetime import timedelta

from mobbet.actions import (
    assigning,
    attention,
    categories,
    deciding,
    invitations,
    members,
    notes,
    reading_copies,
)
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage, linear
from mobbet.core.timing import local
from mobbet.core.values import existing
from mobbet.store import people
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

ASKS_ABOUT = "What to do with one earring, and other orphans"
REMARK = "I have not seen the brooch pin hold for more than a month. Is that long enough to tell people?"
IDEA, LINE = "Kettles that click off too soon", "Four of them came in November; the steam switch, every time."
READ, FRIEND = "Rewiring a desk lamp without losing the switch", "Hanne Orvik"
LINE_TO_FRIEND = "You rewired three of these. Is anything missing?"
INVITED = "hollis@net-loft.example"


def make_team(workshop: Workshop, owner: Person, bench: Blog, origin: str) -> None:
    """Posts in Safety go out after an editor's word; a contributor asks for one."""
    safety = categories.find(workshop, bench, "Safety")
    members.set_asking(workshop, owner, bench.slug, "writer", "in", [safety])
    wren, tomas, petra = (
        next(one for one in people.of_blog(workshop.db, bench.id) if one.name.startswith(name))
        for name in ("Wren", "Tomas", "Petra")
    )
    asked = existing(post_store.titled(workshop.db, bench.id, ASKS_ABOUT))
    deciding.ask(workshop, wren, asked, tomas.id, REMARK, origin)
    number = attention.note_idea(workshop, tomas, bench.slug, IDEA, LINE)
    day = local(workshop.clock(), bench.zone).date() + timedelta(days=6)
    assigning.give_idea(workshop, tomas, bench.slug, number, str(petra.id), day.isoformat(), origin)
    invitations.invite(workshop, owner, {bench.slug: "contributor"}, INVITED, origin)
    _read_by_a_friend(
        workshop, owner, tomas, existing(post_store.titled(workshop.db, bench.id, READ)), origin
    )


def _read_by_a_friend(workshop: Workshop, owner: Person, editor: Person, post_id: int, origin: str) -> None:
    """A reading copy with a friend's notes and words, and an editor's note."""
    copy = reading_copies.make(workshop, owner, post_id, lets="propose")
    reading_copies.send(workshop, owner, post_id, copy.id, "hanne@net-loft.example", LINE_TO_FRIEND, origin)
    token = reading_copies.address_of(workshop, copy, origin).rsplit("/", 1)[1]
    key = reading_copies.enter(workshop, token)
    for quote, said, proposal in (
        ("one of the two conductors", "", "one of the conductors"),
        ("the setting that beeps", "Which one? I had to guess.", None),
    ):
        found = reading_copies.opened(workshop, token, key)
        reading_copies.leave(workshop, found, Passage(0, 0, quote, "", ""), said, proposal, FRIEND)
    reading_copies.note_progress(workshop, reading_copies.opened(workshop, token, key), "Testing, twice", 100)
    revision = post_store.working(workshop.db, post_id)
    text = linear(notes.text_of(revision))
    start = text.index("ten thousand times")
    notes.leave(
        workshop,
        editor,
        post_id,
        revision.number,
        start,
        start + len("ten thousand times"),
        "Say where that comes from, or say “many”.",
    )

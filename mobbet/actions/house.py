"""The parts of a blog's house: each is tried, which no reader sees, given to readers, whom another edition shows it, and put back."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.actions.access import owned_blog
from mobbet.actions.footprints import Effect, effect_of
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.canonical import canonical
from mobbet.core.errors import Refused
from mobbet.core.house import FACTS, LOOK, PARTS, PROMOS
from mobbet.core.look.begun import begun_look
from mobbet.core.promos import read_promos
from mobbet.core.values import existing
from mobbet.publish.published import Published
from mobbet.store import blogs, events, guests
from mobbet.store import house as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

MOST_LISTED = 100


def usual(blog: Blog, part: str) -> str:
    """What readers get of a part where nothing was ever given, as JSON."""
    return begun_look(blog.design) if part == LOOK else "{}"


def given(workshop: Workshop, blog: Blog, part: str) -> str:
    """What readers get of a part now, as JSON."""
    if part == FACTS:
        return _facts(workshop, blog)
    found = store.given_at(workshop.db, blog.id, part, workshop.clock())
    return found.value if found else usual(blog, part)


def _facts(workshop: Workshop, blog: Blog) -> str:
    """The facts of the house, which stand with the blog itself."""
    now = existing(blogs.by_id(workshop.db, blog.id))
    return canonical({column: getattr(now, column) for column in blogs.HOUSE_COLUMNS})


def tried(workshop: Workshop, blog: Blog, part: str) -> str:
    """What is tried of a part, as JSON; '' for nothing."""
    return store.tried(workshop.db, blog.id, part)


def present(workshop: Workshop, blog: Blog, part: str) -> str:
    """What the blog's people see of a part: what is tried, or else what is given."""
    return tried(workshop, blog, part) or given(workshop, blog, part)


def try_value(workshop: Workshop, person: Person, slug: str, part: str, value: str) -> bool:
    """Has a value tried; the one that readers get ends the trial. Answers whether another one than theirs is tried. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        is_out = given(workshop, blog, part) == value
        store.set_tried(workshop.db, blog.id, part, "" if is_out else value, person.id)
        events.add(workshop.db, blog.id)
    return not is_out


def put_back(workshop: Workshop, person: Person, slug: str, part: str) -> None:
    """Ends the trial: the blog's people see what readers get."""
    blog = owned_blog(workshop, person, slug)
    try_value(workshop, person, slug, part, given(workshop, blog, part))


def give(workshop: Workshop, person: Person, slug: str, part: str, why: str = "") -> Published:
    """Gives what is tried of a part to readers. Raises Refused where nothing is."""
    blog = owned_blog(workshop, person, slug)
    value = tried(workshop, blog, part)
    if not value:
        raise Refused(f"Nothing else is tried; readers have {PARTS[part]} as it is.")
    return give_value(workshop, person, blog, part, value, why or f"{PARTS[part]} changed")


def give_value(workshop: Workshop, person: Person, blog: Blog, part: str, value: str, why: str) -> Published:
    """Gives readers a value of a part; what was tried of it ends."""
    blog = owned_blog(workshop, person, blog.slug)
    with changing(workshop, person, why) as unit:
        if part == FACTS:
            _write_facts(workshop, blog, value)
        store.give(workshop.db, blog.id, part, value, person.id, workshop.clock(), why)
        if part == PROMOS:
            moments = (at for rule in read_promos(value).rules for at in rule.moments)
            store.set_moments(workshop.db, blog.id, part, moments)
        store.set_tried(workshop.db, blog.id, part, "", None)
        note(workshop, person, "house", blog.id, PARTS[part], why)
        events.add(workshop.db, blog.id)
        unit.must_publish(blog.id)
    return unit.published(blog)


def _write_facts(workshop: Workshop, blog: Blog, value: str) -> None:
    """Writes the facts of the house; how they were is kept when they change for the first time. A fact that a value of an earlier version does not know stays."""
    if not store.every_given(workshop.db, blog.id, FACTS, 1):
        store.give(workshop.db, blog.id, FACTS, _facts(workshop, blog), None, blog.made_at, "")
    facts = {**json.loads(_facts(workshop, blog)), **json.loads(value)}
    blogs.set_facts(workshop.db, blog.id, facts)
    if facts["home"] != blog.home:
        guests.mark_of_blog(workshop.db, blog.id)


def before(workshop: Workshop, blog: Blog, part: str) -> str:
    """What readers had of a part before, as JSON; '' where they had nothing else."""
    rows = store.every_given(workshop.db, blog.id, part, 2)
    if not rows:
        return ""
    if part == FACTS and len(rows) < 2:
        return ""
    return rows[1].value if len(rows) > 1 else usual(blog, part)


def undo_given(workshop: Workshop, person: Person, slug: str, part: str) -> Published:
    """Gives readers what they had of a part before. Raises Refused where they had nothing else."""
    blog = owned_blog(workshop, person, slug)
    value = before(workshop, blog, part)
    if not value:
        raise Refused(f"Readers have had {PARTS[part]} in no other way yet.")
    return give_value(workshop, person, blog, part, value, f"{PARTS[part]} was put back")


def effect(workshop: Workshop, person: Person, slug: str, part: str) -> Effect:
    """The pages that giving what is tried of a part to readers would alter."""
    blog = owned_blog(workshop, person, slug)
    return effect_of(workshop, blog, lambda: give(workshop, person, slug, part), in_short=True)


@dataclass(frozen=True)
class GivenValue:
    """A value that was given: its number, when, why, and itself as JSON."""

    number: int
    given_at: int
    why: str
    value: str


def listed(workshop: Workshop, blog: Blog, part: str, most: int = MOST_LISTED) -> list[GivenValue]:
    """What was given of a part, the newest first."""
    return [
        GivenValue(row.id, row.shows_from, row.why, row.value)
        for row in store.every_given(workshop.db, blog.id, part, most)
    ]

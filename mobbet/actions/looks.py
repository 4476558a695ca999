"""How a blog's site looks: a look is tried, which no reader sees, and given to readers, whom another edition shows it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from mobbet.actions.access import owned_blog
from mobbet.actions.footprints import Effect, effect_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.keys import ALL
from mobbet.core.look.begun import begun_look, read_begun
from mobbet.core.look.check import DARK, failing
from mobbet.core.look.look import Look, look_text, read_look_file
from mobbet.core.names import one_line
from mobbet.publish.published import Published
from mobbet.store import events, looks
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

MOST_LISTED = 100
LONGEST_REASON = 200


def given(workshop: Workshop, blog: Blog) -> Look:
    """The look that readers get now."""
    found = looks.given_at(workshop.db, blog.id, workshop.clock())
    return read_look_file(found.value if found else begun_look(blog.design))


def tried(blog: Blog) -> Look | None:
    """The look that is tried; None where none is."""
    return read_look_file(blog.tried_look) if blog.tried_look else None


def present(workshop: Workshop, blog: Blog) -> Look:
    """The look that the blog's people see: the one that is tried, or else the one given."""
    return tried(blog) or given(workshop, blog)


def try_look(workshop: Workshop, person: Person, slug: str, look: Look) -> bool:
    """Has a look tried; the one that readers get ends the trial. Answers whether another one than theirs is tried. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    value = look_text(look)
    with changing(workshop, person):
        is_out = look_text(given(workshop, blog)) == value
        looks.set_tried(workshop.db, blog.id, "" if is_out else value, None if is_out else person.id)
        events.add(workshop.db, blog.id)
    return not is_out


def try_begun(workshop: Workshop, person: Person, slug: str, name: str) -> None:
    """Has one of the looks to begin from tried. Raises BadInput."""
    try_look(workshop, person, slug, read_look_file(begun_look(read_begun(name))))


def try_change(workshop: Workshop, person: Person, slug: str, where: str, value: Any) -> None:
    """Has the present look tried with another value at a place such as `light.accent` or `letters.size`. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    try_look(workshop, person, slug, present(workshop, blog).with_value(where, value))


def try_colour(workshop: Workshop, person: Person, slug: str, mode: str, name: str, value: str) -> None:
    """Has the present look tried with another colour, in the light or in the dark; the dark ones are chosen from then on. Raises BadInput."""
    look = present(workshop, owned_blog(workshop, person, slug))
    if mode == DARK and look.dark is None:
        look = look.model_copy(update={"dark": look.in_dark})
    try_look(workshop, person, slug, look.with_value(f"{mode}.{name}", value))


def put_back(workshop: Workshop, person: Person, slug: str) -> None:
    """Ends the trial: the blog's people see what readers get."""
    blog = owned_blog(workshop, person, slug)
    try_look(workshop, person, slug, given(workshop, blog))


def give(workshop: Workshop, person: Person, slug: str, reason: str = "") -> Published:
    """Gives the look that is tried to readers. Raises Refused where none is, and where colours cannot be read and no reason is given for it."""
    blog = owned_blog(workshop, person, slug)
    look = tried(blog)
    if look is None:
        raise Refused("No other look is tried; readers have this one.")
    wrong, reason = failing(look), one_line(reason)[:LONGEST_REASON]
    if wrong and not reason:
        raise BadInput(_refusal(len(wrong), wrong[0].where), "reason")
    why = "the look changed" + (
        f"; {len(wrong)} pairs of colours stay hard to read: {reason}" if wrong else ""
    )
    return _give(workshop, person, blog, look_text(look), why)


def _refusal(count: int, first: str) -> str:
    others = f" and {count - 1} more" if count > 1 else ""
    return f"“{first}”{others} cannot be read by everyone; take the nearest colour that can, or say why it has to stay."


def undo_given(workshop: Workshop, person: Person, slug: str) -> Published:
    """Gives readers the look that they had before the present one. Raises Refused where there was none."""
    blog = owned_blog(workshop, person, slug)
    found = before(workshop, blog)
    if found is None:
        raise Refused("Readers have had no other look yet.")
    return _give(workshop, person, blog, look_text(found), "the look was put back")


def before(workshop: Workshop, blog: Blog) -> Look | None:
    """The look that readers had before the present one; None where they had no other."""
    rows = looks.every_given(workshop.db, blog.id, 2)
    if not rows:
        return None
    return read_look_file(rows[1].value if len(rows) > 1 else begun_look(blog.design))


def _give(workshop: Workshop, person: Person, blog: Blog, value: str, why: str) -> Published:
    with changing(workshop, person, why) as unit:
        looks.give(workshop.db, blog.id, value, person.id, workshop.clock(), why)
        looks.set_tried(workshop.db, blog.id, "", None)
        unit.must_publish(blog.id)
    return unit.published(blog)


def effect(workshop: Workshop, person: Person, slug: str) -> Effect:
    """The pages that giving the tried look to readers would alter."""
    blog = owned_blog(workshop, person, slug)
    reason = "to see what it alters"
    return effect_of(workshop, blog, lambda: give(workshop, person, slug, reason), in_short=True)


@dataclass(frozen=True)
class GivenLook:
    """A look that was given: when, by whom, and its name."""

    number: int
    name: str
    given_at: int
    why: str


def listed(workshop: Workshop, blog: Blog) -> list[GivenLook]:
    """The looks that were given to readers, the newest first."""
    return [
        GivenLook(row.id, read_look_file(row.value).name, row.shows_from, row.why)
        for row in looks.every_given(workshop.db, blog.id, MOST_LISTED)
    ]


def newest_path(workshop: Workshop, blog: Blog) -> str:
    """Where the newest post stands that everybody may read; '' where there is none."""
    found = SiteSnapshot(workshop.db, blog.id, workshop.clock()).newest(ALL, 1)
    return found[0].path if found else ""

"""How a blog's site looks: a look is tried and given to readers as any part of the house (`house.py`), if it can be read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from mobbet.actions import house
from mobbet.actions.access import owned_blog
from mobbet.actions.footprints import Effect, effect_of
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.house import LOOK
from mobbet.core.keys import ALL
from mobbet.core.look.begun import begun_look, read_begun
from mobbet.core.look.check import DARK, LIGHT, Checked, checked
from mobbet.core.look.choices import PICTURES
from mobbet.core.look.colours import Colour, contrast, nearest
from mobbet.core.look.look import Look, look_text, read_look_file
from mobbet.core.look.over_picture import CELLS, WORDS, least_veil, regions, worst
from mobbet.core.look.palette import TEXT
from mobbet.core.names import one_line
from mobbet.media.pictures import cells
from mobbet.publish.published import Published
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

LONGEST_REASON = 200


def given(workshop: Workshop, blog: Blog) -> Look:
    """The look that readers get now."""
    return read_look_file(house.given(workshop, blog, LOOK))


def tried(workshop: Workshop, blog: Blog) -> Look | None:
    """The look that is tried; None where none is."""
    value = house.tried(workshop, blog, LOOK)
    return read_look_file(value) if value else None


def present(workshop: Workshop, blog: Blog) -> Look:
    """The look that the blog's people see: the one that is tried, or else the one given."""
    return tried(workshop, blog) or given(workshop, blog)


def try_look(workshop: Workshop, person: Person, slug: str, look: Look) -> bool:
    """Has a look tried; the one that readers get ends the trial. Answers whether another one than theirs is tried. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    look = _fitting(workshop, blog, look)
    is_out = look_text(given(workshop, blog)) == look_text(look)
    value = house.given(workshop, blog, LOOK) if is_out else look_text(look)
    return house.try_value(workshop, person, slug, LOOK, value)


def _fitting(workshop: Workshop, blog: Blog, look: Look) -> Look:
    """A look without the pictures that the blog's library does not have, as one of a file may show."""
    data = look.dump()
    for where in PICTURES:
        part, _, name = where.partition(".")
        shown = data[part][name]
        row = media.on_blog(workshop.db, blog.id, shown["item"]) if shown else None
        if shown and (row is None or row.kind != "picture"):
            look = look.with_value(where, None)
    return look


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


def try_picture(workshop: Workshop, person: Person, slug: str, where: str, item: int) -> None:
    """Has the present look tried with a picture of the library at a place (`choices.PICTURES`), or without one (0). Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    look = present(workshop, blog)
    row = media.on_blog(workshop.db, blog.id, item) if item else None
    if where not in PICTURES or (item and (row is None or row.kind != "picture" or row.aside_at)):
        raise BadInput("That is no picture of this blog’s library; choose another one.", where)
    look = look.with_value(where, {"item": item, "x": 50, "y": 50} if item else None)
    if where == "page.picture":
        ground = look.page.ground if look.page.ground in _BEHIND else "picture"
        look = look.with_value("page.ground", ground if item else "paper")
    try_look(workshop, person, slug, look)


_BEHIND = ("picture", "pattern")


@dataclass(frozen=True)
class OverPicture:
    """Whether name and menu can be read over the picture on top, and the lightest veil with which they can."""

    checked: Checked
    least_veil: int


def over_picture(workshop: Workshop, blog: Blog, look: Look) -> OverPicture | None:
    """The words over the picture on top, measured on its pixels; None where there is no picture."""
    found = (
        SiteSnapshot(workshop.db, blog.id, workshop.clock()).item(look.top.picture.item)
        if look.top.picture
        else None
    )
    files = [file for file in (found.of("whole") if found else ()) if workshop.media.has(file.hash)]
    if found is None or not files:
        return None
    parts = regions(look.top, found.width, found.height)
    pixels = [Colour(*one) for one in cells(workshop.media.path(files[0].hash), parts, *CELLS)]
    words = look.top.words
    ground = worst(pixels, words, look.top.veil)
    colour = WORDS[words]
    best = nearest(colour, (ground,), TEXT)
    return OverPicture(
        Checked("name and menu over the picture on top", LIGHT, "", colour.hex, ground.hex, contrast(colour, ground), TEXT, best and best.hex),
        least_veil(pixels, words),
    )  # fmt: skip


def measured(workshop: Workshop, blog: Blog, look: Look) -> list[Checked]:
    """Every pair of colours that can meet on a page of the blog, with the words over the picture on top."""
    over = over_picture(workshop, blog, look)
    return [*checked(look), *([over.checked] if over else [])]


def put_back(workshop: Workshop, person: Person, slug: str) -> None:
    """Ends the trial: the blog's people see what readers get."""
    house.put_back(workshop, person, slug, LOOK)


def give(workshop: Workshop, person: Person, slug: str, reason: str = "") -> Published:
    """Gives the look that is tried to readers. Raises Refused where none is, and where colours cannot be read and no reason is given for it."""
    blog = owned_blog(workshop, person, slug)
    look = tried(workshop, blog)
    if look is None:
        raise Refused("No other look is tried; readers have this one.")
    wrong = [one for one in measured(workshop, blog, look) if not one.holds]
    reason = one_line(reason)[:LONGEST_REASON]
    if wrong and not reason:
        raise BadInput(_refusal(len(wrong), wrong[0].where), "reason")
    why = "the look changed" + (
        f"; {len(wrong)} pairs of colours stay hard to read: {reason}" if wrong else ""
    )
    return house.give(workshop, person, slug, LOOK, why)


def _refusal(count: int, first: str) -> str:
    others = f" and {count - 1} more" if count > 1 else ""
    return f"“{first}”{others} cannot be read by everyone; take the nearest colour that can, or say why it has to stay."


def undo_given(workshop: Workshop, person: Person, slug: str) -> Published:
    """Gives readers the look that they had before the present one. Raises Refused where there was none."""
    if before(workshop, owned_blog(workshop, person, slug)) is None:
        raise Refused("Readers have had no other look yet.")
    return house.undo_given(workshop, person, slug, LOOK)


def before(workshop: Workshop, blog: Blog) -> Look | None:
    """The look that readers had before the present one; None where they had no other."""
    value = house.before(workshop, blog, LOOK)
    return read_look_file(value) if value else None


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
        GivenLook(row.number, read_look_file(row.value).name, row.given_at, row.why)
        for row in house.listed(workshop, blog, LOOK)
    ]


def newest_path(workshop: Workshop, blog: Blog) -> str:
    """Where the newest post stands that everybody may read; '' where there is none."""
    found = SiteSnapshot(workshop.db, blog.id, workshop.clock()).newest(ALL, 1)
    return found[0].path if found else ""

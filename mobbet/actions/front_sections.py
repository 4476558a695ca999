"""The sections of the front page: changes of the menu that is tried, and what somebody named for one."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions.menus import Change
from mobbet.actions.most_read import count_for
from mobbet.actions.workshop import Workshop
from mobbet.core import front
from mobbet.core.errors import BadInput
from mobbet.core.front import (
    AUTHORS,
    BLOCKS,
    CATEGORIES,
    CATEGORY,
    CHOSEN,
    KINDS,
    MOST_READ,
    MOST_SHOWN,
    PAGES,
    TAG,
    Section,
)
from mobbet.core.menu import FOOT_CATEGORIES
from mobbet.core.names import one_line
from mobbet.store import addresses, filing, kept, people, posts
from mobbet.store.blogs import Blog


def changing_sections(change: front.Change) -> Change:
    """A change of the sections as one of the menu."""
    return lambda menu: replace(menu, sections=change(menu.sections))


def adding(section: Section, place: int | None = None) -> Change:
    return changing_sections(lambda sections: front.added(sections, section, place))


def removing(place: int) -> Change:
    return changing_sections(lambda sections: front.removed(sections, place))


def moving(place: int, to: int) -> Change:
    return changing_sections(lambda sections: front.moved(sections, place, to))


def heading(place: int, words: str) -> Change:
    words = front.read_heading(words)
    return changing_sections(lambda sections: front.changed(sections, place, words=words))


def most(place: int, count: int) -> Change:
    if not 1 <= count <= MOST_SHOWN:
        raise BadInput(f"A section shows 1 to {MOST_SHOWN}; {count} is another number.", "value")
    return changing_sections(lambda sections: front.changed(sections, place, most=count))


def pictures(place: int, are_shown: bool) -> Change:
    return changing_sections(lambda sections: front.changed(sections, place, pictures=are_shown))


def showing(workshop: Workshop, blog: Blog, place: int, typed: str) -> Change:
    """The change that has a section show one more of what is chosen. Raises BadInput for what is not there."""

    def change(sections: front.Sections) -> front.Sections:
        section = front.at(sections, place)
        more = front.with_one_more(section, _number_of(workshop, blog, section.kind, typed))
        return front.changed(sections, place, of=more.of)

    return changing_sections(change)


def hiding(place: int, number: int) -> Change:
    """The change that takes one of what is chosen out of a section."""
    return changing_sections(
        lambda sections: front.changed(
            sections, place, of=tuple(one for one in front.at(sections, place).of if one != number)
        )
    )


def foot_categories(how: str) -> Change:
    """The change of how the foot names categories. Raises BadInput."""
    if how not in FOOT_CATEGORIES:
        raise BadInput(
            f"“{how[:20]}” is no way to name categories; choose names, counts, or neither.", "value"
        )
    return lambda menu: replace(menu, foot_categories=how)


def subject_pictures(are_shown: bool) -> Change:
    return lambda menu: replace(menu, subject_pictures=are_shown)


def read_section(workshop: Workshop, blog: Blog, text: str) -> Section:
    """The section that somebody named: a kind that needs nothing more (`chosen`, `categories`, `most_read`, `authors`, `pages`), or `category:` with a slug,
    `tag:` with a name, `blocks:` with the name of a saved block; each of these also by number. Raises BadInput."""
    kind, _, which = one_line(text).partition(":")
    if kind in (CHOSEN, CATEGORIES, MOST_READ, AUTHORS, PAGES) and not which:
        if kind == MOST_READ:
            count_for(workshop, blog)
        return Section(kind)
    number = _of_blog(workshop, blog, kind, which.strip())
    if number is None:
        raise BadInput(
            f"“{text[:60]}” is no section of a front page; choose one of the list, like category:lamps, tag:flex, blocks:NAME, {CHOSEN} or {MOST_READ}.",
            "section",
        )
    return Section(kind, of=(number,))


def _of_blog(workshop: Workshop, blog: Blog, kind: str, which: str) -> int | None:
    """The category, tag or saved block of the blog that is named; None for another."""
    db, known = workshop.db, whole_number(which)
    if kind == CATEGORY:
        number = known if known in filing.subjects(db, blog.id) else None
        return number or filing.category_with_slug(db, blog.id, which)
    if kind == TAG:
        tag = (filing.tag(db, blog.id, known) if known else None) or filing.find_tag(db, blog.id, which)
        return tag.id if tag else None
    if kind == BLOCKS:
        return next((one.id for one in kept.every(db, blog.id) if known == one.id or which == one.name), None)
    return None


def whole_number(text: str) -> int:
    """A number that was typed; 0 for none."""
    return int(text) if text.isascii() and text.isdecimal() and len(text) < 16 else 0


def _number_of(workshop: Workshop, blog: Blog, kind: str, typed: str) -> int:
    """The post, page or person that was typed by its title, address or name. Raises BadInput."""
    db, words = workshop.db, one_line(typed)
    if KINDS[kind].is_of_many and words:
        if kind == AUTHORS:
            return _author(workshop, blog, words)
        owner = addresses.owner(db, blog.id, words) if words.startswith("/") else None
        number = (
            owner[1]
            if owner and owner[0] == "post"
            else whole_number(words) or posts.titled(db, blog.id, words)
        )
        post = posts.on_blog(db, blog.id, number) if number else None
        if post and post.is_page == (kind == PAGES):
            return post.id
    what = {AUTHORS: "a person’s name", PAGES: "the title of a page"}.get(kind, "the title of a post")
    raise BadInput(
        f"“{words[:60]}” is nothing that can stand there; write {what} of this blog, or its address.", "value"
    )


def _author(workshop: Workshop, blog: Blog, words: str) -> int:
    for person in people.of_blog(workshop.db, blog.id):
        if words.casefold() in (person.name.casefold(), str(person.id)):
            return person.id
    raise BadInput(f"“{words[:60]}” wrote nothing on this blog; write the name of somebody who did.", "value")

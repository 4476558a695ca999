"""The menu and the foot of the bench's pages."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions import front_sections, menus, profiles, promos
from mobbet.actions.workshop import Workshop
from mobbet.core.front import AUTHORS, Section
from mobbet.core.front import CHOSEN as CHOSEN_POSTS
from mobbet.core.menu import COUNTS, Entry, Menu
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.store.people import Person

MENU = (
    ("newest", "Notes"),
    ("/sessions/", ""),
    ("/about/", "About"),
    ("/find-us/", ""),
    ("subjects", ""),
    ("https://fuse-notes.example/", "Fuse notes"),
)
FOOT = (("archive", ""), ("search", ""), ("feed", ""))
LINE = "© {blog}, {place}"


CHOSEN = (
    "Which glue, honestly",
    "Why your lamp flickers when the tram goes by",
    "A zip is a very small railway",
)
NOTICE = """---
name: Bring your own thread
categories: Textiles
never: [sewing machine]
weight: 6
---
**Bring your own thread.** The bench has white and black, and a great deal of a green that nobody wanted. On the last Thursday of the month somebody sits
at the window table who threads needles for others.
"""


def set_front(workshop: Workshop, owner: Person, blog: Blog) -> None:
    """A front page with a few posts to begin with and who writes, counts in the foot, and a notice below posts on textiles."""
    changes = [
        front_sections.adding(Section(CHOSEN_POSTS, "Good to begin with")),
        *(front_sections.showing(workshop, blog, 1, title) for title in CHOSEN),
        front_sections.adding(Section(AUTHORS)),
        front_sections.foot_categories(COUNTS),
    ]
    for change in changes:
        menus.give_change(workshop, owner, blog.slug, change)
    promos.add_file(workshop, owner, blog.slug, NOTICE)


def set_menu(workshop: Workshop, owner: Person, blog: Blog) -> None:
    """Six entries, of which the about page shows its parts, a foot, and a licence for the texts."""

    def entry(text: str, words: str) -> Entry:
        return Entry(menus.read_target(workshop, blog, text), words, parts=text == "/about/")

    line = menus.foot_line(workshop, blog, LINE)
    menu = Menu(tuple(entry(*one) for one in MENU), tuple(entry(*one) for one in FOOT), licence="cc-by")
    whole = replace(line(menu), open_on_phone=3)
    menus.give_change(workshop, owner, blog.slug, lambda _: whole)


ABOUT = {
    "Ines Farrow": "Ines was an electrician on the ferries for nineteen years, and is one in her sleep.\n\nShe keeps a jar of fuses sorted by what they were in when they went.",
    "Petra Quill": "Petra learned clocks from an uncle who never let her touch one. She has touched about four hundred since.",
}
PORTRAITS = {"Ines Farrow": "lamp.png", "Petra Quill": "clock.png"}


def set_profile(workshop: Workshop, person: Person, line: str, blog: Blog) -> None:
    """How readers see somebody: a line, and for some a text and a picture of the library."""
    pictures = {row.name: row.id for row in media.find(workshop.db, blog.id, Wanted(kind="picture"), 100)}
    portrait = pictures.get(PORTRAITS.get(person.name, ""))
    profiles.set_profile(
        workshop,
        person,
        name=person.name,
        line=line,
        text=ABOUT.get(person.name, ""),
        links="",
        pictures={blog.slug: portrait},
    )

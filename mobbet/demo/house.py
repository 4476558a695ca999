"""The menu and the foot of the bench's pages."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions import menus
from mobbet.actions.workshop import Workshop
from mobbet.core.menu import Entry, Menu
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

MENU = (
    ("newest", "Notes"),
    ("/sessions/", ""),
    ("/about/", "About"),
    ("/find-us/", ""),
    ("subjects", ""),
    ("https://fuse-notes.example/", "Fuse notes"),
)
FOOT = (("archive", ""), ("feed", ""))
LINE = "© {blog}, {place}"


def set_menu(workshop: Workshop, owner: Person, blog: Blog) -> None:
    """Six entries, of which the about page shows its parts, a foot, and a licence for the texts."""

    def entry(text: str, words: str) -> Entry:
        return Entry(menus.read_target(workshop, blog, text), words, parts=text == "/about/")

    line = menus.foot_line(workshop, blog, LINE)
    menu = Menu(tuple(entry(*one) for one in MENU), tuple(entry(*one) for one in FOOT), licence="cc-by")
    whole = replace(line(menu), open_on_phone=3)
    menus.give_change(workshop, owner, blog.slug, lambda _: whole)

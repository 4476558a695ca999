"""The menu and the foot of a blog's pages: ordered entries with two levels, as one value, and where each of them leads."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from dataclasses import asdict, dataclass, replace
from typing import Any, NamedTuple, Protocol

from mobbet.core import front
from mobbet.core.canonical import canonical
from mobbet.core.errors import BadInput
from mobbet.core.keys import Name
from mobbet.core.media.licences import LICENCE
from mobbet.core.names import one_line
from mobbet.core.web_addresses import split_address

NEWEST, SUBJECTS, ARCHIVE, SEARCH, FEED = "newest", "subjects", "archive", "search", "feed"
PLACES = {
    NEWEST: "the newest posts",
    SUBJECTS: "the page of all subjects",
    ARCHIVE: "the archive",
    SEARCH: "the search",
    FEED: "the feed",
}
"""What an entry may lead to that every site has, in words."""
SUBJECT_PATH, ARCHIVE_PATH, SEARCH_PATH, FEED_PATH = "/subjects/", "/archive/", "/search/", "/feed.atom"
FIXED = {
    SUBJECTS: ("Subjects", SUBJECT_PATH),
    ARCHIVE: ("Archive", ARCHIVE_PATH),
    SEARCH: ("Search", SEARCH_PATH),
    FEED: ("Feed", FEED_PATH),
}
"""Of the PLACES those that are the same on every site: (name, path)."""
MOST_ENTRIES, MOST_BELOW, LONGEST_WORDS, LONGEST_LINE, LONGEST_ADDRESS = 24, 12, 40, 200, 500
_SCHEMES = ("http", "https", "mailto")


class Target(Name):
    """What an entry leads to: `newest`, `subjects`, `archive`, `search`, `feed`, `post:12` (also a page), `category:3`, `tag:5`, `series:2`, `author:4`,
    or `address:https://…`."""

    __slots__ = ()

    @property
    def address(self) -> str:
        """The address of elsewhere that it leads to; '' for a place of the site."""
        return self.which if self.kind == "address" else ""


@dataclass(frozen=True)
class Entry:
    """One entry: its target, its words ('' for the target's own), whether phones show it, whether the parts of a category or page follow
    below it, and the entries below it that were put there."""

    to: Target
    words: str = ""
    on_phone: bool = True
    parts: bool = False
    below: tuple[Entry, ...] = ()


MENU, FOOT = "menu", "foot"
Place = tuple[int, ...]
"""Where an entry stands in a list, from 0: (2,) is the third, (2, 0) the first below it."""


@dataclass(frozen=True)
class Menu:
    """The entries of the menu and of the foot, the foot's line with fill-ins ('' for name and line of the blog), the licence of the texts
    (`core/media/licences.py`), how many entries of the menu stand open on a phone (0 for all), the page that is the front door (0 for the newest posts), the sections of the
    front page, whether the foot names the categories (`names`, or `counts` for how many posts as well), and whether the page of all subjects shows the pictures of categories."""

    menu: tuple[Entry, ...] = (
        Entry(Target(NEWEST)),
        Entry(Target(SUBJECTS)),
        Entry(Target(ARCHIVE)),
        Entry(Target(FEED)),
    )
    foot: tuple[Entry, ...] = (Entry(Target(SEARCH)), Entry(Target(FEED)))
    line: str = ""
    licence: str = ""
    open_on_phone: int = 0
    front_door: int = 0
    sections: tuple[front.Section, ...] = front.USUAL
    foot_categories: str = ""
    subject_pictures: bool = False

    def entries(self, where: str) -> tuple[Entry, ...]:
        return self.foot if where == FOOT else self.menu

    def with_entries(self, where: str, entries: Iterable[Entry]) -> Menu:
        if where == FOOT:
            return replace(self, foot=tuple(entries))
        return replace(self, menu=tuple(entries))


USUAL = Menu()
NAMES, COUNTS = "names", "counts"
FOOT_CATEGORIES = {"": "no categories", NAMES: "the categories", COUNTS: "the categories with their counts"}
"""{how the foot names categories: in words}."""


def menu_text(menu: Menu) -> str:
    """A menu as it is kept."""
    return canonical(asdict(menu))


def read_menu(text: str) -> Menu:
    """A menu that was kept; what it does not say is as usual."""
    data = json.loads(text)
    lists: dict[str, Any] = {name: tuple(map(_entry, data[name])) for name in (MENU, FOOT) if name in data}
    if "sections" in data:
        lists["sections"] = tuple(map(front.read_section, data["sections"]))
    return Menu(**{**data, **lists})


def _entry(data: dict[str, Any]) -> Entry:
    return Entry(**{**data, "to": Target(data["to"]), "below": tuple(map(_entry, data.get("below", ())))})


def read_address(text: str) -> Target:
    """An address of elsewhere that a person typed. Raises BadInput."""
    address = text.strip()
    parts = split_address(address)
    if (
        parts.scheme not in _SCHEMES
        or not (parts.hostname or parts.scheme == "mailto")
        or any(letter.isspace() or not letter.isprintable() for letter in address)
        or len(address) > LONGEST_ADDRESS
    ):
        raise BadInput(
            f"“{address[:60]}” is no address a menu can lead to; write it whole, like https://tools.example/.",
            "to",
        )
    return Target.of("address", address)


def read_words(text: str) -> str:
    """The words of an entry. Raises BadInput when they are too long."""
    words = one_line(text)
    if len(words) > LONGEST_WORDS:
        raise BadInput(
            f"“{words[:30]}…” has {len(words)} letters; {LONGEST_WORDS} is the most in a menu.", "words"
        )
    return words


def read_foot_line(text: str) -> str:
    line = one_line(text)
    if len(line) > LONGEST_LINE:
        raise BadInput(f"The line of the foot has {len(line)} letters; {LONGEST_LINE} is the most.", "line")
    return line


def read_text_licence(key: str) -> str:
    """A licence for the texts: one with a page that machines know, or '' for none. Raises BadInput."""
    if key and (key not in LICENCE or not LICENCE[key].page):
        raise BadInput(f"“{key}” is no open licence Mobbet knows; choose one of the list.", "licence")
    return key


def entry_at(menu: Menu, where: str, place: Place) -> Entry:
    """The entry at a place. Raises BadInput where none stands."""
    entries, found = menu.entries(where), None
    for at in place:
        if not 0 <= at < len(entries):
            found = None
            break
        found = entries[at]
        entries = found.below
    if found is None:
        raise BadInput(
            f"The {where} has no entry {'.'.join(str(at + 1) for at in place)}; look at it again, somebody may have changed it.",
            "at",
        )
    return found


def _edited(menu: Menu, where: str, above: Place, edit: Callable[[list[Entry]], object]) -> Menu:
    """The menu with one list of entries edited: that below an entry, or the first level."""
    if not above:
        entries = [*menu.entries(where)]
        edit(entries)
        return menu.with_entries(where, entries)
    parent = entry_at(menu, where, above)
    below = [*parent.below]
    edit(below)
    entries = [*menu.entries(where)]
    entries[above[0]] = replace(parent, below=tuple(below))
    return menu.with_entries(where, entries)


def added(menu: Menu, where: str, entry: Entry, place: Place | None = None) -> Menu:
    """The menu with an entry more, at its end or at a place. Raises BadInput where it is full, or stands there already."""
    place = place if place is not None else (len(menu.entries(where)),)
    above, at = place[:-1], place[-1]
    if len(place) > 2 or (above and where == FOOT) or (above and entry.below):
        raise BadInput("A menu has two levels, and a foot has one; choose another place.", "at")
    beside = entry_at(menu, where, above).below if above else menu.entries(where)
    most = MOST_BELOW if above else MOST_ENTRIES
    if len(beside) >= most:
        raise BadInput(f"{most} entries are the most that stand there; take one out first.", "at")
    if any(one.to == entry.to for one in beside):
        raise BadInput("An entry that leads there stands there already.", "to")
    return _edited(menu, where, above, lambda entries: entries.insert(min(at, len(entries)), entry))


def removed(menu: Menu, where: str, place: Place) -> Menu:
    """The menu without an entry and what stands below it. Raises BadInput where none stands."""
    entry_at(menu, where, place)
    return _edited(menu, where, place[:-1], lambda entries: entries.pop(place[-1]))


def moved(menu: Menu, where: str, place: Place, to: Place) -> Menu:
    """The menu with an entry at another place, by the order without it. Raises BadInput where that cannot be."""
    entry = entry_at(menu, where, place)
    if len(to) == 2 and place == to[:1]:
        raise BadInput("An entry cannot stand below itself; choose another place.", "at")
    return added(removed(menu, where, place), where, entry, to)


def changed(menu: Menu, where: str, place: Place, **values: Any) -> Menu:
    """The menu with other values of an entry. Raises BadInput where none stands."""
    entry = replace(entry_at(menu, where, place), **values)
    return _edited(menu, where, place[:-1], lambda entries: entries.__setitem__(place[-1], entry))


def places(menu: Menu, where: str) -> list[tuple[Place, Entry]]:
    """Every entry with its place, in the order in which they stand."""
    found: list[tuple[Place, Entry]] = []
    for at, entry in enumerate(menu.entries(where)):
        found.append(((at,), entry))
        found += [((at, under), below) for under, below in enumerate(entry.below)]
    return found


class MenuLink(NamedTuple):
    """An entry as a page shows it."""

    words: str
    path: str
    on_phone: bool = True
    below: tuple[MenuLink, ...] = ()


class Known(Protocol):
    """What is known of the targets, for one reader at one instant."""

    def link(self, target: Target) -> tuple[str, str] | None:
        """(its own words, its path) of a target; None where it leads nowhere for the reader."""
        ...

    def parts(self, target: Target) -> Iterable[Target]:
        """The parts of a category, or the pages below a page."""
        ...


def links(entries: Iterable[Entry], known: Known) -> tuple[MenuLink, ...]:
    """The entries that lead somewhere, as a page shows them. What stands below one that does not takes its place."""
    found: list[MenuLink] = []
    for entry in entries:
        parts = [Entry(part) for part in known.parts(entry.to)] if entry.parts else []
        below = links((*entry.below, *parts), known)
        link = known.link(entry.to)
        if link is None:
            found += below
        else:
            found.append(MenuLink(entry.words or link[0], link[1], entry.on_phone, below))
    return tuple(found)

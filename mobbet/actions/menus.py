"""The menu and the foot of a blog's pages: changed here first, then given to readers; entries by address, word or number."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from mobbet.actions import pages
from mobbet.actions.house_values import HouseValue
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.fill_ins import FILL_IN
from mobbet.core.house import MENU
from mobbet.core.menu import (
    FIXED,
    FOOT,
    NEWEST,
    PLACES,
    Entry,
    Menu,
    Place,
    Target,
    added,
    changed,
    menu_text,
    moved,
    places,
    read_address,
    read_foot_line,
    read_menu,
    read_text_licence,
    read_words,
    removed,
)
from mobbet.core.menu import MENU as MENU_LIST
from mobbet.core.permalinks import one_form
from mobbet.store import addresses, filing, people, posts, series
from mobbet.store.blogs import Blog
from mobbet.store.snapshot import SiteSnapshot

Change = Callable[[Menu], Menu]
_FIXED = {"/": NEWEST, **{path: target for target, (_, path) in FIXED.items()}}


VALUE = HouseValue(MENU, read_menu, menu_text, "the menu changed")
given, present, try_menu = VALUE.given, VALUE.present, VALUE.try_value
try_change, give_change = VALUE.try_change, VALUE.give_change


def addresses_away(workshop: Workshop, blog: Blog) -> list[str]:
    """The web addresses of elsewhere that menu and foot lead to."""
    menu = present(workshop, blog)
    found = [entry.to.address for where in (MENU_LIST, FOOT) for _, entry in places(menu, where)]
    return [address for address in found if address.startswith(("http://", "https://"))]


def adding(where: str, target: Target, words: str = "", place: Place | None = None) -> Change:
    """The change that adds an entry. Raises BadInput for words that are too long."""
    entry = Entry(target, read_words(words))
    return lambda menu: added(menu, where, entry, place)


def removing(where: str, place: Place) -> Change:
    return lambda menu: removed(menu, where, place)


def moving(where: str, place: Place, to: Place) -> Change:
    return lambda menu: moved(menu, where, place, to)


def setting(where: str, place: Place, **values: str | bool) -> Change:
    """The change that gives an entry other words, or other settings."""
    if "words" in values:
        values["words"] = read_words(str(values["words"]))
    return lambda menu: changed(menu, where, place, **values)


def at_address(where: str, target: Target, words: str) -> Change:
    """The change that has an entry lead there under these words: the one that does already, or a new one at the end."""
    words = read_words(words)

    def change(menu: Menu) -> Menu:
        there = next((place for place, entry in places(menu, where) if entry.to == target), None)
        if there is None:
            return added(menu, where, Entry(target, words))
        return changed(menu, where, there, words=words)

    return change


def without(target: Target, *lists: str) -> Change:
    """The change that takes every entry of a target out of the menu, of the foot, or of both."""

    def change(menu: Menu) -> Menu:
        for where in lists or (MENU_LIST, FOOT):
            while there := [place for place, entry in places(menu, where) if entry.to == target]:
                menu = removed(menu, where, there[0])
        return menu

    return change


def foot_line(workshop: Workshop, blog: Blog, text: str) -> Change:
    """The change of the foot's line. Raises BadInput for a fill-in that stands for nothing."""
    line, known = read_foot_line(text), SiteSnapshot(workshop.db, blog.id, workshop.clock()).foot_values
    unknown = next((name for name in FILL_IN.findall(line) if name not in known), None)
    if unknown is not None:
        raise BadInput(
            f"“{{{unknown}}}” stands for nothing; choose from {', '.join(f'{{{name}}}' for name in known)}.",
            "line",
        )
    return lambda menu: replace(menu, line=line)


def licence(key: str) -> Change:
    kept = read_text_licence(key)
    return lambda menu: replace(menu, licence=kept)


def open_on_phone(count: int) -> Change:
    return lambda menu: replace(menu, open_on_phone=count)


def front_door(workshop: Workshop, blog: Blog, number: int) -> Change:
    """The change that puts a page at the front, or with 0 the newest posts. Raises BadInput for what is no page, and where the newest posts have no place."""
    if number:
        page = posts.on_blog(workshop.db, blog.id, number)
        if page is None or not page.is_page:
            raise BadInput("That is no page of this blog; choose one of the list.", "front_door")
        owner = addresses.owner(workshop.db, blog.id, "/posts/")
        if owner:
            raise BadInput(
                "A post lives at /posts/, where the newest posts would stand; give it another address first.",
                "front_door",
            )
    return lambda menu: replace(menu, front_door=number)


def read_target(workshop: Workshop, blog: Blog, text: str) -> Target:
    """What somebody named: newest, subjects, archive, search, feed, the address of something on the blog, tag:NAME, series:NAME, a title, or an address
    of elsewhere. Raises BadInput."""
    words = " ".join(text.split())
    found = _named(workshop, blog, words)
    if found is not None:
        return found
    if "://" in words or words.startswith("mailto:"):
        return read_address(words)
    raise BadInput(
        f"“{words[:60]}” is nothing a menu can lead to; write the address or the title of a page, post, category or tag, one of"
        f" {', '.join(PLACES)}, or a whole address like https://tools.example/.",
        "to",
    )


def _at(workshop: Workshop, blog: Blog, path: str) -> Target | None:
    """What lives at an address of the blog, or is going to."""
    if path in _FIXED:
        return Target(_FIXED[path])
    db, owner = workshop.db, addresses.owner(workshop.db, blog.id, path)
    if owner and owner[0] in ("category", "tag"):
        return Target.of(*owner)
    if owner and owner[0] == "post":
        return Target.of(*owner) if posts.on_blog(db, blog.id, owner[1]) else None
    parts = path.strip("/").split("/")
    if len(parts) == 1 and (number := filing.category_with_slug(db, blog.id, parts[0])):
        return Target.of("category", number)
    if len(parts) == 2 and parts[0] == "tag" and (number := filing.tag_with_slug(db, blog.id, parts[1])):
        return Target.of("tag", number)
    if len(parts) == 2 and parts[0] == "by" and (number := people.with_slug(db, parts[1])):
        return Target.of("author", number)
    page = pages.page_at(workshop, blog, path)
    return Target.of("post", page.id) if page else None


def _named(workshop: Workshop, blog: Blog, words: str) -> Target | None:
    db, kind, name = workshop.db, words.partition(":")[0].lower(), words.partition(":")[2].strip()
    if words.lower() in PLACES:
        return Target(words.lower())
    if words.startswith("/"):
        return _at(workshop, blog, one_form(words))
    if kind == "tag" and name:
        tag = filing.find_tag(db, blog.id, name)
        return Target.of("tag", tag.id) if tag else None
    if kind == "series" and name:
        number = series.named(db, blog.id, name)
        return Target.of("series", number) if number else None
    number = posts.titled(db, blog.id, words) if words and "://" not in words else None
    return Target.of("post", number) if number else None

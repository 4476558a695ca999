"""Pages and menu: what stands at the top and at the foot of every page, tried here first."""

from __future__ import annotations

import re
from typing import Any

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import front_sections, house, menus, moments, pages, posts, preview_readers, promos
from mobbet.actions.access import blog_for, owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.house import MENU as PART
from mobbet.core.menu import FOOT, MENU, Place, entry_at
from mobbet.core.numbers import counted, ordinal
from mobbet.core.screen_dates import day_in_words
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import looked_response, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.front_view import FrontView
from mobbet.web.site.front_view import written as front_at
from mobbet.web.site.menu_contexts import MenuPage
from mobbet.web.site.menu_view import MenuView, written
from mobbet.web.site.part_routing import add_part_routes
from mobbet.web.write import addresses as to_write

router = APIRouter()
TOLD = {
    "given": "Readers have this menu now.",
    "back": "The trial is over; you see what readers have.",
    "undone": "Readers have the menu before again.",
    "removed": "The entry is taken out.",
    "changed": "It is changed here; readers do not see it yet.",
}
_AT = re.compile(r"(menu|foot)\.([1-9]\d{0,2})(?:\.([1-9]\d{0,2}))?")


FRONT_AT = re.compile(r"front\.([1-9]\d{0,2})")


def section_place(text: str) -> int:
    """The place of `front.2`, from 0."""
    return int(text.removeprefix("front.")) - 1


def _place(text: str) -> tuple[str, Place]:
    """`menu.2.1` as ('menu', (1, 0)). Raises BadInput."""
    found = _AT.fullmatch(text)
    if not found:
        raise BadInput(f"“{text[:30]}” is no place in a menu; choose an entry of the map.", "at")
    return found[1], tuple(int(number) - 1 for number in found.groups()[1:] if number)


@router.get(to_site.menu.route)
def show(here: Here, me: Me, slug: str, at: str = "", told: str = "") -> Response:
    blog = owned_blog(here, me, slug)
    return _page(here, me, blog, at, told=_told(here, blog, at, told))


def _told(here: Workshop, blog: Blog, at: str, told: str) -> str:
    """What the last change came to, in a sentence."""
    if told in ("added", "moved") and FRONT_AT.fullmatch(at):
        return f"The section {'is new, and stands' if told == 'added' else 'stands'} {ordinal(section_place(at) + 1)} on the front page now."
    if told not in ("added", "moved") or not _AT.fullmatch(at):
        return TOLD.get(told, "")
    where, place = _place(at)
    try:
        entry = entry_at(menus.present(here, blog), where, place)
    except BadInput:
        return ""
    words = entry.words or _view(here, blog).leads(entry.to).title
    level = "" if len(place) == 1 else " on the second level"
    return f"“{words}” {'is new, and stands' if told == 'added' else 'stands'} {ordinal(place[-1] + 1)}{level} now."


def _view(here: Workshop, blog: Blog) -> MenuView:
    tried = house.tried(here, blog, PART)
    snapshot = SiteSnapshot(here.db, blog.id, here.clock(), tried={PART: tried} if tried else None)
    return MenuView(here, blog, menus.present(here, blog), snapshot)


def _page(here: Workshop, me: Person, blog: Blog, at: str = "", status: int = 200, **more: Any) -> Response:
    view = _view(here, blog)
    front = FrontView(here, blog, view.menu, view.snapshot)
    found = house.listed(here, blog, PART, 1)
    chosen = section = None
    try:
        if FRONT_AT.fullmatch(at):
            section = front.chosen(section_place(at))
        elif at:
            chosen = view.chosen(*_place(at))
    except BadInput:
        pass
    left_out, drafts = view.left_out()
    context = MenuPage(
        bar_for(here, me, blog, "site"),
        [*view.sentences(), *front.sentences()],
        view.spots(MENU, at),
        view.spots(FOOT, at),
        view.snapshot.house.foot_line or f"{blog.name}. {blog.tagline}",
        chosen,
        front.spots(at) if not view.menu.front_door else [],
        section,
        front.offered(),
        left_out,
        drafts,
        view.offered(),
        _promos_in_words(here, blog),
        view.problems(),
        bool(house.tried(here, blog, PART)),
        day_in_words(found[0].given_at if found and found[0].given_at else blog.made_at, blog.zone),
        bool(house.before(here, blog, PART)),
        **more,
    )
    return page(context, status)


def _promos_in_words(here: Workshop, blog: Blog) -> str:
    count = len(promos.present(here, blog).rules)
    return counted(count, "saved block") + " by a rule" if count else "no saved block by a rule yet"


def _tried(here: Workshop, me: Person, slug: str, act: Any, at: str, told: str, **typed: str) -> Response:
    """Makes a change of what is tried; with the reason, and what was typed, when it is refused."""
    try:
        where = act()
    except BadInput as error:
        return _page(here, me, owned_blog(here, me, slug), at, 422, problem=str(error), typed=typed)
    return see_other(to_site.menu(slug, at=where or at, told=told))


@router.post(to_site.menu.at("section"))
def add_section(here: Here, me: Me, slug: str, section: Text = "") -> Response:
    """Has one section more of the front page tried."""
    blog = owned_blog(here, me, slug)

    def act() -> str:
        menus.try_change(
            here, me, slug, front_sections.adding(front_sections.read_section(here, blog, section))
        )
        return front_at(len(menus.present(here, blog).sections) - 1)

    return _tried(here, me, slug, act, "", "added", section=section)


@router.post(to_site.menu.at("add"))
def add(here: Here, me: Me, slug: str, to: Text = "", words: Text = "", where: Text = MENU) -> Response:
    """Has one entry more tried."""
    blog, where = owned_blog(here, me, slug), FOOT if where == FOOT else MENU

    def act() -> str:
        target = menus.read_target(here, blog, to)
        menus.try_change(here, me, slug, menus.adding(where, target, words))
        return written(where, (len(menus.present(here, blog).entries(where)) - 1,))

    return _tried(here, me, slug, act, "", "added", to=to, words=words, where=where)


@router.post(to_site.menu.at("move"))
def move(here: Here, me: Me, slug: str, at: Text = "", to: Text = "") -> Response:
    """Has an entry tried at another place."""

    def act() -> str:
        if FRONT_AT.fullmatch(at):
            last = len(menus.present(here, owned_blog(here, me, slug)).sections)
            goal = min(max(_whole(to, 10**6), 1), last) - 1
            menus.try_change(here, me, slug, front_sections.moving(section_place(at), goal))
            return front_at(goal)
        where, place = _place(at)
        wanted = _place(f"{where}.{to}")[1]
        menus.try_change(here, me, slug, menus.moving(where, place, wanted))
        count = len(menus.present(here, owned_blog(here, me, slug)).entries(where))
        return written(where, wanted if len(wanted) > 1 else (min(wanted[0], count - 1),))

    return _tried(here, me, slug, act, at, "moved")


@router.post(to_site.menu.at("remove"))
def remove(here: Here, me: Me, slug: str, at: Text = "") -> Response:
    """Has the menu tried without an entry."""

    def act() -> str:
        is_section = FRONT_AT.fullmatch(at)
        change = front_sections.removing(section_place(at)) if is_section else menus.removing(*_place(at))
        menus.try_change(here, me, slug, change)
        return ""

    return _tried(here, me, slug, act, "", "removed")


@router.post(to_site.menu.at("set"))
def set_value(here: Here, me: Me, slug: str, where: Text = "", value: Text = "", gone: Text = "") -> Response:
    """Has another value tried: of an entry (`menu.2:words`), or of the menu as a whole."""
    at, _, name = where.rpartition(":")

    def act() -> str:
        blog = owned_blog(here, me, slug)
        is_section = FRONT_AT.fullmatch(at) or name in ("foot_categories", "subject_pictures")
        change = (
            _section_change(here, blog, at, name, value, bool(gone))
            if is_section
            else _change(here, blog, at, name, value)
        )
        menus.try_change(here, me, slug, change)
        return at

    return _tried(here, me, slug, act, at, "changed", **{where: value})


def _change(here: Workshop, blog: Blog, at: str, name: str, value: str) -> menus.Change:
    if at and name == "words":
        return menus.setting(*_place(at), words=value)
    if at and name == "parts":
        return menus.setting(*_place(at), parts=bool(value))
    if at and name == "on_phone":
        return menus.setting(*_place(at), on_phone=bool(value))
    if name == "line":
        return menus.foot_line(here, blog, value)
    if name == "licence":
        return menus.licence(value)
    if name == "front_door":
        return menus.front_door(here, blog, _whole(value, 10**15))
    if name == "open_on_phone":
        return menus.open_on_phone(_whole(value, 12))
    raise BadInput(f"“{name[:30]}” is nothing of a menu; choose a word on yellow.", "where")


def _section_change(
    here: Workshop, blog: Blog, at: str, name: str, value: str, is_gone: bool
) -> menus.Change:
    if name == "foot_categories":
        return front_sections.foot_categories(value)
    if name == "subject_pictures":
        return front_sections.subject_pictures(bool(value))
    place = section_place(at)
    if name == "words":
        return front_sections.heading(place, value)
    if name == "most":
        return front_sections.most(place, _whole(value, 10**6))
    if name == "pictures":
        return front_sections.pictures(place, bool(value))
    if name == "of":
        return front_sections.showing(here, blog, place, value)
    if name.startswith("of.") and is_gone:
        return front_sections.hiding(place, front_sections.whole_number(name.removeprefix("of.")))
    if name.startswith("of."):
        return lambda menu: menu
    raise BadInput(f"“{name[:30]}” is nothing of a section; choose a word on yellow.", "where")


def _whole(text: str, most: int) -> int:
    if not (text.isascii() and text.isdecimal() and len(text) < 16 and int(text) <= most):
        raise BadInput(f"“{text[:20]}” cannot be set here; write a whole number from 0 to {most}.", "value")
    return int(text)


@router.post(to_site.menu.at("page"))
def new_page(here: Here, me: Me, slug: str) -> Response:
    """Begins a page."""
    post = posts.begin_post(here, me, slug)
    pages.set_kind(here, me, post.id, "page")
    return see_other(to_write.write(post.id))


def _refused(here: Workshop, me: Person, slug: str, problem: str) -> Response:
    return _page(here, me, owned_blog(here, me, slug), "", 422, problem=problem)


add_part_routes(router, to_site.menu, PART, _refused)


@router.get(to_site.menu_site.route)
def menu_site(here: Here, me: Me, slug: str, path: str) -> Response:
    """Any page of the site with the menu that is tried."""
    blog = blog_for(here, me, slug)
    root = to_site.menu_site(slug, "")
    reader = preview_readers.reader_as(here, me, blog, "everyone")
    tried = house.tried(here, blog, PART)
    found = moments.look(here, blog, path, here.clock(), reader, f"{root}/", {PART: tried} if tried else None)
    if found.leads_to:
        away = "://" in found.leads_to
        return Response(
            status_code=307, headers={"Location": found.leads_to if away else root + found.leads_to}
        )
    return looked_response(found)

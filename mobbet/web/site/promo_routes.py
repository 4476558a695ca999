"""Blocks below posts: which saved block stands below which posts, tried here first."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import house, promos
from mobbet.actions.access import owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.house import PROMOS as PART
from mobbet.core.names import one_line
from mobbet.core.screen_dates import day_in_words
from mobbet.store import posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import LongText, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.part_routing import add_part_routes
from mobbet.web.site.promo_contexts import PromosPage, TriedPost
from mobbet.web.site.promo_view import PromoView
from mobbet.web.write import addresses as to_write

router = APIRouter()
TOLD = {
    "given": "Readers have these blocks below posts now.",
    "back": "The trial is over; you see what readers have.",
    "undone": "Readers have the rules before again.",
    "added": "The rule is new; say below which posts its block stands.",
    "removed": "The rule is taken out; its block stays saved.",
    "changed": "It is changed here; readers do not see it yet.",
}
MOST_TITLES = 300


def _page(
    here: Workshop,
    me: Person,
    blog: Blog,
    tried_post: TriedPost | None = None,
    status: int = 200,
    **more: Any,
) -> Response:
    refused = more.pop("refused", ("", "", ""))
    view = PromoView(here, blog, promos.present(here, blog), refused)
    found = house.listed(here, blog, PART, 1)
    context = PromosPage(
        bar_for(here, me, blog, "site"),
        view.sentences(),
        view.slips(),
        view.blocks(),
        posts.newest_titles(here.db, blog.id, 0, MOST_TITLES),
        tried_post,
        bool(house.tried(here, blog, PART)),
        day_in_words(found[0].given_at if found else blog.made_at, blog.zone),
        bool(house.before(here, blog, PART)),
        **more,
    )
    return page(context, status)


@router.get(to_site.promos.route)
def show(here: Here, me: Me, slug: str, told: str = "", post: str = "") -> Response:
    blog = owned_blog(here, me, slug)
    if not post:
        return _page(here, me, blog, told=TOLD.get(told, ""))
    number = posts.titled(here.db, blog.id, one_line(post))
    if number is None:
        words = f"“{post[:60]}” is the title of no post of this blog; write one as it stands on the desk."
        return _page(here, me, blog, status=422, problem=words, typed={"post": post})
    found = promos.below(here, me, number, promos.present(here, blog))
    tried = TriedPost(
        found.post.title,
        to_write.write(number),
        [(name, one.stands, one.why) for name, one in found.verdicts],
    )
    return _page(here, me, blog, tried, typed={"post": post})


@router.post(to_site.promos.at("add"))
def add(here: Here, me: Me, slug: str, block: Text = "") -> Response:
    """Has one rule more tried."""
    blog = owned_blog(here, me, slug)
    try:
        promos.try_change(here, me, slug, promos.adding(here, blog, block))
    except BadInput as error:
        return _page(here, me, blog, status=422, problem=str(error))
    return see_other(to_site.promos(slug, told="added"))


@router.post(to_site.promos.at("set"))
def set_value(
    here: Here, me: Me, slug: str, where: Text = "", value: LongText = "", gone: Text = ""
) -> Response:
    """Has another value tried: of a rule (`3:never`), or how many stand below a post (`most`)."""
    blog = owned_blog(here, me, slug)
    try:
        promos.try_change(here, me, slug, _change(here, blog, where, value, bool(gone)))
    except BadInput as error:
        words = "" if where.count(":") == 1 else str(error)
        return _page(here, me, blog, status=422, refused=(where, value, str(error)), problem=words)
    return see_other(to_site.promos(slug, told="changed"))


def _change(here: Workshop, blog: Blog, where: str, value: str, is_gone: bool) -> promos.Change:
    number, _, field = where.partition(":")
    if where == "most":
        return promos.most(_whole(value))
    kind, _, place = field.partition(".")
    if place and not is_gone:
        return lambda rules: rules
    if place:
        return promos.leaving(_whole(number), kind, _whole(place))
    return promos.setting(here, blog, _whole(number), field, value)


def _whole(text: str) -> int:
    if not (text.isascii() and text.isdecimal() and len(text) < 16):
        raise BadInput(f"“{text[:20]}” is no whole number; look at the rules again.", "where")
    return int(text)


@router.post(to_site.promos.at("remove"))
def remove(here: Here, me: Me, slug: str, rule: Text = "") -> Response:
    """Has the rules tried without one."""
    try:
        promos.try_change(here, me, slug, promos.removing(_whole(rule)))
    except BadInput as error:
        return _page(here, me, owned_blog(here, me, slug), status=422, problem=str(error))
    return see_other(to_site.promos(slug, told="removed"))


def _refused(here: Workshop, me: Person, slug: str, problem: str) -> Response:
    return _page(here, me, owned_blog(here, me, slug), status=422, problem=problem)


add_part_routes(router, to_site.promos, PART, _refused)

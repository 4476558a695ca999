"""The house: what a blog says of itself on every page, tried here first."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import blog_states, house, house_facts
from mobbet.actions.access import owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.house import FACTS
from mobbet.core.numbers import counted
from mobbet.core.screen_dates import day_in_words
from mobbet.store import editions
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.public import addresses as to_public
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import LongText, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.house_contexts import HousePage
from mobbet.web.site.house_view import differing, groups, state_word
from mobbet.web.site.library_choices import pictures_of
from mobbet.web.site.part_routing import add_part_routes

router = APIRouter()
TOLD = {
    "given": "Readers have it so now.",
    "back": "The trial is over; you see what readers have.",
    "undone": "Readers have it as it was before.",
    "closed": "The site is closed; readers are asked to look in again.",
    "opened": "The site is open to everyone.",
    "tried": "It is changed here; readers do not see it yet.",
}


def _page(
    here: Workshop,
    me: Person,
    blog: Blog,
    problem: tuple[str, str, str] = ("", "", ""),
    status: int = 200,
    **more: Any,
) -> Response:
    edition = editions.current(here.db, blog.id)
    pages = (
        f"{counted(edition.pages, 'page')}, edition {edition.number}" if edition else "nothing published yet"
    )
    now, found = house_facts.present(here, blog), house.listed(here, blog, FACTS, 1)
    since = day_in_words(found[0].given_at if found else blog.made_at, blog.zone)
    context = HousePage(
        bar_for(here, me, blog, "site"), pages, to_public.public(blog.slug), groups(now, pictures_of(here, blog), problem), state_word(blog),
        bool(house.tried(here, blog, FACTS)), differing(now, blog), since, bool(house.before(here, blog, FACTS)), **more,
    )  # fmt: skip
    return page(context, status)


@router.get(to_site.site.route)
def site(here: Here, me: Me, slug: str, told: str = "") -> Response:
    return _page(here, me, owned_blog(here, me, slug), told=TOLD.get(told, ""))


@router.post(to_site.site.at("set"))
def set_value(
    request: Request, here: Here, me: Me, slug: str, where: Text = "", value: LongText = "", gone: Text = ""
) -> Response:
    """Has one fact tried as it was typed, or taken out."""
    blog = owned_blog(here, me, slug)
    try:
        house_facts.try_fact(here, me, slug, where, "" if gone else value, request.url.hostname or "")
    except BadInput as error:
        return _page(here, me, blog, (where, value, str(error)), 422)
    return see_other(to_site.site(slug, told="tried"))


def _refused(here: Workshop, me: Person, slug: str, problem: str) -> Response:
    return _page(here, me, owned_blog(here, me, slug), status=422, told=problem)


add_part_routes(router, to_site.site, FACTS, _refused)


@router.post(to_site.site.at("close"))
def close(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Says whom the site answers, at once."""
    blog_states.close(here, me, slug, value)
    return see_other(to_site.site(slug, told="closed" if value else "opened"))


@router.post(to_site.site.at("aside"))
def set_aside(here: Here, me: Me, slug: str) -> Response:
    """Sets the blog aside."""
    try:
        blog_states.set_aside(here, me, slug)
    except Refused as error:
        return _page(here, me, owned_blog(here, me, slug), status=422, told=str(error))
    return see_other(to_shell.new_blog())


@router.post(to_site.video_hosts.route)
def allow_video_host(here: Here, me: Me, slug: str, host: Text = "") -> Response:
    """Lets posts show videos of one more host, from the writing room."""
    house_facts.allow_video_host(here, me, slug, host)
    return Response(status_code=204)

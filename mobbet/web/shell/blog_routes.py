"""Another blog: begun from nothing, or with parts of one that the person owns."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import blog_states, new_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import make_slug
from mobbet.core.errors import NotAllowed, Refused
from mobbet.core.languages import NAMES
from mobbet.core.screen_dates import day_in_words
from mobbet.core.timing import all_zones
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.public import addresses as to_public
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice, NewBlogMadePage, NewBlogPage
from mobbet.web.shell.fields import Text, Texts
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()


@router.get(to_shell.new_blog.route)
def show(here: Here, me: Me) -> Response:
    mine = [*new_blog.models(here, me), *blog_states.owned_aside(here, me)]
    if not mine:
        raise NotAllowed("Only somebody who owns a blog here makes another; ask the owner of yours.")
    values = {
        "blog": "",
        "tagline": "",
        "address": "",
        "zone": mine[0].zone,
        "language": mine[0].language,
        "source": mine[0].slug,
    }
    return _page(here, me, values, list(new_blog.PARTS))


def _aside(here: Workshop, blog: Blog) -> Choice:
    until = day_in_words(blog_states.removed_at(blog), blog.zone)
    return Choice(blog.slug, blog.name, hint=f"kept until {until}.")


@router.post(to_shell.blog_back.route)
def bring_back(here: Here, me: Me, slug: Text = "") -> Response:
    """Brings a blog back that was set aside."""
    return see_other(to_desk.desk(blog_states.bring_back(here, me, slug).slug))


def _page(
    here: Workshop, me: Person, values: dict[str, str], parts: list[str], problem: Refused | None = None
) -> Response:
    models = [
        Choice(blog.slug, blog.name, blog.slug == values["source"]) for blog in new_blog.models(here, me)
    ]
    offered = [Choice(name, part.words, name in parts) for name, part in new_blog.PARTS.items()]
    languages = [
        Choice(tag, name, tag == values["language"])
        for tag, name in sorted(NAMES.items(), key=lambda pair: pair[1])
    ]
    field = getattr(problem, "field", "")
    context = NewBlogPage(
        bar_for(here, me, None, "account"),
        values,
        all_zones(),
        languages,
        models,
        offered,
        [_aside(here, blog) for blog in blog_states.owned_aside(here, me)],
        str(problem or ""),
        field,
    )
    return page(context, 422 if problem else 200)


@router.post(to_shell.new_blog.route)
def begin(
    request: Request, here: Here, me: Me, blog: Text = "", tagline: Text = "", address: Text = "", zone: Text = "", language: Text = "", source: Text = "",
    parts: Texts = [],
) -> Response:  # fmt: skip
    slug = (address or make_slug(blog, "") or "blog").strip().strip("/").lower()
    values = {
        "blog": blog,
        "tagline": tagline,
        "address": address,
        "zone": zone,
        "language": language,
        "source": source,
    }
    try:
        begun = new_blog.begin(
            here, me, name=blog, address=slug, zone=zone, language=language, tagline=tagline, source=source, parts=parts,
            home=str(request.base_url).rstrip("/") + to_public.public(slug),
        )  # fmt: skip
    except NotAllowed:
        raise
    except Refused as error:
        return _page(here, me, values, parts, error)
    desk = to_desk.desk(begun.blog.slug)
    if begun.notes:
        return page(NewBlogMadePage(bar_for(here, me, begun.blog, "desk"), list(begun.notes)))
    return see_other(desk)

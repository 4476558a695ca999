"""The site: what stands on every page of a blog."""

from __future__ import annotations

import json
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import blogs as blog_actions
from mobbet.actions.access import owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.timing import all_zones
from mobbet.store import editions
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import SitePage
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site

router = APIRouter()


def _page(
    here: Workshop, me: Person, blog: Blog, values: dict[str, str], status: int = 200, **more: Any
) -> Response:
    edition = editions.current(here.db, blog.id)
    pages = f"{edition.pages:,} pages, edition {edition.number}" if edition else "nothing published yet"
    return page(
        SitePage(
            bar_for(here, me, blog, "site"), values, all_zones(), to_public.public(blog.slug), pages, **more
        ),
        status,
    )


def _values(blog: Blog) -> dict[str, str]:
    return {
        "name": blog.name,
        "tagline": blog.tagline,
        "home": blog.home,
        "host": blog.host or "",
        "zone": blog.zone,
        "posts_on_page": str(blog.posts_on_page),
        "video_hosts": "\n".join(json.loads(blog.video_hosts)),
        **_list_values(blog),
    }


def _list_values(blog: Blog) -> dict[str, str]:
    return {
        "label": blog.label, "read_on": blog.read_on, "categories_in_lists": "yes" * blog.categories_in_lists, "full_in_lists": "yes" * blog.full_in_lists,
    }  # fmt: skip


@router.get(to_site.site.route)
def site(here: Here, me: Me, slug: str) -> Response:
    blog = owned_blog(here, me, slug)
    return _page(here, me, blog, _values(blog))


@router.post(to_site.site.route)
def change(
    request: Request, here: Here, me: Me, slug: str, name: Text = "", tagline: Text = "", home: Text = "", zone: Text = "", posts_on_page: Text = "",
    label: Text = "Posts", read_on: Text = "Read on", categories_in_lists: Text = "", full_in_lists: Text = "", host: Text = "", video_hosts: Text = "",
) -> Response:  # fmt: skip
    blog = owned_blog(here, me, slug)
    values = {
        "name": name,
        "tagline": tagline,
        "home": home,
        "host": host,
        "zone": zone,
        "posts_on_page": posts_on_page,
        "video_hosts": video_hosts,
    }
    lists = {
        "label": label,
        "read_on": read_on,
        "categories_in_lists": categories_in_lists,
        "full_in_lists": full_in_lists,
    }
    try:
        changed = blog_actions.change_blog(
            here, me, slug, **values, **lists, asked_at=request.url.hostname or ""
        )
    except BadInput as error:
        return _page(here, me, blog, {**values, **lists}, 422, problem=str(error), problem_field=error.field)
    return _page(here, me, changed, _values(changed), message="Kept. Every page of the site shows it now.")


@router.post(to_site.video_hosts.route)
def allow_video_host(here: Here, me: Me, slug: str, host: Text = "") -> Response:
    """Lets posts show videos of one more host, from the writing room."""
    blog_actions.allow_video_host(here, me, slug, host)
    return Response(status_code=204)

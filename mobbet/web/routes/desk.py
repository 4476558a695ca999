"""The desk: every post of a blog, a new one, and the search over them."""

from __future__ import annotations

import re

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import posts as post_actions
from mobbet.actions.workshop import blog_for
from mobbet.store import desk as desk_store
from mobbet.store import posts
from mobbet.web import desk_rows, links
from mobbet.web.bars import bar_for
from mobbet.web.contexts_desk import DeskPage
from mobbet.web.rendering import page
from mobbet.web.routes.session import see_other
from mobbet.web.session import Here, Me

router = APIRouter()


@router.get("/desk/{blog_slug}")
def desk(here: Here, me: Me, blog_slug: str, q: str = "") -> Response:
    blog = blog_for(here, me, blog_slug)
    headline, subline = desk_rows.sentence(here, blog)
    rows = desk_rows.search(here, blog, q) if q.strip() else desk_rows.groups(here, blog)
    count = desk_store.count(here.db, blog.id)
    total = f"{count:,} post{'s' if count != 1 else ''}" if count else ""
    return page(DeskPage(bar_for(here, me, blog, "desk"), headline, subline, desk_rows.strip(here, blog), total, rows, desk_store.templates(here.db, blog.id)))


@router.get("/desk/{blog_slug}/rows")
def rows(request: Request, here: Here, me: Me, blog_slug: str, q: str = "", before: str = "") -> Response:
    """The list alone, for a search as one types and for older posts. Opened by itself it is the desk."""
    blog = blog_for(here, me, blog_slug)
    if request.headers.get("hx-request") != "true":
        return see_other(links.desk(blog.slug))
    place = re.fullmatch(r"(\d{1,15})-(\d{1,15})", before)
    if place:
        return page(desk_rows.older(here, blog, (int(place[1]), int(place[2]))))
    return page(desk_rows.search(here, blog, q) if q.strip() else desk_rows.groups(here, blog))


@router.post("/desk/{blog_slug}/posts")
def new_post(here: Here, me: Me, blog_slug: str) -> Response:
    return see_other(links.write(post_actions.begin_post(here, me, blog_slug).id))


@router.get("/desk/{blog_slug}/write")
def write_any(here: Here, me: Me, blog_slug: str) -> Response:
    """The post this person had in hand last; the desk when there is none."""
    blog = blog_for(here, me, blog_slug)
    post = posts.newest_of(here.db, blog.id, me.id)
    return see_other(links.write(post.id) if post else links.desk(blog.slug))

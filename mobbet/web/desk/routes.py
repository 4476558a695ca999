"""The desk: every post of a blog, a new one, and the search over them."""

from __future__ import annotations

import re
from typing import Annotated
from urllib.parse import parse_qsl

from fastapi import APIRouter, Query, Request
from starlette.responses import JSONResponse, Response

from mobbet.actions import aside, assigning, attention, desk_views
from mobbet.actions import posts as post_actions
from mobbet.actions.access import blog_for, readable_post
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.errors import BadInput
from mobbet.core.pages import counted
from mobbet.core.screen_dates import time_in_words
from mobbet.store import desk as desk_store
from mobbet.store import ideas, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk import filter as desk_filter
from mobbet.web.desk import filtered_rows
from mobbet.web.desk import rows as desk_rows
from mobbet.web.desk.contexts import DeskPage, WriteChoice
from mobbet.web.desk.filter import Filter, read_filter, usual_author
from mobbet.web.desk.strip import read_range, strip
from mobbet.web.desk.wants import wants
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import Text
from mobbet.web.shell.places import places_for
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write

router = APIRouter()
MOST_IN_HAND = 8


@router.get(to_desk.desk.route)
def desk(
    here: Here,
    me: Me,
    slug: str,
    q: str = "",
    state: str = "",
    author: str = "",
    category: str = "",
    marks: str = "",
    order: str = "",
    done: str = "",
) -> Response:
    blog = blog_for(here, me, slug)
    return _page(
        here,
        me,
        blog,
        q,
        read_filter(state, author, category, marks, order, usual_author(here, me, blog)),
        done=done,
    )


def _page(
    here: Workshop, me: Person, blog: Blog, q: str, chosen: Filter, problem: str = "", done: str = ""
) -> Response:
    headline, subline = desk_rows.sentence(here, blog)
    rows = (
        desk_rows.search(here, blog, q)
        if q.strip()
        else desk_rows.groups(here, blog, chosen)
        if chosen.is_plain
        else filtered_rows.rows(here, blog, chosen)
    )
    total = counted(*desk_store.count(here.db, blog.id, chosen.author))
    notices = [*([problem] if problem else []), *desk_rows.notices(here, blog)]
    sentence = desk_filter.sentence_of(here, me, blog, chosen)
    shown = DeskPage(
        bar_for(here, me, blog, "desk"),
        headline,
        subline,
        strip(here, blog, read_range(here, blog, "", "")),
        total,
        rows,
        sentence,
        wants(here, me, blog),
        ideas.of_blog(here.db, blog.id, attention.MOST_IDEAS),
        desk_store.templates(here.db, blog.id),
        notices,
        desk_rows.doings(here, me, blog, chosen.state),
        desk_rows.colleagues(here, me, blog),
        desk_rows.told_of(here, me, blog, done),
        chosen.state == states.SET_ASIDE,
    )
    return page(shown, 422 if problem else 200)


@router.get(to_desk.desk_rows.route)
def rows(
    request: Request, here: Here, me: Me, slug: str, q: str = "", before: str = "", group: str = "", state: str = "", author: str = "", category: str = "", marks: str = "", order: str = "",
) -> Response:  # fmt: skip
    """The list alone, for a search as one types and for more posts. Opened by itself it is the desk."""
    blog = blog_for(here, me, slug)
    if request.headers.get("hx-request") != "true":
        return see_other(to_desk.desk(blog.slug))
    chosen = read_filter(state, author, category, marks, order, usual_author(here, me, blog))
    place = re.fullmatch(r"(\d{1,15})-(\d{1,15})", before)
    if place:
        after = (int(place[1]), int(place[2]))
        name = group if group in desk_rows.GROUPS else "published"
        return page(
            desk_rows.more_of(here, blog, name, after, chosen)
            if chosen.is_plain
            else filtered_rows.more(here, blog, chosen, after)
        )
    return page(
        desk_rows.search(here, blog, q)
        if q.strip()
        else desk_rows.groups(here, blog, chosen)
        if chosen.is_plain
        else filtered_rows.rows(here, blog, chosen)
    )


@router.get(to_desk.peek.route)
def peek(here: Here, me: Me, post_id: int) -> Response:
    """A post as readers see it in lists, for the side of the desk."""
    post, blog = readable_post(here, me, post_id)
    return page(desk_rows.peek_of(here, post, blog))


@router.post(to_desk.keep_view.route)
def keep_list(here: Here, me: Me, slug: str, name: Text = "", query: Text = "") -> Response:
    """Keeps a filter under a name."""
    blog = blog_for(here, me, slug)
    said = dict(parse_qsl(query))
    chosen = read_filter(
        said.get("state", ""),
        said.get("author", ""),
        said.get("category", ""),
        said.get("marks", ""),
        said.get("order", ""),
        usual_author(here, me, blog),
    )
    try:
        desk_views.keep(here, me, blog, name, chosen.query)
    except BadInput as error:
        return _page(here, me, blog, "", chosen, str(error))
    return see_other(f"{to_desk.desk(blog.slug)}?{chosen.query}")


@router.post(to_desk.forget_view.route)
def forget_list(here: Here, me: Me, slug: str, number: int) -> Response:
    desk_views.forget(here, me, number)
    return see_other(to_desk.desk(blog_for(here, me, slug).slug))


@router.post(to_desk.aside.route)
def keep_aside_for(here: Here, me: Me, slug: str, days: Text = "") -> Response:
    """Sets how long posts that are set aside are kept."""
    chosen = Filter(states.SET_ASIDE)
    try:
        aside.keep_for(here, me, slug, days)
    except BadInput as error:
        return _page(here, me, blog_for(here, me, slug), "", chosen, str(error))
    return see_other(f"{to_desk.desk(slug)}?{chosen.query}")


@router.post(to_desk.look_again.route)
def look_again_after(here: Here, me: Me, slug: str, days: Text = "") -> Response:
    """Sets after how long posts that are read much are looked at again."""
    try:
        attention.look_again_after(here, me, slug, days)
    except BadInput as error:
        return _page(here, me, blog_for(here, me, slug), "", Filter(), str(error))
    return see_other(to_desk.desk(slug))


@router.post(to_desk.look_again.whole)
def still_holds(here: Here, me: Me, slug: str, post_id: int) -> Response:
    attention.still_holds(here, me, slug, post_id)
    return see_other(to_desk.desk(slug))


@router.post(to_desk.ideas.route)
def note_idea(
    here: Here,
    me: Me,
    slug: str,
    title: Text = "",
    line: Text = "",
    said: Annotated[str, Query(max_length=300)] = "",
) -> Response:
    """Notes an idea down, from the desk or from wherever one is."""
    blog = blog_for(here, me, slug)
    try:
        attention.note_idea(here, me, blog.slug, title or said, line)
    except BadInput as error:
        return _page(here, me, blog, "", Filter(), str(error))
    return see_other(to_desk.desk(blog.slug) + "#ideas")


@router.post(to_desk.idea.route)
def settle_idea(
    request: Request,
    here: Here,
    me: Me,
    slug: str,
    number: int,
    what: str,
    to: Text = "",
    wanted_by: Text = "",
) -> Response:
    """Makes a draft of an idea, gives it to somebody to write, or drops it."""
    if what == "give":
        try:
            assigning.give_idea(here, me, slug, number, to, wanted_by, str(request.base_url))
        except BadInput as error:
            return _page(here, me, blog_for(here, me, slug), "", Filter(), str(error))
        return see_other(to_desk.desk(slug))
    if what == "begin":
        return see_other(to_write.write(attention.begin_from_idea(here, me, slug, number).id))
    attention.drop_idea(here, me, slug, number)
    return see_other(to_desk.desk(slug))


@router.get(to_desk.places.route)
def places(here: Here, me: Me, slug: str, q: str = "") -> Response:
    """What a few letters may mean: posts, screens, settings, actions, people."""
    blog = blog_for(here, me, slug)
    return JSONResponse({"places": [place.__dict__ for place in places_for(here, me, blog, q[:200])]})


@router.post(to_desk.new_post.route)
def new_post(here: Here, me: Me, slug: str) -> Response:
    return see_other(to_write.write(post_actions.new_post(here, me, slug).id))


@router.get(to_desk.write_any.route)
def write_any(here: Here, me: Me, slug: str) -> Response:
    """What this person has in hand, to go on with, or another post to begin."""
    blog, now = blog_for(here, me, slug), here.clock()
    rows = [
        (
            to_write.write(post.id),
            post.title or "No title yet",
            time_in_words(post.changed_at, blog.zone, now),
        )
        for post in posts.in_hand(here.db, blog.id, me.id, MOST_IN_HAND)
    ]
    return page(WriteChoice(bar_for(here, me, blog, "write"), rows))

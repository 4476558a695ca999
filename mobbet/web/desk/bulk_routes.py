"""Actions on one or many rows of the desk: previewed with their footprint, done, and undone."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import parse_qsl

from fastapi import APIRouter, Query
from starlette.responses import Response

from mobbet.actions import bulk_actions, footprints, undoing
from mobbet.actions.access import blog_for
from mobbet.actions.bulk_actions import Handled
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.store import blogs, desk, people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import HandlingPage
from mobbet.web.filing.contexts import Tried
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Numbers, Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.timetable import addresses as to_timetable
from mobbet.web.timetable.display import view_of_query

router = APIRouter()
WHENS = {
    "queue": "in the queue, at the free slots in this order",
    "": "at the time each has, or now",
    "now": "now",
    "at": "at",
}


@router.get(to_desk.handling.route)
def show(
    here: Here,
    me: Me,
    slug: str,
    name: str,
    post: Annotated[list[int], Query()] = [],
    said: str | None = None,
    at: str = "",
    up: int = 0,
) -> Response:  # noqa: B006
    """The posts, what is asked for, and the footprint once it is known; `up` is a post that is to come one earlier."""
    blog, doing = blog_for(here, me, slug), bulk_actions.doing(name)
    post = list(dict.fromkeys(post))
    if up in post[1:]:
        place = post.index(up)
        post[place - 1], post[place] = post[place], post[place - 1]
    if doing.asks and said is None:
        return _page(here, me, blog, name, post)
    return _tried(here, me, blog, name, post, said or "", at)


def _tried(
    here: Workshop, me: Person, blog: Blog, name: str, numbers: list[int], said: str, at: str
) -> Response:
    try:
        words = _said(said, at)
        effect = footprints.effect_of(
            here, blog, lambda: bulk_actions.handle(here, me, blog.slug, name, numbers, words)
        )
    except Refused as error:
        return _page(here, me, blog, name, numbers, said, at, problem=str(error))
    fields = [*(("post", str(number)) for number in numbers), ("said", said), ("at", at)]
    footprint = in_words(effect.pages, category_subjects(here, blog), every=effect.every)
    yes = bulk_actions.doing(name).verb.format("it" if len(numbers) == 1 else "them")
    tried = Tried(f"{effect.answer.words}.", footprint, to_desk.handling(blog.slug, name), fields, yes)
    return _page(here, me, blog, name, numbers, said, at, tried, effect.answer)


@router.post(to_desk.handling_undo.route)
def undo(here: Here, me: Me, slug: str, number: int, back: Text = "") -> Response:
    """Undoes a change, and goes back to the desk, or to the view of the timetable that `back` names (`timetable?view=month`)."""
    undoing.undo(here, me, slug, number)
    return see_other(
        to_timetable.timetable(
            slug, done=number, **dict(parse_qsl(view_of_query(back.partition("?")[2]).query))
        )
        if back.startswith("timetable")
        else to_desk.desk(slug, done=number)
    )


@router.post(to_desk.handling.route)
def handle(
    here: Here, me: Me, slug: str, name: str, post: Numbers = [], said: Text = "", at: Text = ""
) -> Response:  # noqa: B006
    blog = blog_for(here, me, slug)
    try:
        done = bulk_actions.handle(here, me, slug, name, post, _said(said, at))
    except Refused as error:
        return _page(here, me, blog, name, post, said, at, problem=str(error))
    return see_other(to_desk.desk(slug, done=done.number))


def _said(said: str, at: str) -> str:
    if said == "at" and not at.strip():
        raise BadInput("No time is typed; write it like thu 9, or choose another way.", "at")
    return at.strip() if said == "at" else said


def _page(
    here: Workshop, me: Person, blog: Blog, name: str, numbers: list[int], said: str | None = None, at: str = "", tried: Tried | None = None, answer: Handled | None = None, problem: str = "",
) -> Response:  # fmt: skip
    doing = bulk_actions.doing(name)
    chosen = desk.by_ids(
        here.db, [number for number in dict.fromkeys(numbers) if desk.is_on(here.db, blog.id, number)]
    )
    values = [str(row.id) for row in chosen]
    rows = answer.rows if answer else [(row.title or "No title yet", "") for row in chosen]
    count = f"{len(chosen)} post{'s' if len(chosen) != 1 else ''}"
    context = HandlingPage(
        bar_for(here, me, blog, "desk"), name, doing.verb.format(count), values, rows, doing.asks, _choices(here, me, blog, doing.asks, said), at, tried, problem,
    )  # fmt: skip
    return page(context, 422 if problem else 200)


def _choices(here: Workshop, me: Person, blog: Blog, asks: str, said: str | None) -> list[Choice]:
    """What can be said to an action that asks."""
    if asks == "when":
        return [Choice(value, words, value == said) for value, words in WHENS.items()]
    if asks == "author":
        return [
            Choice(str(one.id), one.name, str(one.id) == said) for one in people.of_blog(here.db, blog.id)
        ]
    if asks == "blog":
        return [
            Choice(one.slug, one.name, one.slug == said)
            for one in blogs.of_person(here.db, me.id)
            if one.id != blog.id
        ]
    return []

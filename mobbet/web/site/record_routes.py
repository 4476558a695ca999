"""The record of a blog: who did what, when and from where."""

from __future__ import annotations

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import record as record_actions
from mobbet.actions.access import title_for
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted
from mobbet.core.record import KEPT_FOR, KINDS, PARTS, sentence
from mobbet.core.screen_dates import time_in_words
from mobbet.store import people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.record import Entry
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.people_contexts import RecordLine, RecordPage
from mobbet.web.site.sentence_contexts import Word
from mobbet.web.write import addresses as to_write

router = APIRouter()


@router.get(to_site.record.route)
def show(
    here: Here, me: Me, slug: str, part_of: str = "", actor: int = 0, before: int = 0, told: str = ""
) -> Response:
    return _page(
        here,
        me,
        slug,
        part_of,
        actor,
        before,
        told="That is how long it is kept from now on." if told else "",
    )


def _page(
    here: Workshop,
    me: Person,
    slug: str,
    part: str = "",
    actor: int = 0,
    before: int = 0,
    status: int = 200,
    told: str = "",
) -> Response:
    part = part if part in PARTS else ""
    blog = record_actions.owner_blog(here, me, slug)
    everybody = {0: "everybody"} | {
        one.person.id: one.person.name for one in people.members(here.db, blog.id, here.clock())
    }
    actor, before = actor if actor in everybody else 0, max(0, before)
    _, rows = record_actions.of_blog(here, me, slug, part, actor, before)
    shown = rows[: record_actions.ON_PAGE]
    older = (
        to_site.record(slug, part_of=part, actor=actor, before=shown[-1].id) if len(rows) > len(shown) else ""
    )
    parts = [
        Choice(to_site.record(slug, part_of=name, actor=actor), words, name == part)
        for name, words in {"": "everything", **PARTS}.items()
    ]
    actors = [
        Choice(to_site.record(slug, part_of=part, actor=number), name, number == actor)
        for number, name in everybody.items()
    ]
    days = tuple(Choice(str(number), words, number == blog.record_days) for number, words in KEPT_FOR.items())
    kept = Word(
        "days",
        "for how long the record is kept",
        KEPT_FOR.get(blog.record_days, counted(blog.record_days, "day")),
        days,
    )
    context = RecordPage(
        bar_for(here, me, blog, "site"),
        parts,
        actors,
        [_line(here, me, blog, row) for row in shown],
        older,
        kept,
        told,
    )
    return page(context, status)


def _line(here: Workshop, me: Person, blog: Blog, row: Entry) -> RecordLine:
    is_post = KINDS[row.kind].part == "posts" if row.kind in KINDS else False
    subject = title_for(here, me, row.on_post) if row.on_post and is_post and not row.subject else row.subject
    words = sentence(row.kind, row.actor, subject, row.detail)
    return RecordLine(
        time_in_words(row.at, blog.zone, here.clock()),
        words,
        row.origin,
        to_write.write(row.on_post) if row.on_post else "",
    )


@router.post(to_site.record.at("days"))
def set_days(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Says for how long the record is kept."""
    try:
        record_actions.set_days(here, me, slug, value)
    except BadInput as error:
        return _page(here, me, slug, status=422, told=str(error))
    return see_other(to_site.record(slug, told="days"))

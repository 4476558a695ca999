"""Revisions of a post: listed, compared, put back and named."""

from __future__ import annotations

from dataclasses import asdict
from itertools import groupby
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel
from starlette.responses import JSONResponse, Response

from mobbet.actions import revisions
from mobbet.actions.access import editable_post
from mobbet.actions.revisions import Past
from mobbet.actions.workshop import Workshop
from mobbet.core.document import difference, schema
from mobbet.core.document.difference import Difference, Row
from mobbet.core.document.html import Html, Rendition
from mobbet.core.document.links import media_number
from mobbet.core.document.write import to_html
from mobbet.core.names import one_line
from mobbet.core.numbers import counted
from mobbet.core.record import sentence
from mobbet.core.screen_dates import time_in_words
from mobbet.store import posts, record
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.web.library import addresses as to_library
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import ComparedLine, RevisionLine, RevisionsPage
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write

router = APIRouter()
MOST_HISTORY = 60


@router.get(to_write.revisions.route)
def past(here: Here, me: Me, post_id: int, one: int = 0, other: int = 0) -> Response:
    return _page(here, me, post_id, one, other)


class SheetText(BaseModel):
    """The text of a sheet, to be compared."""

    title: str = ""
    subtitle: str = ""
    document: dict[str, Any]


class Meeting(BaseModel):
    """A sheet beside another text: the one given, or the post's working one."""

    mine: SheetText
    theirs: SheetText | None = None


@router.post(to_write.compared.route)
def compared(here: Here, me: Me, post_id: int, meeting: Meeting) -> Response:
    """The passages of two texts, the other one's first: as HTML with the differences drawn, and as nodes."""
    post, _ = editable_post(here, me, post_id)
    working = posts.working(here.db, post.id)
    theirs = schema.check(meeting.theirs.document) if meeting.theirs else schema.load(working.body)
    found = difference.compare(theirs, schema.check(meeting.mine.document))
    rows = [
        {**asdict(line), "theirs": difference.bare(row.before), "mine": difference.bare(row.now)}
        for line, row in zip(compared_lines(found), found.rows, strict=True)
    ]
    return JSONResponse({"rows": rows})


@router.post(to_write.revision.at("restore"))
def restore(here: Here, me: Me, post_id: int, number: int) -> Response:
    made = revisions.restore(here, me, post_id, number)
    return _page(
        here, me, post_id, number, made, message=f"Revision {number} is put back, as revision {made}."
    )


@router.post(to_write.revision.at("name"))
def name(here: Here, me: Me, post_id: int, number: int, name: Text = "") -> Response:
    revisions.name(here, me, post_id, number, name)
    words = one_line(name)
    return _page(
        here,
        me,
        post_id,
        number,
        0,
        message=f"Revision {number} is named “{words}” and kept for good."
        if words
        else f"Revision {number} has no name any more.",
    )


def _page(here: Workshop, me: Person, post_id: int, one: int, other: int, message: str = "") -> Response:
    post, blog = editable_post(here, me, post_id)
    found = revisions.history(here, me, post_id)
    numbers = [past.row.number for past in found]
    other = other or numbers[0]
    one = one or next((number for number in numbers if number < other), other)
    compared = revisions.compare(here, me, post_id, one, other)
    sentence = _sentence(compared.difference, one, other, len(numbers))
    lines = [_line(past, blog, here.clock(), numbers[0]) for past in found]
    title = compared.now.title or "a post without a title"
    return page(
        RevisionsPage(
            bar_for(here, me, blog, "write"),
            post.id,
            title,
            lines,
            one,
            other,
            sentence,
            _folded(compared_lines(compared.difference)) if one != other else [],
            _history(here, post, blog),
            message,
        )
    )


def _history(here: Workshop, post: Post, blog: Blog) -> list[tuple[str, str]]:
    """What the record says of a post."""
    return [
        (
            time_in_words(row.at, blog.zone, here.clock()),
            sentence(row.kind, row.actor, row.subject, row.detail),
        )
        for row in record.of_post(here.db, post.id, MOST_HISTORY)
    ]


def _sentence(difference: Difference, one: int, other: int, count: int) -> str:
    if one == other and count > 1:
        return "Choose two different revisions to compare."
    if one == other:
        return "There is one revision so far; changes stand beside it here once the text has another."
    if not difference.added and not difference.removed and all(row.kind == "same" for row in difference.rows):
        return f"Revisions {one} and {other} hold the same text."
    words = f"From revision {one} to {other}: {difference.added} word{'s' if difference.added != 1 else ''} added, {difference.removed} removed"
    moved = sum(row.kind == "moved" and row.now is not None for row in difference.rows)
    return words + (f", {moved} block{'s' if moved != 1 else ''} moved." if moved else ".")


def _line(past: Past, blog: Blog, now: int, newest: int) -> RevisionLine:
    row = past.row
    change = (
        f"+{past.added} −{past.removed}"
        if past.added or past.removed
        else f"{counted(row.words, 'word')}"
        if row.words
        else "–"
    )
    return RevisionLine(
        row.number,
        time_in_words(row.saved_at, blog.zone, now),
        row.person,
        change,
        row.name,
        row.is_placed,
        row.number == newest,
    )


def compared_lines(difference: Difference) -> list[ComparedLine]:
    """The rows of a comparison as HTML."""
    return [ComparedLine(row.kind, _side(row, row.before), _side(row, row.now)) for row in difference.rows]


def _folded(lines: list[ComparedLine]) -> list[ComparedLine]:
    """The lines, with long runs of unchanged blocks told as a number between their first and their last."""
    folded: list[ComparedLine] = []
    for is_same, lines_alike in groupby(lines, key=lambda line: line.kind == "same"):
        run = list(lines_alike)
        if is_same and len(run) > 4:
            words = f"{len(run) - 2} blocks are the same"
            run = [run[0], ComparedLine("folded", words, words), run[-1]]
        folded += run
    return folded


def _side(row: Row, node: dict | None) -> str:
    if node is None:
        return ""

    def rendition(src: str, sizes: str) -> Rendition | None:
        number = media_number(src)
        return Rendition(to_library.picture(number)) if number is not None else None

    return to_html({"type": "doc", "content": [node]}, Html(rendition))

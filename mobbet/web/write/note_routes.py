"""Notes in the writing room: read, left, answered, settled; printed and exported as text."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field
from starlette.responses import JSONResponse, PlainTextResponse, Response

from mobbet.actions import notes
from mobbet.actions.access import may_edit_post, note_post
from mobbet.actions.note_text import as_text
from mobbet.actions.notes import Thread
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Line, linear, parts_of
from mobbet.core.errors import BadInput
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.store import posts
from mobbet.store.notes import Note
from mobbet.store.people import Person
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import NotesPage, PrintedNote

router = APIRouter()


class Place(BaseModel):
    """A place on the sheet: the path of a block, and an offset in it in UTF-16 units, as browsers count."""

    path: list[int] = Field(max_length=60)
    at: int = Field(ge=0, le=10_000_000)


class NewNote(BaseModel):
    """A note on a passage of a revision, from one place to another; on the whole post without them."""

    revision: int = Field(ge=0)
    start: Place | None = None
    end: Place | None = None
    said: str = Field(default="", max_length=20_000)
    proposal: str | None = Field(default=None, max_length=20_000)


class Said(BaseModel):
    said: str = Field(default="", max_length=20_000)


@router.get(to_write.notes.route)
def read(here: Here, me: Me, post_id: int) -> Response:
    """The notes on a post, with where they stand in the text as it was saved last."""
    return _answer(here, me, post_id)


def _answer(here: Workshop, me: Person, post_id: int) -> Response:
    post, blog = note_post(here, me, post_id)
    revision = posts.working(here.db, post.id)
    lines = notes.text_of(revision)
    may_end = may_edit_post(here, me, post_id)
    shown = [
        _shown(one, lines, me, may_end, lambda note: ago_in_words(note.left_at, blog.zone, here.clock()))
        for one in notes.threads(here, me, post_id)
    ]
    return JSONResponse({"revision": revision.number, "notes": shown})


def _shown(thread: Thread, lines: list[Line], me: Person, may_end: bool, when: Any) -> dict[str, Any]:
    note = thread.note
    parts = [
        {"path": lines[number].path, "line": number, "from": _units(lines[number].text[:first]), "to": _units(lines[number].text[:last]), "isBlock": lines[number].text.startswith("\ufffc")}
        for number, first, last in parts_of(lines, note.passage)
    ]  # fmt: skip
    is_mine = note.person_id == me.id
    return {
        "id": note.id, "who": note.who, "isReader": note.reader_id is not None, "when": when(note), "said": note.said, "proposal": note.proposal, "quote": note.quote,
        "isGone": note.is_gone, "state": note.ended, "isMine": is_mine, "mayEnd": may_end or is_mine, "mayTake": may_end, "parts": parts,
        "answers": [{"who": row.who, "when": when(row), "said": row.said} for row in thread.answers],
    }  # fmt: skip


def _units(text: str) -> int:
    """How many UTF-16 units a text has."""
    return len(text.encode("utf-16-le")) // 2


@router.post(to_write.notes.at("add"))
def add(here: Here, me: Me, post_id: int, new: NewNote) -> Response:
    """Leaves a note."""
    post, _ = note_post(here, me, post_id)
    lines = notes.text_of(posts.working(here.db, post.id))
    start, end = (_offset(lines, place) for place in (new.start, new.end))
    notes.leave(here, me, post_id, new.revision, start, max(start, end), new.said, new.proposal)
    return _answer(here, me, post_id)


def _offset(lines: list[Line], place: Place | None) -> int:
    """The offset in the linear text of a place on the sheet. Raises BadInput for a block that is not there."""
    if place is None:
        return 0
    found = [number for number, line in enumerate(lines) if list(line.path) == place.path]
    if not found:
        raise BadInput("This passage is not in the text as it was saved; choose it once more.", "passage")
    number = found[-1]
    text = lines[number].text.encode("utf-16-le")[: 2 * place.at].decode("utf-16-le", "ignore")
    return len(linear(lines[:number])) + bool(number) + len(text)


@router.post(to_write.note.route)
def change(here: Here, me: Me, post_id: int, number: int, what: str, said: Said) -> Response:
    """Answers a note, settles it, opens it again, says what became of its words, or removes it."""
    if what == "answer":
        notes.answer(here, me, post_id, number, said.said)
    elif what == "remove":
        notes.remove(here, me, post_id, number)
    else:
        notes.end(here, me, post_id, number, what)
    return _answer(here, me, post_id)


@router.get(to_write.notes.at("print"))
def printed(here: Here, me: Me, post_id: int) -> Response:
    """All notes on one page, to be printed."""
    post, blog = note_post(here, me, post_id)
    found = [
        _printed(one, lambda note: time_in_words(note.left_at, blog.zone, here.clock()))
        for one in notes.threads(here, me, post_id)
    ]
    return page(NotesPage(bar_for(here, me, blog, "write"), post.id, post.title or "No title yet", found))


def _printed(thread: Thread, when: Any) -> PrintedNote:
    note: Note = thread.note
    return PrintedNote(
        note.who,
        when(note),
        note.quote,
        note.is_gone,
        note.said,
        note.proposal,
        note.ended,
        [(row.who, when(row), row.said) for row in thread.answers],
    )


@router.get(to_write.notes.at("notes.txt"))
def text(here: Here, me: Me, post_id: int) -> Response:
    """All notes as text."""
    post, blog = note_post(here, me, post_id)
    words = as_text(
        post.title,
        notes.threads(here, me, post_id),
        lambda instant: time_in_words(instant, blog.zone, here.clock()),
    )
    return PlainTextResponse(
        words, headers={"Content-Disposition": f'attachment; filename="notes-{post.id}.txt"'}
    )

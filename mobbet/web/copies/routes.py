"""Reading copies: the page of a draft for those with its link, and their notes."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from mobbet.actions import reading_copies
from mobbet.actions.reading_copies import Opened
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused, TooSoon
from mobbet.core.screen_dates import time_in_words
from mobbet.store.reading_copies import PROPOSE, READ
from mobbet.web.copies import addresses as to_copies
from mobbet.web.copies.contexts import CopyEntry, CopyPanel
from mobbet.web.copies.view import block_of, draft_answer, note_shown, panel_of, private
from mobbet.web.public import addresses as to_public
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import cookies
from mobbet.web.shell.contexts import ErrorPage
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here

router = APIRouter()
COPY_SECONDS = 90 * 86400


def _key(request: Request) -> str:
    return cookies.of_request(request).get(cookies.copy_cookie(request.app.state.workshop.settings), "")


def _over(error: Refused) -> Response:
    status = 429 if isinstance(error, TooSoon) else 404
    return private(page(ErrorPage("There is nothing to read here", str(error), to_shell.home()), status))


def _opened(request: Request, here: Workshop, token: str) -> Opened:
    return reading_copies.opened(here, token, _key(request))


@router.get(to_copies.copy.route)
def show(request: Request, here: Here, token: str) -> Response:
    """The draft's page, for a browser that is known; the word is asked for where the copy has one."""
    try:
        found = _opened(request, here, token)
    except Refused as error:
        return _over(error)
    if found.is_locked:
        return private(page(CopyEntry(token, found.by)))
    answer = see_other(to_copies.copy_site(token, reading_copies.path_of(here, found)))
    return private(_known(request, here, answer, token) if found.reader is None else answer)


def _known(request: Request, here: Workshop, answer: Response, token: str, word: str = "") -> Response:
    """The answer with the cookie by which the browser is known from now on."""
    name = cookies.copy_cookie(here.settings)
    cookies.put(
        here.settings, answer, name, reading_copies.enter(here, token, word, _key(request)), COPY_SECONDS
    )
    return answer


@router.post(to_copies.copy.route)
def enter(request: Request, here: Here, token: str, word: Text = "") -> Response:
    """Opens a copy by its word."""
    try:
        found = _opened(request, here, token)
        return private(
            _known(
                request,
                here,
                see_other(to_copies.copy_site(token, reading_copies.path_of(here, found))),
                token,
                word,
            )
        )
    except BadInput as error:
        return private(page(CopyEntry(token, found.by, str(error)), 422))
    except Refused as error:
        return _over(error)


@router.get(to_copies.copy_site.route)
def site(request: Request, here: Here, token: str, path: str, told: str = "") -> Response:
    """The page of the draft, or a file that it shows. What else the page leads to is the site as everybody has it."""
    try:
        found = _opened(request, here, token)
    except Refused as error:
        return _over(error)
    if found.is_locked:
        return see_other(to_copies.copy(token))
    return _shown(here, found, token, path, told="Thank you; the note is left." if told else "")


def _shown(here: Workshop, found: Opened, token: str, path: str, status: int = 200, **more: Any) -> Response:
    what = reading_copies.shown(here, found, path)
    if what is None:
        return private(see_other(to_public.public(found.blog.slug, path)))
    return private(draft_answer(what, lambda: _panel(here, found, token, **more), status))


def _panel(here: Workshop, found: Opened, token: str, **more: Any) -> CopyPanel:
    threads = [
        note_shown(one, "", to_copies.copy_answer(token, one.note.id) if one.answers else "")
        for one in reading_copies.threads(here, found)
    ]
    return panel_of(
        here, found.post, threads, by=found.by, until=time_in_words(found.copy.ends_at, found.blog.zone, here.clock()), back="", note_to=to_copies.copy_note(token),
        read_to=to_copies.copy_read(token), may_note=found.copy.lets != READ, may_propose=found.copy.lets == PROPOSE, name=found.reader.reader_name if found.reader else "", **more,
    )  # fmt: skip


@router.post(to_copies.copy_note.route)
def leave_note(
    request: Request, here: Here, token: str, said: Text = "", proposal: Text = "", name: Text = "", quote: Text = "", prefix: Text = "", suffix: Text = "", line: Text = "",
) -> Response:  # fmt: skip
    """Leaves a note on chosen words, on a block, or on the whole."""
    try:
        found = _opened(request, here, token)
        path = reading_copies.path_of(here, found)
    except Refused as error:
        return _over(error)
    typed = {"said": said, "proposal": proposal, "name": name, "quote": quote, "line": line}
    try:
        about = Passage(0, 0, quote, prefix, suffix) if quote.strip() else block_of(here, found.post, line)
        reading_copies.leave(here, found, about, said, proposal if proposal.strip() else None, name)
    except (BadInput, Refused) as error:
        if isinstance(error, NotFound):
            raise
        status = 403 if isinstance(error, NotAllowed) else 422
        return _shown(here, found, token, path, status, typed=typed, problem=str(error))
    return private(see_other(f"{to_copies.copy_site(token, path)}?told=left#copy-notes"))


@router.post(to_copies.copy_answer.route)
def answer(request: Request, here: Here, token: str, number: int, said: Text = "") -> Response:
    """Answers in a thread of one's own."""
    try:
        found = _opened(request, here, token)
        path = reading_copies.path_of(here, found)
    except Refused as error:
        return _over(error)
    try:
        reading_copies.answer(here, found, number, said)
    except BadInput as error:
        return _shown(here, found, token, path, 422, problem=str(error))
    return private(see_other(f"{to_copies.copy_site(token, path)}#copy-notes"))


@router.post(to_copies.copy_read.route)
def note_progress(
    request: Request, here: Here, token: str, came_to: Text = "", share: int = Form(0)
) -> Response:
    """Is told how far somebody read."""
    try:
        reading_copies.note_progress(here, _opened(request, here, token), came_to, share)
    except Refused as error:
        return _over(error)
    return private(Response(status_code=204))

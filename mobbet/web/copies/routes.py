"""Reading copies: the page of a draft for those with its link, and their notes."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from mobbet.actions import notes, reading_copies
from mobbet.actions.reading_copies import Opened
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused, TooSoon
from mobbet.core.timing import time_in_words
from mobbet.store import posts
from mobbet.store.notes import LEFT, SETTLED, TAKEN
from mobbet.store.reading_copies import PROPOSE, READ
from mobbet.web.copies import addresses as to_copies
from mobbet.web.copies.contexts import CopyEntry, CopyPanel, NoteShown
from mobbet.web.public import addresses as to_public
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import cookies
from mobbet.web.shell.contexts import ErrorPage
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import html_of, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.security import ASK_POLICY, policy_of
from mobbet.web.shell.session import Here

router = APIRouter()
PRIVATE = {"Cache-Control": "private, no-store", "X-Robots-Tag": "noindex, nofollow, noarchive"}
"""For everything that a link shows: it is kept nowhere and found by nobody. That it is told to no other site is the Referrer-Policy of every answer."""
STATES = {SETTLED: "settled", TAKEN: "your words were taken", LEFT: "your words were not taken"}
LONGEST_BEGINNING = 60
COPY_SECONDS = 90 * 86400


def _key(request: Request) -> str:
    return cookies.of_request(request).get(cookies.copy_cookie(request.app.state.workshop.settings), "")


def _over(error: Refused) -> Response:
    status = 429 if isinstance(error, TooSoon) else 404
    return _private(page(ErrorPage("There is nothing to read here", str(error), to_shell.home()), status))


def _private(response: Response) -> Response:
    response.headers.update(PRIVATE)
    return response


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
        return _private(page(CopyEntry(token, found.by)))
    answer = see_other(to_copies.copy_site(token, reading_copies.path_of(here, found)))
    return _private(_known(request, here, answer, token) if found.reader is None else answer)


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
        return _private(
            _known(
                request,
                here,
                see_other(to_copies.copy_site(token, reading_copies.path_of(here, found))),
                token,
                word,
            )
        )
    except BadInput as error:
        return _private(page(CopyEntry(token, found.by, str(error)), 422))
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
        return _private(see_other(to_public.public(found.blog.slug, path)))
    if not what.is_page:
        return _private(Response(what.body, media_type=what.type))
    panel = html_of(_panel(here, found, token, **more))
    head = f'<meta name="robots" content="noindex, nofollow"><link rel="stylesheet" href="{to_shell.static("copy.css")}"><script src="{to_shell.static("copy.js")}" defer></script>'
    body = what.body.replace(b"</head>", head.encode() + b"\n</head>", 1).replace(
        b"</body>", panel.encode() + b"\n</body>", 1
    )
    answer = Response(
        body,
        status,
        media_type=what.type,
        headers={"Content-Security-Policy": policy_of(what.body, ASK_POLICY)},
    )
    return _private(answer)


def _panel(
    here: Workshop,
    found: Opened,
    token: str,
    typed: dict[str, str] | None = None,
    problem: str = "",
    told: str = "",
) -> CopyPanel:
    lines = notes.text_of(posts.working(here.db, found.post.id))
    begun = [(number, _beginning(line.text)) for number, line in enumerate(lines) if line.text.strip()]
    until = time_in_words(found.copy.ends_at, found.blog.zone, here.clock())
    threads = [
        NoteShown(
            one.note.id, one.note.quote, one.note.said, one.note.proposal, STATES.get(one.note.ended, ""), [(row.who, row.said) for row in one.answers]
        )
        for one in reading_copies.threads(here, found)
    ]  # fmt: skip
    return CopyPanel(
        token, found.by, until, found.copy.lets != READ, found.copy.lets == PROPOSE, found.reader.reader_name if found.reader else "", begun, threads,
        {"said": "", "proposal": "", "name": "", "quote": "", "line": "", **(typed or {})}, problem, told,
    )  # fmt: skip


def _beginning(text: str) -> str:
    words = text.replace("\ufffc", "").strip()
    return (
        words if len(words) <= LONGEST_BEGINNING else words[: LONGEST_BEGINNING - 1].rsplit(" ", 1)[0] + "…"
    )


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
        about = Passage(0, 0, quote, prefix, suffix) if quote.strip() else _line(here, found, line)
        reading_copies.leave(here, found, about, said, proposal if proposal.strip() else None, name)
    except (BadInput, Refused) as error:
        if isinstance(error, NotFound):
            raise
        status = 403 if isinstance(error, NotAllowed) else 422
        return _shown(here, found, token, path, status, typed=typed, problem=str(error))
    return _private(see_other(f"{to_copies.copy_site(token, path)}?told=left#copy-notes"))


def _line(here: Workshop, found: Opened, line: str) -> Passage:
    """The passage that is a whole block, by its number among the lines of the text; nothing for the whole post."""
    lines = notes.text_of(posts.working(here.db, found.post.id))
    number = int(line) if line.isascii() and line.isdecimal() and len(line) < 7 else len(lines)
    if number >= len(lines):
        return notes.NOWHERE
    before, after = (lines[number + step].text if 0 <= number + step < len(lines) else "" for step in (-1, 1))
    return Passage(0, 0, lines[number].text, f"{before}\n", f"\n{after}")


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
    return _private(see_other(f"{to_copies.copy_site(token, path)}#copy-notes"))


@router.post(to_copies.copy_read.route)
def note_progress(
    request: Request, here: Here, token: str, came_to: Text = "", share: int = Form(0)
) -> Response:
    """Is told how far somebody read."""
    try:
        reading_copies.note_progress(here, _opened(request, here, token), came_to, share)
    except Refused as error:
        return _over(error)
    return _private(Response(status_code=204))

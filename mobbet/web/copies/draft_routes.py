"""A colleague's draft: read as its page, with notes, by those who may not change it."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import notes, reading_copies
from mobbet.actions.access import note_post
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.values import existing
from mobbet.store import people
from mobbet.store.people import Person
from mobbet.web.copies import addresses as to_copies
from mobbet.web.copies.contexts import CopyPanel
from mobbet.web.copies.view import block_of, draft_answer, note_shown, panel_of, private
from mobbet.web.desk import addresses as to_desk
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.fields import Text
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
TOLD = {"left": "The note is left.", "answered": "The answer is left."}


@router.get(to_copies.draft.route)
def show(here: Here, me: Me, post_id: int) -> Response:
    """Leads to the draft's page."""
    return private(see_other(_page_of(here, me, post_id)))


def _page_of(here: Workshop, me: Person, post_id: int, **query: str) -> str:
    post, blog = note_post(here, me, post_id)
    return to_copies.draft_site(post.id, reading_copies.draft_path(here, post, blog), **query)


@router.get(to_copies.draft_site.route)
def site(here: Here, me: Me, post_id: int, path: str, told: str = "") -> Response:
    """The page of the draft, or a file that it shows. What else the page leads to is the site as everybody has it."""
    return _shown(here, me, post_id, path, told=TOLD.get(told, ""))


def _shown(here: Workshop, me: Person, post_id: int, path: str, status: int = 200, **more: Any) -> Response:
    post, blog = note_post(here, me, post_id)
    what = reading_copies.draft_at(here, post, blog, post.revision, path)
    if what is None:
        return private(see_other(to_public.public(blog.slug, path)))
    return private(draft_answer(what, lambda: _panel(here, me, post_id, **more), status))


def _panel(here: Workshop, me: Person, post_id: int, **more: Any) -> CopyPanel:
    post, blog = note_post(here, me, post_id)
    threads = [
        note_shown(one, one.note.who, to_copies.draft_answer(post.id, one.note.id))
        for one in notes.threads(here, me, post_id)
    ]
    by = existing(people.by_id(here.db, post.author_id)).name
    return panel_of(
        here, post, threads, by=by, until="", back=to_desk.desk(blog.slug), note_to=to_copies.draft_note(post.id), read_to="", may_note=True, may_propose=True, name=me.name, **more,
    )  # fmt: skip


@router.post(to_copies.draft_note.route)
def leave_note(
    here: Here, me: Me, post_id: int, said: Text = "", proposal: Text = "", quote: Text = "", prefix: Text = "", suffix: Text = "", line: Text = "",
) -> Response:  # fmt: skip
    """Leaves a note on chosen words, on a block, or on the whole."""
    post, blog = note_post(here, me, post_id)
    try:
        about = Passage(0, 0, quote, prefix, suffix) if quote.strip() else block_of(here, post, line)
        notes.leave_on_words(here, me, post_id, about, said, proposal if proposal.strip() else None)
    except (NotAllowed, NotFound):
        raise
    except (BadInput, Refused) as error:
        typed = {"said": said, "proposal": proposal, "quote": quote, "line": line}
        path = reading_copies.draft_path(here, post, blog)
        return _shown(here, me, post_id, path, 422, typed=typed, problem=str(error))
    return private(see_other(f"{_page_of(here, me, post_id, told='left')}#copy-notes"))


@router.post(to_copies.draft_answer.route)
def answer(here: Here, me: Me, post_id: int, number: int, said: Text = "") -> Response:
    """Answers a note."""
    try:
        notes.answer(here, me, post_id, number, said)
    except BadInput as error:
        post, blog = note_post(here, me, post_id)
        return _shown(here, me, post_id, reading_copies.draft_path(here, post, blog), 422, problem=str(error))
    return private(see_other(f"{_page_of(here, me, post_id, told='answered')}#copy-notes"))

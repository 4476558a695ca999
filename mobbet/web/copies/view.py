"""The page of a draft with the panel for notes on it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from starlette.responses import Response

from mobbet.actions import notes
from mobbet.actions.notes import Thread
from mobbet.actions.reading_copies import Shown
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage
from mobbet.store import posts
from mobbet.store.notes import LEFT, SETTLED, TAKEN
from mobbet.store.posts import Post
from mobbet.web.copies.contexts import CopyPanel, NoteShown
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.rendering import html_of
from mobbet.web.shell.security import SITE_POLICY, policy_of

PRIVATE = {"Cache-Control": "private, no-store", "X-Robots-Tag": "noindex, nofollow, noarchive"}
"""For everything that shows a draft: it is kept nowhere and found by nobody. That it is told to no other site is the Referrer-Policy of every answer."""
STATES = {SETTLED: "settled", TAKEN: "the words were taken", LEFT: "the words were not taken"}
LONGEST_BEGINNING = 60
NOTHING_TYPED = {"said": "", "proposal": "", "name": "", "quote": "", "line": ""}


def private(response: Response) -> Response:
    response.headers.update(PRIVATE)
    return response


def draft_answer(what: Shown, panel: Callable[[], CopyPanel], status: int = 200) -> Response:
    """A file, or the page of a draft with the panel put in."""
    if not what.is_page:
        return Response(what.body, media_type=what.type)
    head = f'<meta name="robots" content="noindex, nofollow"><link rel="stylesheet" href="{to_shell.static("copy.css")}"><script src="{to_shell.static("copy.js")}" defer></script>'
    body = what.body.replace(b"</head>", head.encode() + b"\n</head>", 1).replace(
        b"</body>", html_of(panel()).encode() + b"\n</body>", 1
    )
    policy = {"Content-Security-Policy": policy_of(what.body, SITE_POLICY)}
    return Response(body, status, media_type=what.type, headers=policy)


def panel_of(
    workshop: Workshop, post: Post, threads: list[NoteShown], typed: dict[str, str] | None = None, problem: str = "", told: str = "", **more: Any
) -> CopyPanel:  # fmt: skip
    """The panel, with the blocks of the text that a note can be on."""
    lines = notes.text_of(posts.working(workshop.db, post.id))
    begun = [(number, _beginning(line.text)) for number, line in enumerate(lines) if line.text.strip()]
    typed = {**NOTHING_TYPED, **(typed or {})}
    return CopyPanel(lines=begun, notes=threads, typed=typed, problem=problem, told=told, **more)


def note_shown(thread: Thread, who: str, answer_to: str) -> NoteShown:
    note = thread.note
    answers = [(row.who, row.said) for row in thread.answers]
    return NoteShown(
        note.id, who, answer_to, note.quote, note.said, note.proposal, STATES.get(note.ended, ""), answers
    )


def _beginning(text: str) -> str:
    words = text.replace("\ufffc", "").strip()
    return (
        words if len(words) <= LONGEST_BEGINNING else words[: LONGEST_BEGINNING - 1].rsplit(" ", 1)[0] + "…"
    )


def block_of(workshop: Workshop, post: Post, line: str) -> Passage:
    """The passage that is a whole block, by its number among the lines of the text; nothing for the whole post."""
    lines = notes.text_of(posts.working(workshop.db, post.id))
    number = int(line) if line.isascii() and line.isdecimal() and len(line) < 7 else len(lines)
    if number >= len(lines):
        return notes.NOWHERE
    before, after = (lines[number + step].text if 0 <= number + step < len(lines) else "" for step in (-1, 1))
    return Passage(0, 0, lines[number].text, f"{before}\n", f"\n{after}")

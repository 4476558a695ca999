"""The notes on a post as text, to be read without Mobbet."""

from __future__ import annotations

import textwrap
from collections.abc import Callable, Iterable

from mobbet.actions.notes import Thread
from mobbet.store.notes import LEFT, OPEN, SETTLED, TAKEN, Note

STATES = {OPEN: "open", SETTLED: "settled", TAKEN: "words taken", LEFT: "words not taken"}


def as_text(title: str, threads: Iterable[Thread], when: Callable[[int], str]) -> str:
    """Each note with its passage, its words and its answers; `when` says an instant in words."""
    parts = [f"Notes on “{title or 'No title yet'}”"]
    for thread in threads:
        note = thread.note
        place = (
            "on the whole"
            if not note.quote
            else f"on “{_one_line(note.quote)}”" + (", which is gone" if note.is_gone else "")
        )
        lines = [f"{note.who}, {when(note.left_at)}, {place} ({STATES[note.ended]})"]
        if note.proposal is not None:
            lines.append(f"    Better: {note.proposal or '(nothing)'}")
        lines += [_indented(note.said)] if note.said else []
        lines += [f"  {row.who}, {when(row.left_at)}:\n{_indented(row.said)}" for row in thread.answers]
        parts.append("\n".join(lines))
    return "\n\n".join(parts) + "\n"


def facts(thread: Thread, iso: Callable[[int], str]) -> dict[str, object]:
    """A note with its answers as data."""
    note = thread.note
    return {
        **_facts(note, iso),
        "quote": note.quote,
        "gone": note.is_gone,
        "start": note.passage_start if note.quote and not note.is_gone else None,
        "end": note.passage_end if note.quote and not note.is_gone else None,
        "proposal": note.proposal,
        "state": STATES[note.ended],
        "answers": [_facts(row, iso) for row in thread.answers],
    }


def _facts(note: Note, iso: Callable[[int], str]) -> dict[str, object]:
    return {"id": note.id, "who": note.who, "at": iso(note.left_at), "words": note.said}


def _indented(text: str) -> str:
    return textwrap.indent(text, "    ")


def _one_line(text: str) -> str:
    return " ".join(text.replace("\ufffc", "").split())

"""Page contexts of reading copies."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar


@dataclass(frozen=True)
class CopyEntry:
    """What is asked before a copy opens that needs a word."""

    TEMPLATE: ClassVar = "copy_entry.html"
    token: str
    by: str
    problem: str = ""


@dataclass(frozen=True)
class NoteShown:
    """A note with its answers: (who, words) of each; `who` is '' for one of the reader's own, `answer_to` is '' where nobody answered yet."""

    number: int
    who: str
    answer_to: str
    quote: str
    said: str
    proposal: str | None
    state: str
    answers: list[tuple[str, str]]


@dataclass(frozen=True)
class CopyPanel:
    """What stands on the page of a draft beside the draft: from whom it is, the form for a note, and the notes that this reader sees.

    `until` and `read_to`, where it is told how far one read, are '' for a colleague; `back` is where a colleague came from, '' for others.
    """

    TEMPLATE: ClassVar = "copy_panel.html"
    by: str
    until: str
    back: str
    note_to: str
    read_to: str
    may_note: bool
    may_propose: bool
    name: str
    lines: list[tuple[int, str]]
    """(number, beginning) of each block that a note can be on without choosing words."""
    notes: list[NoteShown]
    typed: dict[str, str]
    problem: str = ""
    told: str = ""

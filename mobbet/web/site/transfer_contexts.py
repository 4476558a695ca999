"""The context of the screen on which a blog leaves as a file, and older sites come in."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class FoundLine:
    """A post of a source: what becomes of it, its title and date, and remarks. `post` is its number once it came."""

    what: str
    title: str
    when: str
    notes: list[str]
    post: int


@dataclass(frozen=True)
class FieldLine:
    """A field of the source that means nothing here, some of its values, and what it may be."""

    name: str
    examples: str
    choices: list[Choice]


@dataclass(frozen=True)
class TransferRow:
    """An export or an import: where it stands in words, how far it is in hundredths (None where nobody knows), and what can be done with it."""

    id: int
    title: str
    state: str
    problem: str = ""
    share: int | None = None
    is_open: bool = False
    file: str = ""
    can_go_on: str = ""
    can_undo: bool = False
    sums: str = ""
    posts: list[FoundLine] = field(default_factory=list)
    fields: list[FieldLine] = field(default_factory=list)


@dataclass(frozen=True)
class SendingLine:
    """A message to another program, in words; `is_over` for one that is tried no more and was not taken."""

    id: int
    words: str
    is_over: bool


@dataclass(frozen=True)
class HookRow:
    """An address that is told what happens: of what, why no more ('' while it is), and the last messages."""

    id: int
    address: str
    told: str
    ended: str
    last: str
    sendings: list[SendingLine]


@dataclass(frozen=True)
class InAndOutPage:
    TEMPLATE: ClassVar = "in_and_out.html"
    bar: Bar
    rows_out: list[TransferRow]
    rows_in: list[TransferRow]
    choices: list[Choice]
    kinds: list[Choice]
    is_going: bool
    books: list[Choice]
    formats: list[Choice]
    hooks: list[HookRow]
    events: list[Choice]
    typed: dict[str, str] = field(default_factory=dict)
    secret: str = ""
    """Of a new address that is told of things, shown this once."""
    told: str = ""
    problem: str = ""

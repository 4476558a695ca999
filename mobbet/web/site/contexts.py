"""What the templates of editions, of places outside, and of the site at a moment show."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice, FootprintWords


@dataclass(frozen=True)
class EditionRow:
    """An edition in the list: when, why, by whom, what it came to; `is_current` is what readers get."""

    number: int
    when: str
    why: str
    by: str
    came_to: str
    is_current: bool


@dataclass(frozen=True)
class PageChange:
    """One address that differs between two editions: 'added', 'altered' or 'removed', and where to look at it."""

    what: str
    path: str
    note: str
    look: str


@dataclass(frozen=True)
class HeldPart:
    """A site that stands at an edition which was put back, in a sentence, and what waits, in another."""

    words: str
    due: str


@dataclass(frozen=True)
class EditionsPage:
    TEMPLATE: ClassVar = "editions.html"
    bar: Bar
    rows: list[EditionRow]
    more: str
    chosen: EditionRow | None
    compared: tuple[int, int] | None
    footprint: FootprintWords | None
    changes: list[PageChange]
    look: str
    held: HeldPart | None
    coming_back: str
    told: str = ""
    problem: str = ""


@dataclass(frozen=True)
class TargetRow:
    """A place outside: its address without a password, its state in words, how far the sending is."""

    id: int
    kind: str
    address: str
    state: str
    is_behind: bool
    problem: str
    checked: str
    files: int
    done: int
    wanted: int


@dataclass(frozen=True)
class TargetsPage:
    TEMPLATE: ClassVar = "targets.html"
    bar: Bar
    rows: list[TargetRow]
    kinds: list[tuple[str, str]]
    has_stores: bool
    seals: bool
    search: str
    search_choices: list[Choice]
    index: str
    is_sending: bool
    found: list[str]
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class MomentPage:
    """The site at a moment, in a frame, with a line above that names the moment and the reader."""

    TEMPLATE: ClassVar = "moment.html"
    bar: Bar
    moment: str
    wall: str
    reader: str
    readers: list[Choice]
    frame: str
    steps: list[tuple[str, str]]
    problem: str = ""
    said: str = ""

"""What the template of the Timetable shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.contexts import Bar, Choice


@dataclass(frozen=True)
class SlotRow:
    """A slot in words, the days on which it is left out, and when it comes next."""

    id: int
    words: str
    excepted: str
    next: str


@dataclass(frozen=True)
class QueueRow:
    """A post of the queue: its turn in words, and whether it stands first or last."""

    id: int
    title: str
    when: str
    is_first: bool
    is_last: bool


@dataclass(frozen=True)
class Entry:
    """Something that happens: `kind` is 'out', 'update', 'down', 'free' or 'queued'; a free slot has no post."""

    time: str
    words: str
    kind: str
    note: str
    post_id: int | None = None


@dataclass(frozen=True)
class TimetableDay:
    """A day with what happens on it; `last` is the wall time of the last thing."""

    words: str
    entries: list[Entry]
    last: str


@dataclass(frozen=True)
class Slip:
    """A slip on its day: `kind` is 'past', 'coming', 'unsettled', 'update', 'down' or 'free'; its head, the lines of its title, all of it in words."""

    post: int
    kind: str
    head: str
    lines: list[str]
    words: str
    href: str
    moves: bool = False


@dataclass(frozen=True)
class DayCell:
    """A day of a week: where it begins, its number, its date, its name, and its slips with their heights."""

    x: int
    number: str
    day: str
    words: str
    is_today: bool
    slips: list[tuple[int, Slip]]


@dataclass(frozen=True)
class WeekLine:
    y: int
    height: int
    words: str
    days: list[DayCell]


@dataclass(frozen=True)
class Drawing:
    """The weeks in drawing units."""

    width: int
    height: int
    day_width: int
    names: list[tuple[int, str]]
    weeks: list[WeekLine]
    now: str


@dataclass(frozen=True)
class TimetablePage:
    TEMPLATE: ClassVar = "timetable.html"
    bar: Bar
    slots: list[SlotRow]
    queue: list[QueueRow]
    days: list[TimetableDay]
    span: str
    spans: list[Choice]
    free: int
    zone: str
    can_keep: bool
    calendar: str
    drawing: Drawing
    undo: tuple[int, str] | None = None
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

"""What the template of the Timetable shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.filing.contexts import ChangeMessage
    from mobbet.web.shell.contexts import Bar, Choice


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
    """Something that happens: `kind` is 'out', 'update', 'down', 'free' or 'queued'; a free slot has no post, but its wall time."""

    time: str
    words: str
    kind: str
    note: str
    post_id: int | None = None
    wall: str = ""


@dataclass(frozen=True)
class TimetableDay:
    """A day with what happens on it; `last` is the wall time of the last thing."""

    words: str
    entries: list[Entry]
    last: str


@dataclass(frozen=True)
class Slip:
    """A slip on its day: `kind` is 'past', 'coming', 'unsettled', 'update', 'down' or 'free'; its head, the lines of its title, all of it in
    words, the minute of its day, the wall time of a free slot, and the number of its pattern where it is another blog's.
    """

    post: int
    kind: str
    head: str
    lines: list[str]
    words: str
    href: str
    moves: bool = False
    minute: int = 0
    wall: str = ""
    pattern: int = 0


@dataclass(frozen=True)
class Band:
    """What is marked on a day: its words, whether slots do not come, and whether it is a change of the clocks."""

    words: str
    skips: bool
    is_clocks: bool = False
    whole: str = ""


@dataclass(frozen=True)
class DayCell:
    """A day of a week: where it begins, its number, its date, its name, its slips and bands with their heights, and the site at its end."""

    x: int
    number: str
    day: str
    words: str
    is_today: bool
    slips: list[tuple[int, Slip]]
    moment: str
    bands: list[tuple[int, Band]]
    is_outside: bool


@dataclass(frozen=True)
class WeekLine:
    """A week: where it begins, how high it is, its Monday in words, and the hours that are drawn."""

    y: int
    height: int
    words: str
    days: list[DayCell]
    hours: list[tuple[int, str]]


@dataclass(frozen=True)
class Drawing:
    """The weeks in drawing units; `others` are (pattern, blog) of blogs drawn over this one."""

    width: int
    height: int
    day_width: int
    names: list[tuple[int, str]]
    weeks: list[WeekLine]
    now: str
    others: list[tuple[int, str]]


@dataclass(frozen=True)
class MarkedRow:
    """Marked days in a list."""

    id: int
    when: str
    words: str
    skips: bool


@dataclass(frozen=True)
class Views:
    """How the timetable is drawn: the choices, what they say in words, where one goes back and on, and the address of this view."""

    ways: list[Choice]
    whose: list[Choice]
    spans: list[Choice]
    updates: list[Choice]
    title: str
    query: str
    earlier: str
    today: str
    later: str
    is_list: bool


@dataclass(frozen=True)
class TimetablePage:
    TEMPLATE: ClassVar = "timetable.html"
    bar: Bar
    slots: list[SlotRow]
    pattern: str
    excepted: str
    queue: list[QueueRow]
    days: list[TimetableDay]
    free: int
    zone: str
    can_keep: bool
    calendar: str
    views: Views
    drawing: Drawing | None
    remarks: list[str]
    marked: list[MarkedRow]
    movable: list[Choice]
    drafts: list[Choice]
    fill: str
    held: str = ""
    owns: bool = False
    told: ChangeMessage | None = None
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

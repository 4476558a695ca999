"""What the template of a blog's rhythm shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar


@dataclass(frozen=True)
class RhythmCell:
    """One week of one row in drawing units: a bar, or a dot of a radius; what it tells, and where its posts are."""

    x: float
    y: float
    width: float
    height: float
    radius: float
    words: str
    href: str


@dataclass(frozen=True)
class RhythmRow:
    """A row with its name and its total, and the line on which its bars or dots stand."""

    name: str
    y: float
    total: str
    cells: list[RhythmCell]
    ground: float


@dataclass(frozen=True)
class WeekLine:
    """A week in which posts went out, as a line: its Monday, what went out, under what, and how full it is from 0 to 100.

    Without an address it stands for weeks without a post.
    """

    words: str
    counted: str = ""
    subjects: str = ""
    share: int = 0
    href: str = ""


@dataclass(frozen=True)
class RhythmDrawing:
    """A year by weeks in drawing units and, for a narrow window, as lines, newest first; and what it tells in sentences."""

    width: int
    height: int
    months: list[tuple[float, str]]
    rows: list[RhythmRow]
    sentence: str
    neglected: str
    lines: list[WeekLine]


@dataclass(frozen=True)
class RhythmPage:
    TEMPLATE: ClassVar = "rhythm.html"
    bar: Bar
    drawing: RhythmDrawing
    title: str
    earlier: str
    later: str

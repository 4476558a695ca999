"""Page contexts of what is read."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from markupsafe import Markup

from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class ReadRow:
    """A post as it was read: readers, pages, how many came to the end ('' where nobody is asked), how long ago it went out."""

    title: str
    href: str
    readers: int
    pages: int
    since: str
    is_chosen: bool
    ends: str = ""
    """The share of its readers who got to its end; '' where nothing is known of that."""
    number: int = 0


@dataclass(frozen=True)
class DayRow:
    """A day of the table beside the drawing."""

    words: str
    readers: int
    pages: int
    what: str
    beside: int = 0


@dataclass(frozen=True)
class ReadPage:
    """What is read in a stretch of time. `changed` ends the sentence about the numbers, `more` are further sentences; `days` and `flow` are drawings, each with
    its numbers as a table."""

    TEMPLATE: ClassVar = "read.html"
    bar: Bar
    waiting: int
    keeps_readers: bool
    periods: list[Choice]
    period: str
    first: str
    last: str
    readers: int
    pages: int
    robots: int
    changed: str
    more: list[str]
    post: int
    title: str
    days: Markup
    day_rows: list[DayRow]
    flow: Markup
    flow_rows: list[tuple[str, str, int]]
    posts: list[ReadRow]
    missed: list[tuple[str, int]]
    devices: list[tuple[str, int]]
    languages: list[tuple[str, int]]
    query: str
    """The stretch and the post, as the downloads take them."""
    told: str = ""
    problem: str = ""
    has_letters: bool = False
    longer: list[tuple[str, str]] = field(default_factory=list)
    """(in words, address) of months and years."""
    beside: int = 0
    beside_title: str = ""
    others: list[Choice] = field(default_factory=list)
    stretch: list[tuple[str, str]] = field(default_factory=list)
    has_slip: bool = False
    """Whether the owners get a letter about each day."""
    """The post that one is compared with, 0 for none, and those that it can be compared with."""

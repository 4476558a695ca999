"""The desk: rows, groups and the strip."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from markupsafe import Markup

from mobbet.store.blogs import Blog
from mobbet.store.ideas import Idea
from mobbet.web.filing.contexts import ChangeMessage, Tried
from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class Row:
    """One post in a list of the desk, in words. `mark` is '' or 'bad' or 'good'; `place` is where a search found it, as (words, is a hit); `comments` are
    those of readers, counted, and `comments_at` the address of where they are read."""

    id: int
    title: str
    author: str
    categories: str
    state: str
    mark: str
    note: str
    proof: str = ""
    is_unsettled: bool = False
    place: list[tuple[str, bool]] = field(default_factory=list)
    comments: str = ""
    comments_at: str = ""
    course: Markup = Markup("")
    """How often it was read, week by week, as a drawing."""


@dataclass(frozen=True)
class Group:
    heading: str
    rows: list[Row]
    more: str = ""
    more_words: str = "Show more"


@dataclass(frozen=True)
class DeskRows:
    TEMPLATE: ClassVar = "desk_rows.html"
    groups: list[Group]
    query: str
    is_search: bool
    is_empty: bool
    blog: Blog
    problem: str = ""
    asked: list[Choice] = field(default_factory=list)


@dataclass(frozen=True)
class KeptView:
    """A filter kept under a name."""

    number: int
    name: str
    href: str
    is_chosen: bool


@dataclass(frozen=True)
class FilterSentence:
    """The filter as a sentence: the choices of each word, whether it says anything, its words in an address, what was kept, a name for it."""

    states: list[Choice]
    authors: list[Choice]
    categories: list[Choice]
    marks: list[Choice]
    orders: list[Choice]
    is_plain: bool
    query: str
    kept: list[KeptView]
    name: str


@dataclass(frozen=True)
class MoreRows:
    TEMPLATE: ClassVar = "desk_more.html"
    rows: list[Row]
    more: str
    more_words: str = "Show more"


@dataclass(frozen=True)
class StripBlock:
    """One post on the strip: its place in drawing units, its kind, where it leads, and where it is looked at.

    `left` and `reach` are where what can be pressed begins and how wide it is.
    """

    x: float
    kind: str
    title: str
    href: str
    peek: str
    left: float = 0
    reach: float = 0


@dataclass(frozen=True)
class StripBar:
    """Many posts on the strip: a bar in drawing units, and where they are."""

    x: float
    width: float
    y: float
    height: float
    words: str
    href: str
    count: int


@dataclass(frozen=True)
class StripGap:
    x1: float
    x2: float
    words: str
    is_quiet: bool


@dataclass(frozen=True)
class Strip:
    """A stretch of time as a drawing of 1232 by 118 units: its first day, how many weeks it spans, where another one is
    had, and how wide a block is.
    """

    TEMPLATE: ClassVar = "strip.html"
    first: str
    span: int
    weeks: list[tuple[float, str]]
    today: float | None
    blocks: list[StripBlock]
    bars: list[StripBar]
    gaps: list[StripGap]
    summary: str
    at: str
    block: int = 14


@dataclass(frozen=True)
class Peek:
    """A post as lists show it to readers, with what there is to know of it."""

    TEMPLATE: ClassVar = "peek.html"
    post_id: int
    title: str
    subtitle: str
    picture: str
    teaser: str
    facts: str
    unsettled: str


@dataclass(frozen=True)
class WantShown:
    """Something that wants doing, in words, where it is done, and where to say that nothing need be ('' where that is no answer)."""

    words: str
    href: str
    settled: str = ""


@dataclass(frozen=True)
class HandlingPage:
    """Something about to be done with posts: which, what it asks for, what it comes to; `rows` are (title, what holds then)."""

    TEMPLATE: ClassVar = "handling.html"
    bar: Bar
    name: str
    heading: str
    numbers: list[str]
    rows: list[tuple[str, str]]
    asks: str
    choices: list[Choice]
    at: str
    tried: Tried | None
    problem: str = ""


@dataclass(frozen=True)
class DeskPage:
    TEMPLATE: ClassVar = "desk.html"
    bar: Bar
    headline: str
    subline: str
    strip: Strip | None
    total: str
    rows: DeskRows
    filter: FilterSentence
    wants: list[WantShown]
    ideas: list[Idea]
    templates: list[tuple[int, str]]
    notices: list[str]
    doings: list[Choice]
    colleagues: list[Choice]
    """To whom this person may give an idea to write."""
    told: ChangeMessage | None = None
    shows_aside: bool = False


@dataclass(frozen=True)
class WriteChoice:
    """What somebody can go on writing: (address, title, when it was saved) of each."""

    TEMPLATE: ClassVar = "write_choice.html"
    bar: Bar
    rows: list[tuple[str, str, str]]

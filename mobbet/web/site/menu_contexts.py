"""What the template of pages and menu shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice
    from mobbet.web.site.sentence_contexts import Sentence

FINE, WAITS, WRONG = "fine", "waits", "wrong"


@dataclass(frozen=True)
class Leads:
    """What an entry leads to: its title, what it is and how it stands, in words; 'fine', or 'waits' and 'wrong' where readers do not find it."""

    title: str
    kind: str
    about: str
    state: str = FINE
    is_page: bool = False


@dataclass(frozen=True)
class Spot:
    """An entry on the map: its place as `menu.2` or `menu.2.1`, its words, and what it leads to; `parts` follow by themselves."""

    at: str
    words: str
    leads: Leads
    is_chosen: bool
    on_phone: bool
    below: tuple[Spot, ...] = ()
    parts: tuple[Leads, ...] = ()


@dataclass(frozen=True)
class ChosenEntry:
    """The entry that the slip beside the map is about."""

    at: str
    leads: Leads
    sentences: list[Sentence]
    write: str
    """The writing room of what it leads to; '' for what is no text of the blog."""
    site: str
    """Where it leads to, as readers find it; '' for nothing."""
    moves: list[Choice]
    """The places that it can move to: (place, words)."""


@dataclass(frozen=True)
class SectionSpot:
    """A section of the front page on the map: its place as `front.2`, its words, and what it shows."""

    at: str
    words: str
    leads: Leads
    is_chosen: bool


@dataclass(frozen=True)
class ChosenSection:
    """The section that the slip beside the map is about."""

    at: str
    title: str
    sentences: list[Sentence]
    moves: list[Choice]
    can_go: bool


@dataclass(frozen=True)
class LeftOut:
    """A page that is out and that neither menu nor foot leads to; how many posts do."""

    title: str
    write: str
    linked: str


@dataclass(frozen=True)
class MenuPage:
    TEMPLATE: ClassVar = "menu.html"
    bar: Bar
    sentences: list[Sentence]
    menu: list[Spot]
    foot: list[Spot]
    foot_line: str
    chosen: ChosenEntry | None
    front: list[SectionSpot]
    """The sections of the front page; none where a page is the front door."""
    chosen_section: ChosenSection | None
    sections_offered: list[tuple[str, list[Choice]]]
    left_out: list[LeftOut]
    drafts: list[LeftOut]
    offered: list[str]
    promos: str
    """What stands below posts by a rule, in words."""
    problems: int
    is_tried: bool
    since: str
    can_undo: bool
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

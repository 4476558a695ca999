"""What the template of the Readers screen shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar


@dataclass(frozen=True)
class GroupRow:
    """A group at the left: its name, how many are in it, and whether it is looked at."""

    id: int
    name: str
    count: int
    is_chosen: bool


@dataclass(frozen=True)
class GroupShown:
    """The group that is looked at: the posts that are for it now, as (title, address), and the private addresses of its feed."""

    id: int
    name: str
    posts: list[tuple[str, str]]
    more: str
    feeds: list[tuple[str, str]]
    is_written_to: bool


@dataclass(frozen=True)
class ReaderShown:
    id: int
    name: str
    email: str
    groups: str
    since: str


@dataclass(frozen=True)
class LetterShown:
    """A letter: to whom, what about, what became of it, and its text where no mail server is set."""

    recipient: str
    subject: str
    what: str
    is_stuck: bool
    text: str


@dataclass(frozen=True)
class ReadersPage:
    TEMPLATE: ClassVar = "readers.html"
    bar: Bar
    groups: list[GroupRow]
    chosen: GroupShown | None
    readers: list[ReaderShown]
    more: str
    total: int
    signed_in: str
    is_open: bool
    letters: list[LetterShown]
    keeps_letters: bool
    way_in: str
    waiting: int = 0
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

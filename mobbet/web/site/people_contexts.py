"""Page contexts of the people of a blog, and of its record."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from mobbet.web.shell.contexts import Bar, Choice
from mobbet.web.site.sentence_contexts import Sentence, Word


@dataclass(frozen=True)
class MemberLine:
    """Somebody who works on the blog: what their role is there for, when they were last here, what is in their hands, and to whom their posts could go."""

    number: int
    name: str
    is_me: bool
    role: Word
    described: str
    seen: str
    in_hand: str
    colleagues: list[Choice]
    is_suspended: bool
    can_own: bool


@dataclass(frozen=True)
class InvitationLine:
    """An invitation that waits, or that is too old by now; `link` is '' where the letter went out."""

    number: int
    email: str
    role: str
    until: str
    is_over: bool
    link: str


@dataclass(frozen=True)
class AskingLine:
    """When posts of a role need an editor's word, and the categories to choose from."""

    role: str
    words: str
    choices: list[Choice]
    categories: list[Choice]


@dataclass(frozen=True)
class RightRow:
    """One row of the table of rights: what may be done, and for each role `yes`, `own` or ''; those that the blog has otherwise are marked."""

    words: str
    cells: list[tuple[str, bool]]


@dataclass(frozen=True)
class PeoplePage:
    TEMPLATE: ClassVar = "people.html"
    bar: Bar
    members: list[MemberLine]
    invitations: list[InvitationLine]
    invite_blogs: list[Choice]
    invite_roles: list[Choice]
    typed: dict[str, str]
    asking: list[AskingLine]
    adjusting: list[Sentence]
    factor: Sentence
    """Of whom a second factor is asked."""
    role_names: list[str]
    rights: list[RightRow]
    problem: str = ""
    problem_field: str = ""
    told: str = ""


@dataclass(frozen=True)
class RecordLine:
    """One row of the record: when, the sentence, from where, and the post that it is about."""

    when: str
    sentence: str
    origin: str
    post: str


@dataclass(frozen=True)
class RecordPage:
    TEMPLATE: ClassVar = "record.html"
    bar: Bar
    parts: list[Choice]
    actors: list[Choice]
    lines: list[RecordLine]
    older: str
    days: Word
    told: str = ""


@dataclass(frozen=True)
class ProfileLine:
    """A profile that waits: what differs as (what, as readers get it, as it is now)."""

    number: int
    name: str
    rows: list[tuple[str, str, str]]
    sign: str


@dataclass(frozen=True)
class ProfilesPage:
    TEMPLATE: ClassVar = "profiles.html"
    bar: Bar
    waiting: list[ProfileLine]
    told: str = ""
    problem: str = ""

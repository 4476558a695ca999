"""What the template of the Comments screen shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class CommentShown:
    """A comment: who wrote it, when, under which post; `html` is its text as readers see it, `answers` to whom it answers ('' for a reader's)."""

    id: int
    name: str
    email: str
    when: str
    html: str
    post_title: str
    post_href: str
    answers: str
    why: str
    """Why the guard holds it for a robot's; '' for most."""
    source: str = ""
    host: str = ""
    """Of a mention: the page that mentions, and its host."""


@dataclass(frozen=True)
class Settled:
    """What became of comments just now, their numbers, and the state they had, which undoes it ('' where nothing does)."""

    words: str
    numbers: list[int]
    was: str


@dataclass(frozen=True)
class CommentsPage:
    """Comments of one state, under all posts or under one (`post`); the `posts` that have some; the rule's two words with their choices; what is refused for good (`blocklist`); `has_places` where the
    site is sent to places outside, too."""

    TEMPLATE: ClassVar = "comments.html"
    bar: Bar
    state: str
    states: list[Choice]
    comments: list[CommentShown]
    more: str
    post: int
    post_title: str
    posts: list[Choice]
    who: list[Choice]
    waiting: list[Choice]
    guard: list[Choice]
    blocklist: list[str]
    work: list[Choice]
    """Whether a reader's browser works before it sends a comment."""
    mentions: list[Choice]
    often: list[Choice]
    to_whom: list[Choice]
    """How often letters go about comments that wait, and to whom."""
    is_mine: bool
    has_places: bool = False
    settled: Settled | None = None
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

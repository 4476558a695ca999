"""What the template of the Letters screen shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice
    from mobbet.web.site.sentence_contexts import Sentence


@dataclass(frozen=True)
class SubscriberShown:
    """Somebody who gets letters, or did: what, since when, where they agreed, and what came back last."""

    id: int
    email: str
    what: str
    since: str
    consent: str
    problem: str


@dataclass(frozen=True)
class MailingShown:
    """A letter to many: what it was about, what became of it, and the post to which it leads ('' for a digest)."""

    id: int
    subject: str
    kind: str
    when: str
    sent: int
    waiting: int
    refused: int
    bounced: int
    opened: int
    href: str
    post: int
    text: str
    """Where no mail server is set; it is shown here then."""
    can_correct: bool


@dataclass(frozen=True)
class LettersPage:
    """`rules` are sentences of the blog's rules; `coming` say when the next digests go; `what` is what an added address may get."""

    TEMPLATE: ClassVar = "letters.html"
    bar: Bar
    is_open: bool
    rules: list[Sentence]
    coming: list[str]
    held: str
    """Why nothing is handed over just now; '' for no reason."""
    keeps_letters: bool
    address: str
    mailings: list[MailingShown]
    states: list[Choice]
    state: str
    words: str
    subscribers: list[SubscriberShown]
    more: str
    by_wish: list[tuple[str, int]]
    what: list[tuple[str, str]]
    every: list[tuple[str, str]]
    waiting: int = 0
    told: str = ""
    problem: str = ""
    problems: list[str] = field(default_factory=list)
    typed: dict[str, str] = field(default_factory=dict)

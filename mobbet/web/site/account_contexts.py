"""What the template of the accounts elsewhere shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice
    from mobbet.web.site.sentence_contexts import Sentence


@dataclass(frozen=True)
class AccountShown:
    """An account as a sentence, and a sample of what would be announced of the newest post, with its length."""

    id: int
    name: str
    kind: str
    profile: str
    sentence: Sentence
    sample: str
    letters: int


@dataclass(frozen=True)
class AnnouncementShown:
    """A notice: of which post, at which account, what it says, what became of it, and where it stands."""

    post_id: int
    account_id: int
    title: str
    href: str
    account: str
    text: str
    what: str
    problem: str
    answer: str
    can_send_again: bool


@dataclass(frozen=True)
class AccountsPage:
    TEMPLATE: ClassVar = "accounts.html"
    bar: Bar
    accounts: list[AccountShown]
    announcements: list[AnnouncementShown]
    kinds: list[Choice]
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

"""What the templates of readers' answers show."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.core.asking import Counted
    from mobbet.web.shell.contexts import Bar


@dataclass(frozen=True)
class FormRow:
    """A form or poll with answers: its heading, the post, how many answers, and since when the newest."""

    title: str
    post: str
    href: str
    count: int
    newest: str


@dataclass(frozen=True)
class AnswersPage:
    TEMPLATE: ClassVar = "answers.html"
    bar: Bar
    keeps_readers: bool
    forms: list[FormRow]
    waiting: int


@dataclass(frozen=True)
class AnswerShown:
    """One reader's answers: when, who (where they were signed in), and (question, answer) of each."""

    id: int
    when: str
    who: str
    answers: list[tuple[str, str]]


@dataclass(frozen=True)
class FormPage:
    """The answers to one form; of a poll what it came to."""

    TEMPLATE: ClassVar = "answers_of.html"
    bar: Bar
    keeps_readers: bool
    title: str
    post: int
    post_title: str
    key: str
    count: int
    counted: list[Counted]
    answers: list[AnswerShown]
    more: str
    waiting: int
    told: str = ""

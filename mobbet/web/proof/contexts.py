"""The proof of a whole blog, and the house style for words."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.web.shell.contexts import Bar
from mobbet.web.site.sentence_contexts import Sentence, Word


@dataclass(frozen=True)
class CheckRow:
    """A check with how many posts and marks it has, and where those are listed."""

    name: str
    posts: int
    marks: int
    href: str
    is_chosen: bool


@dataclass(frozen=True)
class MarkedPassage:
    """A mark of a post: its words, its passage, and the fields that settle it: (post, path) of a picture, an address; and the description, or the other address, that is proposed."""

    severity: str
    message: str
    text: str
    picture: str = ""
    field_name: str = ""
    address: str = ""
    proposed: str = ""


@dataclass(frozen=True)
class MarkedPost:
    id: int
    title: str
    is_out: bool
    marks: list[MarkedPassage]


@dataclass(frozen=True)
class Trend:
    """How many marks there were, day by day: the line in drawing units, its highest and last values, and its first day."""

    points: str
    most: int
    last: tuple[float, float, int]
    first_day: str
    summary: str


@dataclass(frozen=True)
class BlogProofPage:
    """`mends` is 'all' where the marks can be mended without looking, 'describe' for pictures, 'lead' for links,
    'summarise' for descriptions, or ''.
    """

    TEMPLATE: ClassVar = "proof_blog.html"
    bar: Bar
    headline: str
    reading: str
    trend: Trend | None
    checks: list[CheckRow]
    check: str
    check_name: str
    sentences: str
    posts: list[MarkedPost]
    more: str
    mends: str
    told: str = ""
    problem: str = ""
    waiting: list[int] = field(default_factory=list)


@dataclass(frozen=True)
class CheckLine:
    """A check, its severity as a changeable word, and why it matters."""

    name: str
    words: str
    severity: Word
    sentences: str
    example: str


@dataclass(frozen=True)
class HouseWordsPage:
    TEMPLATE: ClassVar = "house_words.html"
    bar: Bar
    sentences: list[Sentence]
    checks: list[CheckLine]
    message: str = ""
    problem: str = ""

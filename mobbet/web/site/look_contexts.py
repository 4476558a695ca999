"""What the template of a blog's look shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from markupsafe import Markup

    from mobbet.web.shell.contexts import Bar, Choice
    from mobbet.web.site.sentence_contexts import Sentence


@dataclass(frozen=True)
class BegunLook:
    """A look to begin from: its name, and a small drawing."""

    value: str
    name: str
    drawing: Markup
    is_chosen: bool


@dataclass(frozen=True)
class PairLine:
    """One measured pair."""

    where: str
    foreground: str
    background: str
    ratio: str
    needed: str
    holds: bool
    nearest: str


@dataclass(frozen=True)
class RemedyLine:
    """A colour that cannot be read everywhere, in a sentence; the place it has, and the nearest one that can be read, '' for none."""

    words: str
    place: str
    nearest: str
    nearest_words: str


@dataclass(frozen=True)
class View:
    """What the frames show: the pages offered, light or dark, and how it is seen."""

    page: list[Choice]
    mode: list[Choice]
    which: list[Choice]
    sees: list[Choice]
    wide: tuple[tuple[str, str], ...]
    """(title, address) of each wide frame."""
    narrow: str
    chosen: dict[str, str]


@dataclass(frozen=True)
class LookPage:
    TEMPLATE: ClassVar = "look.html"
    bar: Bar
    sentences: list[Sentence]
    begun: list[BegunLook]
    drawing: Markup
    failing: int
    remedies: list[RemedyLine]
    pairs: list[PairLine]
    view: View
    is_tried: bool
    since: str
    """Since when readers have their look, in words."""
    can_undo: bool
    others: list[Choice]
    """The person's other blogs, to copy a look from."""
    told: str = ""
    problem: str = ""
    reason: str = ""


@dataclass(frozen=True)
class PartEffect:
    TEMPLATE: ClassVar = "look_effect.html"
    words: str

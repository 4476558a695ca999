"""What the sentences of the house's screens are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from markupsafe import Markup

    from mobbet.web.shell.contexts import Choice


@dataclass(frozen=True)
class Word:
    """A word of a sentence that can be changed: one of some choices (`options` for many), a number with its ends, a colour (`#rrggbb`) of
    a mode, or words that are typed (`text`), in several lines with `rows`."""

    where: str
    label: str
    words: str
    choices: tuple[Choice, ...] = ()
    options: tuple[Choice, ...] = ()
    least: int = 0
    most: int = 0
    number: int = 0
    colour: str = ""
    swatch: Markup | None = None
    is_wrong: bool = False
    text: str | None = None
    rows: int = 0
    longest: int = 0
    placeholder: str = ""
    hint: str = ""
    verb: str = "Try it"
    problem: str = ""
    removes: bool = False
    """Whether it can be taken out."""


Sentence = list["str | Word"]

"""What the templates of the preview show."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class Word:
    """A changeable word of the preview's sentence: what is sent under `name`, and the choices."""

    name: str
    label: str
    words: str
    choices: list[Choice]


@dataclass(frozen=True)
class PreviewPage:
    """`frame` is the address of what is shown, `out` that of what is out now; `kept` are the fields that every choice takes along."""

    TEMPLATE: ClassVar = "preview.html"
    bar: Bar
    post_id: int
    title: str
    kind: Word
    reader: Word
    light: Word
    type: Word
    colours: Word
    compared: Word
    moment: str
    said: str
    kept: list[tuple[str, str]]
    frame: str
    out: str
    colour: str
    compare: str
    has_ruler: bool
    problem: str
    main_action: str
    place: str
    can_place: bool
    letter: str = ""
    """The subject of the letter that is looked at; '' for another kind."""
    email: str = ""
    told: str = ""
    formats: list[Choice] = field(default_factory=list)
    """As what the post can be taken out."""


@dataclass(frozen=True)
class PreviewAs:
    """A post as other programs show it: `kind` is 'search', 'card', 'feed', 'mail' or 'mail-text'; `html` is made by the code that publishes."""

    TEMPLATE: ClassVar = "preview_as.html"
    kind: str
    title: str
    html: str
    address: str
    image: str
    note: str
    by: str

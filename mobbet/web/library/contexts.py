"""The library: its shelf and one item."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class FilterWord:
    """One changeable word of a filter's sentence, with the words before it."""

    before: str
    name: str
    label: str
    choices: list[Choice]


@dataclass(frozen=True)
class ShelfLine:
    """One item on the sheet of thumbnails, in words. `thumb` is an address ('' for none), `progress` in percent."""

    id: int
    name: str
    title: str
    kind: str
    facts: str
    uses: str
    problem: str
    progress: int | None
    thumb: str
    alt: str
    caption: str
    credit: str
    wave: tuple[int, ...] = ()


@dataclass(frozen=True)
class LibraryRows:
    TEMPLATE: ClassVar = "library_rows.html"
    lines: list[ShelfLine]
    total: int
    more: str
    start: int
    is_all: bool
    is_aside: bool


@dataclass(frozen=True)
class LibraryPage:
    TEMPLATE: ClassVar = "library.html"
    bar: Bar
    words: str
    sentence: list[FilterWord]
    rows: LibraryRows
    room: str
    limits: str
    limits_data: dict[str, int]
    licences: list[Choice]
    scaled: list[Choice]
    """How large pictures come from a phone."""
    owns_house: bool


@dataclass(frozen=True)
class DescribePage:
    TEMPLATE: ClassVar = "describe.html"
    bar: Bar
    lines: list[ShelfLine]


@dataclass(frozen=True)
class ReachShown:
    """What replacing an item would change."""

    other: int
    posts: list[tuple[str, str]]
    placed: int
    kept: tuple[str, ...]
    pages: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class ItemPage:
    TEMPLATE: ClassVar = "item.html"
    bar: Bar
    line: ShelfLine
    values: dict[str, str]
    facts: list[tuple[str, str]]
    licences: list[Choice]
    uses: list[tuple[str, str, str]]
    kept: list[tuple[int, str]]
    state: str
    is_aside: bool
    is_picture: bool
    has_camera: bool
    editing: dict[str, object]
    frames: list[tuple[float, str, bool]]
    captions: str
    others: list[tuple[int, str]]
    may_edit: bool
    said: list[tuple[str, str]]
    message: str = ""
    problem: str = ""
    problem_field: str = ""
    typed: dict[str, str] = field(default_factory=dict)
    reach: ReachShown | None = None

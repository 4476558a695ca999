"""The desk: rows, groups and the strip."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from mobbet.store.blogs import Blog
from mobbet.web.contexts import Bar


@dataclass(frozen=True)
class Row:
    """One post in a list of the desk, in words. `mark` is '' or 'bad' or 'good'."""

    id: int
    title: str
    author: str
    categories: str
    state: str
    mark: str
    note: str


@dataclass(frozen=True)
class Group:
    heading: str
    rows: list[Row]
    more: str = ""


@dataclass(frozen=True)
class DeskRows:
    TEMPLATE: ClassVar = "desk_rows.html"
    groups: list[Group]
    query: str
    is_search: bool
    is_empty: bool
    blog: Blog


@dataclass(frozen=True)
class MoreRows:
    TEMPLATE: ClassVar = "desk_more.html"
    rows: list[Row]
    more: str


@dataclass(frozen=True)
class StripBlock:
    """One post on the strip: its place in drawing units, its kind, and where it leads."""

    x: float
    kind: str
    title: str
    href: str


@dataclass(frozen=True)
class StripGap:
    x1: float
    x2: float
    words: str
    is_quiet: bool


@dataclass(frozen=True)
class Strip:
    """Twelve weeks as a drawing of 1232 by 118 units."""

    weeks: list[tuple[float, str]]
    today: float
    blocks: list[StripBlock]
    gaps: list[StripGap]
    summary: str


@dataclass(frozen=True)
class DeskPage:
    TEMPLATE: ClassVar = "desk.html"
    bar: Bar
    headline: str
    subline: str
    strip: Strip | None
    total: str
    rows: DeskRows
    templates: list[tuple[int, str]]

"""The contexts of the screens about programs."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class AllowPage:
    """A program asks: `name` and `client` say which, `asked` carries on what it sent."""

    TEMPLATE: ClassVar = "allow.html"
    bar: Bar
    name: str
    client: str
    goes_to: str
    scopes: list[Choice]
    on: list[Choice]
    asked: dict[str, str]
    problem: str = ""


@dataclass(frozen=True)
class ProgramRow:
    """A program that writes for somebody: what it may do and when it did last, in words."""

    id: int
    name: str
    where: str
    may: str
    used: str


@dataclass(frozen=True)
class ProgramsPage:
    """`token` is a new one, shown this once."""

    TEMPLATE: ClassVar = "programs.html"
    bar: Bar
    rows: list[ProgramRow]
    on: list[Choice]
    scopes: list[Choice]
    typed: str = ""
    token: str = ""
    told: str = ""
    problem: str = ""

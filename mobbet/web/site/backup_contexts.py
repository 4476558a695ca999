"""The context of the screen about backups."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.web.shell.contexts import Bar


@dataclass(frozen=True)
class BackupRow:
    """A place for backups: what came of the last one, its rhythm in words and as it is chosen, and its copies in a line each."""

    id: int
    address: str
    is_encrypted: bool
    is_asked: bool
    problem: str
    state: str
    rhythm: str
    every: str
    hour: int
    checks: str
    count: str
    copies: list[str]


@dataclass(frozen=True)
class BackupsPage:
    """`sentence` says how backups stand; `key` is a new key, shown once; `may_keep` is false for who does not own every blog."""

    TEMPLATE: ClassVar = "backups.html"
    bar: Bar
    sentence: str
    bad: list[str]
    may_keep: bool
    rows: list[BackupRow]
    is_making: bool
    kinds: list[tuple[str, str]]
    has_stores: bool
    times: list[tuple[str, str]]
    checking: list[tuple[str, str]]
    key: str = ""
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

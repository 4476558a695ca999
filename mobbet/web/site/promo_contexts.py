"""What the template of the blocks below posts shows."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice
    from mobbet.web.site.sentence_contexts import Sentence


@dataclass(frozen=True)
class RuleSlip:
    """One rule: its number, the name of its block, its sentences, and what keeps it from being shown at all ('' for nothing)."""

    number: int
    block: str
    sentences: list[Sentence]
    problem: str


@dataclass(frozen=True)
class TriedPost:
    """What each rule does below one post: (the block, whether it stands there, why)."""

    title: str
    write: str
    rules: list[tuple[str, bool, str]]


@dataclass(frozen=True)
class PromosPage:
    TEMPLATE: ClassVar = "promos.html"
    bar: Bar
    sentences: list[Sentence]
    rules: list[RuleSlip]
    blocks: list[Choice]
    """The saved blocks, to add a rule for."""
    titles: list[str]
    tried_post: TriedPost | None
    is_tried: bool
    since: str
    can_undo: bool
    told: str = ""
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)

"""What the template of the house shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar
    from mobbet.web.site.sentence_contexts import Sentence, Word


@dataclass(frozen=True)
class HousePage:
    TEMPLATE: ClassVar = "house.html"
    bar: Bar
    pages: str
    """How many pages show it, in words."""
    public: str
    groups: list[tuple[str, list[Sentence]]]
    """(heading, sentences) of each part."""
    state: Word
    """Whom the site answers."""
    is_tried: bool
    tried: list[str]
    """What differs from what readers have, in words."""
    since: str
    can_undo: bool
    told: str = ""

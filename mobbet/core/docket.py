"""The docket of a post: one table of its lines, used by the post that is worked on, by what a placement froze, and by what readers get.

A new line is a field here with its row in LINES, its columns in a migration, its words in the docket's template, and the action that sets it.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from mobbet.core.audience import PASSWORD
from mobbet.core.comments import CLOSED, OPEN


@dataclass(frozen=True, kw_only=True)
class ShownLines:
    """The lines on which pages depend.

    `lead_media` is the picture of the library, `lead` the block that leads the post, where one was chosen; `heading` as in
    `core/headings.py`; `front` is 'top', 'off' or ''; `place` as in `core/geo.py`; `listed` what everyone finds of a post behind
    a password (`core/audience.LISTED`); `leads_to` the post its address redirects to once it came down; `comments` is 'closed', 'open' or '';
    `own_look` is how it differs from the look of the site (`core/look/own.py`); `alike` what was chosen of posts like it (`core/alike.py`); `sharing` is 'none' for a post without ways to share it;
    `letter`, `letter_subject` and `letter_line` are what it says of its letter to subscribers (`core/letters.py`);
    `announce` is 'none' for a post that is announced nowhere; `kind` as in `core/pages.KINDS`, `below` the page that a page stands below.
    """

    kind: str = ""
    below: int | None = None

    excerpt: str = ""
    description: str = ""
    series_id: int | None = None
    series_position: int = 0
    lead_media: int | None = None
    lead: str = ""
    heading: str = ""
    front: str = ""
    search_title: str = ""
    place: str = ""
    listed: str = ""
    leads_to: int | None = None
    language: str = ""
    comments: str = ""
    own_look: str = ""
    alike: str = ""
    sharing: str = ""
    announce: str = ""
    letter: str = ""
    letter_subject: str = ""
    letter_line: str = ""

    @property
    def is_page(self) -> bool:
        return bool(self.kind)

    @property
    def takes_comments(self) -> bool:
        """Whether readers may comment as far as the docket says: on a post unless it is closed, on a page once it is opened."""
        return self.comments == OPEN if self.is_page else self.comments != CLOSED


@dataclass(frozen=True, kw_only=True)
class Docket(ShownLines):
    """Every line that a placement freezes. In a post, `lead` is a reference (JSON, `core/document/leading.py`); frozen, it is its digest."""

    password_key: str = ""


class Working(Protocol):
    """What the frozen value of a line may depend on beside the line."""

    @property
    def visibility(self) -> str: ...
    @property
    def comes_down_wall(self) -> str | None: ...


@dataclass(frozen=True)
class Line:
    """One line of the docket: its columns, what it is called among what readers do not get yet, and whether a copy on another blog has it too."""

    columns: tuple[str, ...]
    words: str
    moves: bool = False


LINES = (
    Line(("kind",), "whether it is a post or a page", moves=True),
    Line(("below",), "the page it stands below"),
    Line(("password_key",), "the password"),
    Line(("listed",), "what lists show of it"),
    Line(("leads_to",), "what its address does then"),
    Line(("excerpt",), "the excerpt", moves=True),
    Line(("description",), "the description", moves=True),
    Line(("lead_media", "lead"), "what leads it"),
    Line(("heading",), "the heading", moves=True),
    Line(("own_look",), "its own background"),
    Line(("alike",), "the posts like it"),
    Line(("sharing",), "whether readers may share it"),
    Line(("announce",), "whether it is announced"),
    Line(("letter", "letter_subject", "letter_line"), "its letter"),
    Line(("front",), "its place on the front page"),
    Line(("search_title",), "the title for search engines", moves=True),
    Line(("place",), "the place", moves=True),
    Line(("language",), "the language", moves=True),
    Line(("comments",), "whether readers may comment", moves=True),
    Line(("series_id", "series_position"), "the series"),
)
COLUMNS = tuple(column for line in LINES for column in line.columns)
MOVING = tuple(column for line in LINES if line.moves for column in line.columns)
SHOWN = tuple(column for column in COLUMNS if column in ShownLines.__dataclass_fields__)

_FREEZE: dict[str, Callable[[Any], Any]] = {
    "below": lambda post: post.below if post.kind else None,
    "series_id": lambda post: None if post.kind else post.series_id,
    "series_position": lambda post: 0 if post.kind else post.series_position,
    "front": lambda post: "" if post.kind else post.front,
    "password_key": lambda post: post.password_key if post.visibility == PASSWORD else "",
    "listed": lambda post: post.listed if post.visibility == PASSWORD else "",
    "leads_to": lambda post: post.leads_to if post.comes_down_wall else None,
    "lead": lambda post: post.lead and json.loads(post.lead)["digest"],
}
"""The lines of which a placement keeps something else than the post has."""


def own_pictures(own_look: str) -> tuple[int, ...]:
    """The item of the library that a post has on top, where it has one (`core/look/own.py`)."""
    number = json.loads(own_look)["picture"] if own_look else 0
    return (number,) if number else ()


def frozen(post: Working, columns: tuple[str, ...] = COLUMNS) -> dict[str, Any]:
    """The lines as a placement made now freezes them, by column."""
    return {
        column: _FREEZE[column](post) if column in _FREEZE else getattr(post, column) for column in columns
    }


def differing(post: Working, placed: Docket) -> list[str]:
    """The lines of which a placement keeps another value than one made now would, in words."""
    now = frozen(post)
    return [
        line.words for line in LINES if any(now[column] != getattr(placed, column) for column in line.columns)
    ]

"""What the proof finds: a mark at a passage, how grave it is, and how it can be mended."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

MUST, SHOULD, COULD = "must", "should", "could"
SEVERITIES = (MUST, SHOULD, COULD)


@dataclass(frozen=True)
class Mend:
    """One way to mend a mark: its words on a button, and what it does.

    `operation` is {"do": "replace", "path", "start", "end", "text"} for words in a block, {"do": "replace-each", "path",
    "changes": [[start, end, text], …]} for several of them, {"do": "remove", "path"} for a whole block, {"do": "set", "path",
    "name", "value"} for an attribute of one, {"do": "heading", "path", "level"} for a paragraph made a heading, {"do": "link",
    "path", "start", "end", "href"} for where words lead, {"do": "paid", "path", "start", "end", "value"} for whether that is paid,
    {"do": "top-row", "path"} for a table whose first row becomes headings, or {"do": "docket", "sheet"} for a setting of the post.
    """

    words: str
    operation: dict[str, Any]


@dataclass(frozen=True)
class Mark:
    """One finding. `path` leads to the block in the document (() for the post as a whole), `start` and `end` are
    characters of the block's plain text; `text` is the passage it concerns.
    """

    check: str
    message: str
    text: str = ""
    path: tuple[int, ...] = ()
    start: int = 0
    end: int = 0
    severity: str = SHOULD
    mends: tuple[Mend, ...] = field(default=())
    others: tuple[tuple[tuple[int, ...], int, int], ...] = ()
    """The other places of the same word: (path, start, end), in reading order."""

    @property
    def sign(self) -> str:
        """What a mark is known by when it is ignored: its check and its passage, wherever that stands by then."""
        return f"{self.check}:{self.text or self.message}"


@dataclass(frozen=True)
class Why:
    """What a check is about: its name in words, two sentences that say why it matters, and an example."""

    name: str
    sentences: str
    example: str


def replaced(path: tuple[int, ...], start: int, end: int, text: str, words: str = "") -> Mend:
    """A mend that puts other words in the place of a passage."""
    return Mend(
        words or text, {"do": "replace", "path": list(path), "start": start, "end": end, "text": text}
    )


def docket(sheet: str, words: str) -> Mend:
    """A mend that opens a sheet of the docket."""
    return Mend(words, {"do": "docket", "sheet": sheet})

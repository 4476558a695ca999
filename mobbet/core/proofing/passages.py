"""The blocks of words of a document, with the links in them, and an even sample of their words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Any

from mobbet.core.document.text import plain
from mobbet.core.proofing.checks.words import words

Node = dict[str, Any]
TEXT_BLOCKS = ("paragraph", "heading")
QUIET = ("codeBlock", "rawHtml", "math")
"""Blocks that are not prose."""
PASSAGES, WORDS, LETTERS = 60, 12, 1500
"""Of so many passages, spread evenly over the text, so many words each are looked up, of so many letters at the most."""


@dataclass(frozen=True)
class Passage:
    """The words of one block of text. `runs` are (start, end, node) of its inline nodes; `language` is that of the post."""

    path: tuple[int, ...]
    node: Node
    text: str
    language: str
    runs: tuple[tuple[int, int, Node], ...]

    def language_at(self, start: int, end: int) -> str:
        """The language of a stretch: that of the passage, unless words in it are marked as of another."""
        found = (
            mark["attrs"]["language"]
            for first, last, node in self.runs
            if first < end and start < last
            for mark in node.get("marks", ())
            if mark["type"] == "language"
        )
        return next(found, self.language)

    def is_code(self, start: int, end: int) -> bool:
        return any(
            first < end and start < last and any(mark["type"] == "code" for mark in node.get("marks", ()))
            for first, last, node in self.runs
        )

    def is_plain(self, start: int, end: int) -> bool:
        """Whether a stretch holds no code and no address, and is not marked as of another language."""
        return not any(
            first < end
            and start < last
            and any(mark["type"] in ("code", "language") for mark in node.get("marks", ()))
            for first, last, node in self.runs
        )

    def links(self) -> Iterator[Link]:
        """The links in it, each with all its words."""
        current: Link | None = None
        for start, end, node in self.runs:
            attrs: dict[str, Any] = next(
                (mark["attrs"] for mark in node.get("marks", ()) if mark["type"] == "link"), {}
            )
            href = attrs.get("href")
            if current and (href != current.href or start != current.end):
                yield current
                current = None
            if href:
                current = Link(
                    self.path,
                    current.start if current else start,
                    end,
                    (current.words if current else "") + plain(node),
                    href,
                    bool(attrs.get("paid")),
                )
        if current:
            yield current


@dataclass(frozen=True)
class Link:
    """A link in the text, with all its words."""

    path: tuple[int, ...]
    start: int
    end: int
    words: str
    href: str
    is_paid: bool = False


def passages_of(block: Node, path: tuple[int, ...], language: str) -> Iterator[Passage]:
    """The passages in one block of the document."""
    if block["type"] in QUIET:
        return
    content = block.get("content", ())
    if content and content[0]["type"] in ("text", "lineBreak", "fillIn") or block["type"] in TEXT_BLOCKS:
        runs, at = [], 0
        for child in content:
            length = len(plain(child))
            runs.append((at, at + length, child))
            at += length
        yield Passage(path, block, "".join(plain(child) for child in content), language, tuple(runs))
        return
    for index, child in enumerate(content):
        yield from passages_of(child, (*path, index), language)


def sampled(passages: tuple[Passage, ...]) -> Iterator[str]:
    """The words of an even sample of a text."""
    written = [passage for passage in passages if passage.text]
    step = max(1, len(written) // PASSAGES)
    few, most = PASSAGES // max(1, len(written)), max(WORDS, 200 // max(1, len(written)))
    for passage in written[::step][:PASSAGES]:
        yield from _sample_of(passage, few, most)


def _sample_of(passage: Passage, few: int, most: int) -> Iterator[str]:
    """So many words of each of so many stretches of a passage, spread evenly over it."""
    parts = min(max(1, few), 1 + len(passage.text) // LETTERS)
    for part in range(parts):
        at = len(passage.text) * part // parts
        chosen = islice(words(passage.text[at : at + LETTERS]), 1 if at else 0, most + 1)
        yield from (match[0] for match in chosen if passage.is_plain(at + match.start(), at + match.end()))

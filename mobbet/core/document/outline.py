"""What a document says about itself: headings, words, reading time, pictures and teaser."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from mobbet.core.document.html import Html, entries
from mobbet.core.document.links import media_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.document.write import inline_html, to_text

Node = dict[str, Any]

WORDS_A_MINUTE = 230
SHOWING = ("picture", "sound", "video", "embed", "file")
"""The kinds of blocks that show something of the library."""
_WORD = re.compile(r"\w+(?:[’'-][\w’'-]*)?")
_IDEOGRAPH = re.compile(r"[\u3040-\u30ff\u3400-\u9fff]")


@dataclass(frozen=True)
class Heading:
    """One heading: its level, words, anchor in the page, and the index of its top-level block."""

    level: int
    words: str
    anchor: str
    block: int


def headings(document: Node) -> tuple[Heading, ...]:
    """The headings in order, with the anchors that HTML gives them."""
    blocks = [
        block
        for block, top in enumerate(document["content"])
        for node in ([top, *walk(top)])
        if node["type"] == "heading"
    ]
    return tuple(
        Heading(entry.level, entry.words, entry.anchor, block)
        for entry, block in zip(entries(document), blocks, strict=True)
    )


def count_words(document: Node) -> int:
    """How many words a reader reads; each ideograph of Chinese or Japanese counts as one."""
    text = to_text(document)
    if not _IDEOGRAPH.search(text):
        return len(_WORD.findall(text))
    return len(_IDEOGRAPH.findall(text)) + len(_WORD.findall(_IDEOGRAPH.sub(" ", text)))


def minutes(words: int) -> int:
    """Reading time in whole minutes, at least one."""
    return max(1, -(-words // WORDS_A_MINUTE))


def reading_time(words: int) -> str:
    """“a minute’s reading”, “4 minutes’ reading”; '' for no words."""
    if not words:
        return ""
    count = minutes(words)
    return "a minute’s reading" if count == 1 else f"{count} minutes’ reading"


def items(document: Node) -> tuple[int, ...]:
    """The library numbers of everything the text shows or offers, in order, each once."""
    sources = (
        node["attrs"].get(name) or ""
        for node in walk(document)
        if node["type"] in SHOWING
        for name in ("src", "poster")
    )
    numbers = map(media_number, sources)
    return tuple(dict.fromkeys(number for number in numbers if number is not None))


def said_of_items(document: Node) -> dict[int, tuple[str, str]]:
    """{library number: (its descriptions, all words that the text says of it)} of everything the text shows or offers."""
    found: dict[int, tuple[str, str]] = {}
    for node in walk(document):
        if node["type"] not in SHOWING:
            continue
        alt = str(node["attrs"].get("alt", ""))
        words = " ".join(
            filter(
                None, (alt, str(node["attrs"].get("title", "")), plain(node) if node.get("content") else "")
            )
        )
        for name in ("src", "poster"):
            number = media_number(node["attrs"].get(name) or "")
            if number is not None:
                before = found.get(number, ("", ""))
                found[number] = (f"{before[0]} {alt}".strip(), f"{before[1]} {words}".strip())
    return found


def teaser(document: Node) -> list[Node]:
    """The paragraphs with words that lists show: those above the teaser line, or else the first one."""
    blocks = document["content"]
    line = next((at for at, block in enumerate(blocks) if block["type"] == "teaserLine"), None)
    if line is None:
        first = next((block for block in blocks if _is_said(block)), None)
        return [first] if first else []
    return [node for top in blocks[:line] for node in [top, *walk(top)] if _is_said(node)]


def _is_said(node: Node) -> bool:
    """Whether a node is a paragraph with words."""
    return node["type"] == "paragraph" and bool(plain(node).strip())


def has_teaser_line(document: Node) -> bool:
    """Whether a teaser line has words above it."""
    return any(block["type"] == "teaserLine" for block in document["content"]) and bool(teaser(document))


def teaser_html(document: Node, html: Html | None = None) -> str:
    """The teaser as inline HTML; '' when there is none."""
    return " ".join(inline_html(_without_links(block["content"]), html) for block in teaser(document))


def teaser_text(document: Node, longest: int = 160) -> str:
    """The teaser's words, cut after a whole word with an ellipsis."""
    words = " ".join(" ".join(plain(block) for block in teaser(document)).split())
    return words if len(words) <= longest else words[:longest].rsplit(" ", 1)[0].rstrip(",;:. ") + "…"


def _without_links(nodes: list[Node]) -> list[Node]:
    """A teaser is itself inside a link's reach, so links in it are left out."""
    bare = []
    for node in nodes:
        marks = [mark for mark in node.get("marks", ()) if mark["type"] != "link"]
        bare.append(
            {**{k: v for k, v in node.items() if k != "marks"}, **({"marks": marks} if marks else {})}
        )
    return bare

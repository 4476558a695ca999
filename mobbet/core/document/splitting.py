"""Cutting a long text: into posts at headings, and a long paragraph by its sentences."""

from __future__ import annotations

import re
from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput

Node = dict[str, Any]

LONG_PARAGRAPH = 120
_SENTENCE_END = re.compile(r"[.!?…][\"”’)\]]*\s+(?=[\"“‘(\[]?[A-Z0-9À-Þ])")
_ABBREVIATION = re.compile(r"(?:\b[A-Z]|\b(?:Mr|Mrs|Ms|Dr|St|No|vs|etc|e\.g|i\.e|cf|approx|p|pp|ca))\.[\"”’)\]]*\s+$")


def split(document: Node, blocks: list[int], title: str) -> list[tuple[str, Node]]:
    """(title, document) of each part: cut before the top-level blocks with these indexes.

    A part that begins with a heading takes its title from it and loses the heading. Raises BadInput
    when a cut would leave the first part empty or stands outside the text.
    """
    content = document["content"]
    cuts = sorted(set(blocks))
    if not cuts or cuts[0] < 1 or cuts[-1] >= len(content):
        raise BadInput("Choose at least one heading, not the first block, to split the post at.", "blocks")
    parts = []
    for at, (start, end) in enumerate(zip([0, *cuts], [*cuts, len(content)], strict=True)):
        part = content[start:end]
        name = title
        if at:
            name = f"{title}, part {at + 1}" if title else f"Part {at + 1}"
            if part[0]["type"] == "heading" and plain(part[0]).strip():
                name, part = plain(part[0]).strip(), part[1:]
        parts.append((name[:300], schema.check({"type": "doc", "content": part})))
    return parts


def breaks(words: str) -> list[int]:
    """Where a paragraph of more than 120 words can be broken: letters after which a sentence ends."""
    if len(words.split()) <= LONG_PARAGRAPH:
        return []
    return [found.end() for found in _SENTENCE_END.finditer(words) if not _ABBREVIATION.search(words[: found.end()])]

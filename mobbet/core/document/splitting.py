"""Cutting a long text into posts at its headings."""

from __future__ import annotations

from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput

Node = dict[str, Any]


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

"""Headings: levels skipped, empty ones, and bold lines that act as one."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from mobbet.core.document.text import plain
from mobbet.core.proofing.marks import Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfWhole

LONGEST_LINE = 80


def check(material: Material) -> Iterator[Mark]:
    before = 1
    for at, block in enumerate(material.document.get("content", ())):
        words = plain(block).strip() if block["type"] in ("heading", "paragraph") else ""
        if block["type"] == "heading":
            level = block["attrs"]["level"]
            if not words:
                yield Mark(
                    "headings",
                    "This heading is empty; write it or remove it.",
                    "",
                    (at,),
                    mends=(Mend("Remove it", {"do": "remove", "path": [at]}),),
                )
                continue
            if level > before + 1:
                mend = Mend(
                    f"Make it level {before + 1}",
                    {"do": "set", "path": [at], "name": "level", "value": before + 1},
                )
                yield Mark(
                    "headings",
                    f"The level goes from {before} to {level}; readers who hear the page look for {before + 1}.",
                    words,
                    (at,),
                    0,
                    len(words),
                    mends=(mend,),
                )
            before = level
        elif words and len(words) <= LONGEST_LINE and words[-1] not in ".,;!?" and _is_all_bold(block):
            yield Mark(
                "headings",
                "This bold line acts as a heading; made one, it stands in the outline.",
                words,
                (at,),
                0,
                len(words),
                mends=(Mend("Make it a heading", {"do": "heading", "path": [at], "level": max(2, before)}),),
            )


def _is_all_bold(block: dict[str, Any]) -> bool:
    parts = [node for node in block.get("content", ()) if plain(node).strip()]
    return bool(parts) and all(
        any(mark["type"] == "strong" for mark in node.get("marks", ())) for node in parts
    )


CHECKS = (OfWhole(check),)
WHY = {
    "headings": Why(
        "Headings",
        "People who hear a page go through it by its headings, level by level. A bold line is no heading for them, and stands in no contents.",
        "2, 3, 3, 2",
    )
}

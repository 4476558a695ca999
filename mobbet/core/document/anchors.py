"""Anchors of headings that survive rewording: fixed when a post first goes out, carried from save to save."""

from __future__ import annotations

from difflib import SequenceMatcher
from typing import Any

from mobbet.core.document.html import entries
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain

Node = dict[str, Any]


def fixed(document: Node) -> Node:
    """The document with an anchor on every heading; those it has stay."""
    return _with_anchors(document, [entry.anchor for entry in entries(document)])


def carried(document: Node, before: Node) -> Node:
    """The document with the anchors that its headings had in the text before.

    A heading without an anchor takes that of the heading with its words; one that was reworded takes
    that of the heading in its place, between two that stayed.
    """
    new = [node for node in walk(document) if node["type"] == "heading"]
    old = [node for node in walk(before) if node["type"] == "heading"]
    if not any(node["attrs"]["anchor"] for node in old) or all(node["attrs"]["anchor"] for node in new):
        return document
    anchors = [node["attrs"]["anchor"] for node in new]
    taken = set(anchors)
    matcher = SequenceMatcher(
        None, [plain(node) for node in old], [plain(node) for node in new], autojunk=False
    )
    for kind, a, a_end, b, b_end in matcher.get_opcodes():
        if kind == "equal" or (kind == "replace" and a_end - a == b_end - b):
            pairs = zip(range(a, a_end), range(b, b_end), strict=True)
            _take(pairs, old, anchors, taken)
    by_words = {plain(node): node["attrs"]["anchor"] for node in old}
    for at, node in enumerate(new):
        anchor = by_words.get(plain(node), "")
        if not anchors[at] and anchor and anchor not in taken:
            anchors[at] = anchor
            taken.add(anchor)
    return _with_anchors(document, anchors)


def _take(pairs: Any, old: list[Node], anchors: list[str], taken: set[str]) -> None:
    for from_, to in pairs:
        anchor = old[from_]["attrs"]["anchor"]
        if anchor and not anchors[to] and anchor not in taken:
            anchors[to] = anchor
            taken.add(anchor)


def _with_anchors(document: Node, anchors: list[str]) -> Node:
    left = iter(anchors)

    def change(node: Node) -> Node:
        if node["type"] == "heading":
            return {**node, "attrs": {**node["attrs"], "anchor": next(left)}}
        return (
            {**node, "content": [change(child) for child in node["content"]]} if "content" in node else node
        )

    return change(document)

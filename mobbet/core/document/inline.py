"""Inline nodes on their way into blocks: white space at the edges goes, pictures are lifted out."""

from __future__ import annotations

from typing import Any

Node = dict[str, Any]

START = {"align": "start"}


def bare_words(words: str = "") -> Node:
    """A paragraph of plain words."""
    return {
        "type": "paragraph",
        "attrs": START,
        "content": [{"type": "text", "text": words}] if words else [],
    }


def paragraphs(inline: list[Node], attrs: dict[str, Any] = START) -> list[Node]:
    """Inline nodes as paragraphs; a picture among them, or two line breaks in a row, part two paragraphs."""
    return shelled(inline, {"type": "paragraph", "attrs": attrs}, is_parted=True)


def shelled(inline: list[Node], shell: Node, is_parted: bool = False) -> list[Node]:
    """Inline nodes in copies of a block, parted where a picture stands, or two line breaks if `is_parted`."""
    blocks: list[Node] = []
    line: list[Node] = []

    def close() -> None:
        words = trimmed(line)
        if words:
            blocks.append({**shell, "content": words})
        line.clear()

    for part in unbroken(inline):
        if part["type"] == "picture":
            close()
            blocks.append(part)
        elif is_parted and part["type"] == "lineBreak" and _ends_with_break(line):
            close()
        else:
            line.append(part)
    close()
    return blocks


def unbroken(line: list[Node]) -> list[Node]:
    """Without the line breaks of the source: one after `<br>` is nothing, any other a space."""
    for before, part in zip([None, *line], line, strict=False):
        if "\n" in part.get("text", ""):
            words = (
                part["text"].removeprefix("\n") if before and before["type"] == "lineBreak" else part["text"]
            )
            part["text"] = words.replace("\n", " ")
    return [part for part in line if part.get("text") != ""]


def trimmed(inline: list[Node]) -> list[Node]:
    """Without white space at the edges and around line breaks, and without double spaces."""
    kept: list[Node] = []
    for part in inline:
        if _folds(part):
            words = part["text"]
            if (
                not kept
                or kept[-1]["type"] == "lineBreak"
                or (_folds(kept[-1]) and kept[-1]["text"].endswith(" "))
            ):
                words = words.lstrip(" ")
            if not words:
                continue
            part = {**part, "text": words}
        elif part["type"] == "lineBreak":
            kept = _without_end(kept)
            if not kept:
                continue
        kept.append(part)
    while kept and kept[-1]["type"] == "lineBreak":
        kept.pop()
    return _without_end(kept)


def _folds(part: Node) -> bool:
    """Whether white space at the edges of a part says nothing: code keeps its own."""
    return part["type"] == "text" and not any(mark["type"] == "code" for mark in part.get("marks", ()))


def _ends_with_break(line: list[Node]) -> bool:
    for part in reversed(line):
        if part["type"] == "lineBreak":
            return True
        if part["type"] != "text" or part["text"].strip():
            return False
    return False


def _without_end(kept: list[Node]) -> list[Node]:
    while kept and _folds(kept[-1]):
        words = kept[-1]["text"].rstrip(" ")
        if words:
            return [*kept[:-1], {**kept[-1], "text": words}]
        kept = kept[:-1]
    return kept

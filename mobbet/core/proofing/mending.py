"""Does what a mend says to a document; the document itself never changes."""

from __future__ import annotations

from collections.abc import Callable
from copy import deepcopy
from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput

Node = dict[str, Any]


def mended(document: Node, operation: dict[str, Any]) -> Node:
    """The document after a mend, checked. Raises BadInput where the passage is no longer there."""
    do = _DO.get(operation["do"])
    if do is None:
        raise BadInput("This is settled on the docket, not in the text.", "mend")
    changed = deepcopy(document)
    try:
        do(changed, operation)
    except (IndexError, KeyError, ValueError):
        raise BadInput("The text changed meanwhile; read the proof again.", "mend") from None
    if not changed.get("content"):
        changed["content"] = deepcopy(schema.EMPTY["content"])
    return schema.check(changed)


def _at(document: Node, path: list[int]) -> Node:
    node = document
    for index in path:
        node = node["content"][index]
    return node


def _parted(block: Node, start: int, end: int) -> tuple[list[Node], list[Node], list[Node]]:
    """The inline nodes before a stretch of a block's text, in it, and after it; texts are cut where it begins and ends."""
    parts: tuple[list[Node], list[Node], list[Node]] = ([], [], [])
    at = 0
    for child in block.get("content", ()):
        words = plain(child)
        last = at + len(words)
        if child["type"] != "text":
            parts[0 if last <= start else 1 if at < end else 2].append(child)
        else:
            for part, (first, until) in enumerate(((at, start), (start, end), (end, last))):
                piece = (
                    words[max(first, at) - at : max(0, min(until, last) - at)]
                    if first < last and until > at
                    else ""
                )
                if piece:
                    parts[part].append({**child, "text": piece})
        at = last
    if end > at or start > end:
        raise ValueError("beyond the block")
    return parts


def _put(block: Node, parts: list[Node]) -> None:
    joined: list[Node] = []
    for node in parts:
        if (
            joined
            and node["type"] == "text" == joined[-1]["type"]
            and node.get("marks") == joined[-1].get("marks")
        ):
            joined[-1] = {**joined[-1], "text": joined[-1]["text"] + node["text"]}
        else:
            joined.append(node)
    if joined:
        block["content"] = joined
    else:
        block.pop("content", None)


def _replace(document: Node, operation: dict[str, Any]) -> None:
    _replaced(_at(document, operation["path"]), operation["start"], operation["end"], operation["text"])


def _replaced(block: Node, start: int, end: int, text: str) -> None:
    before, inside, after = _parted(block, start, end)
    marks = (
        next((node["marks"] for node in inside or before[-1:] if node.get("marks")), None)
        if inside or before
        else None
    )
    shared = [mark for mark in marks or () if all(mark in node.get("marks", ()) for node in inside)]
    put = [{"type": "text", "text": text, **({"marks": shared} if shared else {})}] if text else []
    _put(block, [*before, *put, *after])


def _replace_each(document: Node, operation: dict[str, Any]) -> None:
    for start, end, text in sorted(operation["changes"], reverse=True):
        _replaced(_at(document, operation["path"]), start, end, text)


def _remove(document: Node, operation: dict[str, Any]) -> None:
    *above, last = operation["path"]
    del _at(document, above)["content"][last]


def _set(document: Node, operation: dict[str, Any]) -> None:
    _at(document, operation["path"])["attrs"][operation["name"]] = operation["value"]


def _heading(document: Node, operation: dict[str, Any]) -> None:
    block = _at(document, operation["path"])
    words = [
        {key: value for key, value in node.items() if key != "marks"} | _without(node, "strong")
        for node in block.get("content", ())
    ]
    block.clear()
    block.update({"type": "heading", "attrs": {"level": operation["level"]}, "content": words})


def _without(node: Node, name: str) -> dict[str, Any]:
    marks = [mark for mark in node.get("marks", ()) if mark["type"] != name]
    return {"marks": marks} if marks else {}


def _link(document: Node, operation: dict[str, Any]) -> None:
    def lead(mark: Node | None) -> Node:
        return {"type": "link", "attrs": {**(mark or {}).get("attrs", {}), "href": operation["href"]}}

    _marked(document, operation, lead)


def _paid(document: Node, operation: dict[str, Any]) -> None:
    _marked(
        document,
        operation,
        lambda mark: (
            {"type": "link", "attrs": {**mark["attrs"], "paid": operation["value"]}} if mark else None
        ),
    )


def _marked(document: Node, operation: dict[str, Any], change: Callable[[Node | None], Node | None]) -> None:
    """Puts the link of each inline node of a stretch in another form."""
    block = _at(document, operation["path"])
    before, inside, after = _parted(block, operation["start"], operation["end"])
    changed = []
    for node in inside:
        link = next((mark for mark in node.get("marks", ()) if mark["type"] == "link"), None)
        now = change(link)
        others = [mark for mark in node.get("marks", ()) if mark["type"] != "link"]
        changed.append({**node, "marks": [*([now] if now else []), *others]})
    _put(block, [*before, *changed, *after])


def _top_row(document: Node, operation: dict[str, Any]) -> None:
    first = _at(document, operation["path"])["content"][0]
    first["content"] = [{**cell, "type": "tableHeader"} for cell in first["content"]]


_DO: dict[str, Callable[[Node, dict[str, Any]], None]] = {
    "replace": _replace, "replace-each": _replace_each, "remove": _remove, "set": _set, "heading": _heading, "link": _link, "paid": _paid, "top-row": _top_row,
}  # fmt: skip

"""What a document refers to: posts it leads to, standing copies it shows; and putting those copies in."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from mobbet.core.document.links import post_number

Node = dict[str, Any]

DEEPEST = 3
"""How deep standing copies may show each other."""


def walk(node: Node) -> Iterator[Node]:
    """Every node below this one, in reading order."""
    waiting = list(reversed(node.get("content", ())))
    while waiting:  # a generator in a generator would cost twice as much
        child = waiting.pop()
        yield child
        if "content" in child:
            waiting.extend(reversed(child["content"]))


def linked_posts(document: Node) -> tuple[int, ...]:
    """The numbers of the posts that links and buttons lead to, each once, in order."""
    found: dict[int, None] = {}
    for node in walk(document):
        addresses = [mark["attrs"]["href"] for mark in node.get("marks", ()) if mark["type"] == "link"]
        addresses += [node["attrs"]["address"]] if node["type"] in ("button", "quote") else []
        found.update({number: None for number in map(post_number, addresses) if number})
    return tuple(found)


def standing_copies(document: Node) -> tuple[int, ...]:
    """The numbers of the standing copies shown, each once, in order."""
    return tuple(
        dict.fromkeys(node["attrs"]["copy"] for node in walk(document) if node["type"] == "standing")
    )


def expanded(document: Node, copy: Callable[[int], Node | None], depth: int = 0) -> Node:
    """The document with every standing copy replaced by its blocks; `copy` answers with one as a document.

    A copy that is unknown, or stands in itself, leaves nothing.
    """
    if not any(node["type"] == "standing" for node in walk(document)):
        return document
    return {**document, "content": _put_in(document["content"], copy, depth)}


def _put_in(nodes: list[Node], copy: Callable[[int], Node | None], depth: int) -> list[Node]:
    placed: list[Node] = []
    for node in nodes:
        if node["type"] == "standing":
            found = copy(node["attrs"]["copy"]) if depth < DEEPEST else None
            placed += _put_in(found["content"], copy, depth + 1) if found else []
        elif "content" in node:
            placed.append({**node, "content": _put_in(node["content"], copy, depth)})
        else:
            placed.append(node)
    return placed or [{"type": "paragraph", "attrs": {"align": "start"}}]


def outside_addresses(document: Node) -> tuple[str, ...]:
    """The addresses on other sites that links, buttons, quotes, pictures and embeds lead to, each once, in order."""
    found: dict[str, None] = {}
    for node in walk(document):
        addresses = [mark["attrs"]["href"] for mark in node.get("marks", ()) if mark["type"] == "link"]
        addresses += [node["attrs"]["address"]] if node.get("attrs", {}).get("address") else []
        found.update({address: None for address in addresses if address.startswith(("http://", "https://"))})
    return tuple(found)

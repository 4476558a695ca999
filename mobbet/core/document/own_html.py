"""Reads the elements that Mobbet itself writes for the kinds that HTML has none for."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

from mobbet.core import languages
from mobbet.core.document.composed import SUBSCRIBE_TO
from mobbet.core.document.elements import Element
from mobbet.core.document.html import LIST_TYPES
from mobbet.core.document.links import clean_address
from mobbet.core.document.nodes import NODE, SHARES, defaults
from mobbet.core.document.palette import NAMES
from mobbet.core.document.signs import SIGNS
from mobbet.core.media.places import LAYOUTS

Node = dict[str, Any]
Blocks = Callable[[Element], list[Node]]


def read(element: Element, blocks: Blocks) -> list[Node] | None:
    """The nodes that an element of Mobbet's own stands for; None for any other element.

    `blocks` reads the content of an element.
    """
    for name, reader in _READERS.items():
        if name in element.attrs:
            return reader(element, blocks)
    if element.tag == "div" and element.has_class("beside"):
        return _beside(element, blocks)
    if element.tag == "p" and element.has_class("put-button"):
        return _button(element)
    if element.tag == "p" and element.attrs.get("data-kind") == "file":
        return _file(element)
    if element.tag == "hr" and element.has_class("teaser-line"):
        return [{"type": "teaserLine"}]
    return None


def mark_of(element: Element) -> Node | None:
    """The mark that an element with one of Mobbet's own classes stands for."""
    for name in element.attrs.get("class", "").split():
        kind, _, value = name.partition("-")
        if kind == "step" and value in ("-2", "-1", "1", "2", "3"):
            return {"type": "size", "attrs": {"step": int(value)}}
        if kind in ("tint", "marker") and value in NAMES:
            return {"type": kind, "attrs": {kind: value}}
        if name == "language" and re.fullmatch(languages.TAG, element.attrs.get("lang", "")):
            return {"type": "language", "attrs": {"language": element.attrs["lang"]}}
    return None


def align_of(element: Element) -> str:
    return next((align for align in ("centre", "end") if element.has_class(f"align-{align}")), "start")


def list_attrs(element: Element) -> dict[str, Any]:
    """The sign of a bullet list, or the start and the numbers of a numbered one; and whether it is loose."""
    loose = element.has_class("loose") or _is_loose(element)
    if element.tag == "ul":
        sign = next(
            (name[5:] for name in element.attrs.get("class", "").split() if name.startswith("sign-")), "disc"
        )
        return {
            "sign": sign if sign in ("circle", "square", "tick", "star", "arrow") else "disc",
            "loose": loose,
        }
    start = element.attrs.get("start", "")
    kinds = {letter: name for name, letter in LIST_TYPES.items()}
    numbers = (
        "lower-greek" if element.has_class("numbers-greek") else kinds.get(element.attrs.get("type", ""))
    )
    style = element.style().get("list-style-type", "")
    if numbers is None:
        numbers = {"lower-latin": "lower-alpha", "upper-latin": "upper-alpha"}.get(style, style)
    numbers = numbers if numbers in {*LIST_TYPES, "lower-greek"} else "decimal"
    return {
        "start": int(start) if re.fullmatch(r"[0-9]{1,9}", start) else 1,
        "numbers": numbers,
        "loose": loose,
    }


def _is_loose(element: Element) -> bool:
    """Whether an item begins with a `<p>` on a line of its own: then every item is set apart.

    Word processors write `<li><p>` in one, and mean nothing by it.
    """
    for item in element.elements():
        if item.tag != "li":
            continue
        inner = [child for child in item.children if not isinstance(child, str) or child.strip()]
        is_apart = bool(item.children) and isinstance(item.children[0], str) and "\n" in item.children[0]
        first = inner[0] if inner else ""
        if is_apart and not isinstance(first, str) and _is_paragraph(first) and not first.attrs:
            return True
    return False


def _is_paragraph(child: Element | str) -> bool:
    """Whether a `<p>` holds words, and not a picture or a button."""
    if isinstance(child, str) or child.tag != "p" or child.has_class("put-button"):
        return False
    return bool(child.words().strip()) or not any(inner.tag == "img" for inner in child.elements())


def _callout(element: Element, blocks: Blocks) -> list[Node]:
    attrs = defaults("callout")
    sign = element.attrs["data-callout"]
    attrs["sign"] = sign if sign in SIGNS else attrs["sign"]
    tint = next((name[5:] for name in element.attrs.get("class", "").split() if name.startswith("wash-")), "")
    attrs["tint"] = tint if tint in NAMES else attrs["tint"]
    content: list[Node] = []
    for child in element.elements():
        if child.has_class("callout-title"):
            attrs["title"] = child.words()
        elif child.tag != "svg":
            content += blocks(child)
    return [{"type": "callout", "attrs": attrs, "content": content}]


def _button(element: Element) -> list[Node]:
    link = element.find("a")
    if link is None:
        return []
    weight = "quiet" if link.has_class("button-quiet") else "strong"
    attrs = {
        "words": link.words(),
        "address": clean_address(link.attrs.get("href", "")) or "",
        "weight": weight,
    }
    return [{"type": "button", "attrs": attrs}]


def _beside(element: Element, blocks: Blocks) -> list[Node]:
    sides = [child for child in element.elements() if child.has_class("side")]
    if len(sides) != 2:
        return blocks(element)
    share = next(
        (int(name[6:]) for name in element.attrs["class"].split() if re.fullmatch(r"share-\d\d", name)), 50
    )
    content = [{"type": "side", "content": blocks(side)} for side in sides]
    return [{"type": "beside", "attrs": {"share": share if share in SHARES else 50}, "content": content}]


def _contents(element: Element, blocks: Blocks) -> list[Node]:
    depth = element.attrs["data-depth"]
    return [{"type": "contents", "attrs": {"depth": int(depth) if depth in "23456" and depth else 3}}]


def _subscribe(element: Element, blocks: Blocks) -> list[Node]:
    what = element.attrs["data-subscribe"]
    attrs = {"words": element.words()[:120], "what": what if what in SUBSCRIBE_TO else "all"}
    return [{"type": "subscribe", "attrs": attrs}]


def _ask(element: Element, blocks: Blocks) -> list[Node]:
    return _in_data(element, blocks, "ask")


def _review(element: Element, blocks: Blocks) -> list[Node]:
    return _in_data(element, blocks, "review")


def _in_data(element: Element, blocks: Blocks, kind: str) -> list[Node]:
    """A block that stands as JSON in `data-<kind>`; what cannot be of it is left out."""
    try:
        given = json.loads(element.attrs[f"data-{kind}"])
    except (ValueError, RecursionError):
        given = None
    if not isinstance(given, dict):
        return blocks(element)
    attrs = defaults(kind)
    for row in NODE[kind].attributes:
        value = row.read(given.get(row.name))
        attrs[row.name] = attrs[row.name] if value is None else value
    return [{"type": kind, "attrs": attrs}]


def _raw(element: Element, blocks: Blocks) -> list[Node]:
    return [{"type": "rawHtml", "attrs": {"html": element.attrs["data-source"][:100_000]}}]


def _standing(element: Element, blocks: Blocks) -> list[Node]:
    number = element.attrs["data-standing"]
    if not re.fullmatch(r"[1-9][0-9]{0,11}", number):
        return blocks(element)
    return [{"type": "standing", "attrs": {"copy": int(number)}}]


def settings_of(element: Element, kind: str) -> Node:
    """The attributes of a node in `data-settings`; those that cannot be are left out."""
    try:
        given = json.loads(element.attrs.get("data-settings", "{}"))
    except (ValueError, RecursionError):
        given = {}
    read = {
        row.name: row.read(given[row.name])
        for row in NODE[kind].attributes
        if isinstance(given, dict) and row.name in given
    }
    return {name: value for name, value in read.items() if value is not None}


def is_whole(attrs: Node, kind: str) -> bool:
    """Whether every attribute is there that a kind must have."""
    return all(row.name in attrs for row in NODE[kind].attributes if row.is_required)


def _file(element: Element) -> list[Node]:
    attrs = settings_of(element, "file")
    return [{"type": "file", "attrs": attrs}] if is_whole(attrs, "file") else []


def _gallery(element: Element, blocks: Blocks) -> list[Node]:
    """The pictures of a gallery, and after it whatever else stood in it."""
    found, layout = blocks(element), element.attrs["data-layout"]
    pictures = [node for node in found if node["type"] == "picture"]
    attrs = {"layout": layout if layout in LAYOUTS else "rows"}
    return [
        *([{"type": "gallery", "attrs": attrs, "content": pictures}] if pictures else []),
        *(node for node in found if node["type"] != "picture"),
    ]


_READERS: dict[str, Callable[[Element, Blocks], list[Node]]] = {
    "data-ask": _ask,
    "data-callout": _callout,
    "data-depth": _contents,
    "data-layout": _gallery,
    "data-review": _review,
    "data-source": _raw,
    "data-standing": _standing,
    "data-subscribe": _subscribe,
}

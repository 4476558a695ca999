"""Checks a tree against the node table and brings it into its one normal form.

Normal form: attributes complete and clean, marks in the table's order and without doubles, adjacent
text with equal marks joined, no empty text, no empty `content`, `marks` or `attrs`.
"""

from __future__ import annotations

import json
import re
from functools import lru_cache
from typing import Any

import orjson

from mobbet.core.document import tables
from mobbet.core.document.attributes import Attribute
from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.document.nodes import MARK, NODE, RANK, NodeType
from mobbet.core.errors import BadDocument

Node = dict[str, Any]
Place = tuple[Any, ...]
"""Where a node stands: () is the document, (place of its parent, index) any other node."""

DEEPEST = 50
MOST_NODES = 200_000
MOST_BYTES = 5_000_000
PARAGRAPH: Node = {"type": "paragraph", "attrs": {"align": "start"}}
EMPTY: Node = {"type": "doc", "content": [PARAGRAPH]}


def read(source: str | bytes) -> Node:
    """The document in a JSON text. Raises BadDocument when it is none."""
    if len(source) > MOST_BYTES:
        raise BadDocument(
            f"The text is larger than {MOST_BYTES // 1_000_000} MB; split it into several posts."
        )
    try:
        tree = json.loads(source)
    except (ValueError, RecursionError):
        raise BadDocument("This is not a document in JSON; check that the whole text was sent.") from None
    return check(tree)


def check(tree: Any) -> Node:
    """The normal form of a tree. Raises BadDocument, naming the place, when it breaks the table."""
    if not isinstance(tree, dict) or tree.get("type") != "doc":
        raise BadDocument("A document must be a node of the type “doc”.")
    return _Check().node(tree, (), 0)


def load(kept: str) -> Node:
    """A document as it was kept; attributes that its kinds got since then have their defaults."""
    return _complete(orjson.loads(kept))


def _complete(node: Node) -> Node:
    row = NODE[node["type"]]
    if len(node.get("attrs", ())) < len(row.attributes):
        node["attrs"] = {
            **{attribute.name: attribute.default for attribute in row.attributes},
            **node.get("attrs", {}),
        }
    for mark in node.get("marks", ()):
        for attribute in MARK[mark["type"]].attributes:
            mark["attrs"].setdefault(attribute.name, attribute.default)
    for child in node.get("content", ()):
        _complete(child)
    return node


def _told(place: Place) -> str:
    """A place in words, such as `block 3 > part 1`."""
    if not place:
        return "the document"
    parent, index = place
    return f"{_told(parent)} > part {index + 1}" if parent else f"block {index + 1}"


class _Check:
    def __init__(self) -> None:
        self.count = 0

    def node(self, tree: Any, place: Place, depth: int) -> Node:
        row = self._row(tree, place, depth)
        if row.name == "text":
            return self._text(tree, place)
        node: Node = {"type": row.name}
        attrs = _attributes(tree, row.attributes, f"“{row.name}”", place)
        if attrs:
            node["attrs"] = attrs
        content = self._content(tree, row, place, depth)
        if content:
            node["content"] = content
        marks = _marks(tree.get("marks"), place) if row.is_marked else []
        if marks:
            node["marks"] = marks
        return _settled(node)

    def _row(self, tree: Any, place: Place, depth: int) -> NodeType:
        if depth > DEEPEST:
            raise BadDocument(
                f"Blocks are nested more than {DEEPEST} deep; take some out of their lists or quotes.",
                _told(place),
            )
        self.count += 1
        if self.count > MOST_NODES:
            raise BadDocument(f"The text has more than {MOST_NODES:,} parts; split it into several posts.")
        if not isinstance(tree, dict):
            raise BadDocument("A node must be an object with a “type”.", _told(place))
        kind = tree.get("type")
        row = NODE.get(kind) if isinstance(kind, str) else None
        if row is None or (row.name == "doc" and depth):
            raise BadDocument(
                f"There is no kind of block named {json.dumps(tree.get('type'))[:60]}.", _told(place)
            )
        return row

    def _text(self, tree: Node, place: Place) -> Node:
        words = tree.get("text")
        if not isinstance(words, str):
            raise BadDocument("A text must hold words.", _told(place))
        node: Node = {"type": "text", "text": UNPRINTABLE.sub("", words)}
        if tree.get("marks"):
            node["marks"] = _marks(tree["marks"], place)
        return node

    def _content(self, tree: Node, row: NodeType, place: Place, depth: int) -> list[Node]:
        raw = tree.get("content") or []
        if not isinstance(raw, list):
            raise BadDocument("The content must be a list of nodes.", _told(place))
        children = [self.node(child, (place, index), depth + 1) for index, child in enumerate(raw)]
        if row.content in ("inline*", "text*"):
            children = _join_text(children, row)
        elif row.content.endswith("+") and not children:
            children = [PARAGRAPH] if row.content in ("block+", "(block | top)+") else []
        _fits(children, row, place)
        return children


def _settled(node: Node) -> Node:
    """The node with what follows from its content: tables are square, lists of more paragraphs an item loose."""
    if node["type"] == "table":
        return tables.squared(node)
    if "loose" in node.get("attrs", ()):
        has_words = any("content" in item["content"][0] for item in node["content"])
        has_more = any(
            len(item["content"]) > 1 and item["content"][1]["type"] == "paragraph" for item in node["content"]
        )
        node["attrs"]["loose"] = has_words and (has_more or node["attrs"]["loose"])
    return node


def _fits(children: list[Node], row: NodeType, place: Place) -> None:
    """Raises BadDocument unless the children match the row's content expression."""
    names = [child["type"] for child in children]
    allowed, whole = _expression(row.content)
    for name in names:
        if name not in allowed:
            raise BadDocument(f"“{name}” cannot stand in “{row.name}”.", _told(place))
    if whole.fullmatch("".join(f"{name} " for name in names)):
        return
    if not names:
        raise BadDocument(f"“{row.name}” cannot be empty.", _told(place))
    raise BadDocument(f"“{row.name}” must hold: {row.content}.", _told(place))


@lru_cache(maxsize=64)
def _expression(content: str) -> tuple[frozenset[str], re.Pattern[str]]:
    """A ProseMirror content expression as the names it allows, and a pattern for names that each end in a space."""
    allowed: set[str] = set()

    def alternatives(match: re.Match[str]) -> str:
        names = [row.name for row in NODE.values() if match.group() in (row.name, row.group)]
        allowed.update(names)
        return "(?:" + "|".join(f"{name} " for name in names) + ")"

    pattern = "".join(
        re.sub(r"\w+", alternatives, term)
        for term in "|".join(part.strip() for part in content.split("|")).split()
    )
    return frozenset(allowed), re.compile(pattern)


def _join_text(children: list[Node], row: NodeType) -> list[Node]:
    joined: list[Node] = []
    for child in children:
        if child["type"] == "text":
            if not row.marks:
                child = {"type": "text", "text": re.sub(r"\r\n?", "\n", child["text"])}
            else:
                child = {**child, "text": re.sub(r"[\r\n]+", " ", child["text"])}
            if not child["text"]:
                continue
            if joined and joined[-1]["type"] == "text" and joined[-1].get("marks") == child.get("marks"):
                joined[-1] = {**joined[-1], "text": joined[-1]["text"] + child["text"]}
                continue
        joined.append(child)
    return joined


def _marks(raw: Any, place: Place) -> list[Node]:
    if not raw:
        return []
    if not isinstance(raw, list):
        raise BadDocument("The marks must be a list.", _told(place))
    marks: dict[str, Node] = {}
    for mark in raw:
        name = mark.get("type") if isinstance(mark, dict) else None
        row = MARK.get(name) if isinstance(name, str) else None
        if row is None or name is None:
            raise BadDocument(f"There is no mark named {json.dumps(name)[:60]}.", _told(place))
        attrs = _attributes(mark, row.attributes, f"the mark “{name}”", place)
        marks[name] = {"type": name, "attrs": attrs} if attrs else {"type": name}
    return sorted(marks.values(), key=lambda mark: RANK[mark["type"]])


def _attributes(tree: Node, rows: tuple[Attribute, ...], owner: str, place: Place) -> dict[str, Any]:
    """The attributes of the table; others are left out."""
    if not rows:
        return {}
    given = tree.get("attrs") or {}
    if not isinstance(given, dict):
        raise BadDocument("The attributes must be an object.", _told(place))
    values = {}
    for row in rows:
        if row.name not in given and not row.is_required:
            values[row.name] = row.default
            continue
        value = row.read(given.get(row.name))
        if value is None:
            raise BadDocument(
                f"{owner} cannot have {json.dumps(given.get(row.name))[:80]} as its “{row.name}”.",
                _told(place),
            )
        values[row.name] = value
    return values

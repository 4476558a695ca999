"""A book as a value: its chapters, of kinds of blocks that every format has."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mobbet.core.document.mentions import expanded
from mobbet.core.document.review import overall, shown

Node = dict[str, Any]


@dataclass(frozen=True)
class Picture:
    """A picture of a book: its bytes, one of the types image/jpeg, image/png, image/gif, and its size in pixels."""

    data: bytes
    type: str
    width: int
    height: int


@dataclass(frozen=True)
class Chapter:
    """A post: its title, a line below it, by whom and of when it is, where it is on the web ('' for nowhere), its text, and when it went out and was
    changed (RFC 3339, '' for never)."""

    key: int
    title: str
    subtitle: str
    author: str
    date: str
    address: str
    document: Node
    published: str = ""
    changed: str = ""


@dataclass(frozen=True)
class Book:
    """Chapters in their order. `id` is the same for the same book, `language` a tag (BCP 47), `changed_at` RFC 3339; `pictures` is {`src` in texts: picture}."""

    id: str
    title: str
    author: str
    language: str
    changed_at: str
    chapters: tuple[Chapter, ...]
    pictures: dict[str, Picture]


def printable(
    document: Node, copy: Callable[[int], Node | None], values: dict[str, str], address: Callable[[str], str]
) -> Node:
    """A text of paragraphs, headings, lists, quotes, code, rules, pictures and tables alone.

    `copy` gives saved blocks, `values` those of fill-ins, `address` the whole address of a link or a file, '' for one that leads nowhere. What readers
    fill in or what is played becomes a line that says so, or nothing.
    """
    whole = expanded(document, copy)
    return {"type": "doc", "content": _blocks(whole["content"], _Context(values, address))}


@dataclass(frozen=True)
class _Context:
    values: dict[str, str]
    address: Callable[[str], str]


def _blocks(nodes: list[Node], context: _Context) -> list[Node]:
    return [found for node in nodes for found in _BLOCKS.get(node["type"], _left_out)(node, context)]


def _left_out(node: Node, context: _Context) -> list[Node]:
    return []


def _inline(nodes: list[Node], context: _Context) -> list[Node]:
    found = []
    for node in nodes:
        if node["type"] == "fillIn":
            node = {
                "type": "text",
                "text": context.values.get(node["attrs"]["name"], ""),
                "marks": node.get("marks", []),
            }
        if node["type"] == "text" and node["text"]:
            found.append(
                {"type": "text", "text": node["text"], "marks": _marks(node.get("marks", ()), context)}
            )
        elif node["type"] == "lineBreak":
            found.append({"type": "lineBreak"})
    return found


def _marks(marks: Any, context: _Context) -> list[Node]:
    found = []
    for mark in marks:
        if mark["type"] == "link":
            where = context.address(mark["attrs"]["href"])
            if where:
                found.append({"type": "link", "attrs": {"href": where}})
        elif mark["type"] in (
            "strong",
            "emphasis",
            "underline",
            "strike",
            "superscript",
            "subscript",
            "code",
        ):
            found.append({"type": mark["type"]})
    return found


def _words(text: str, *marks: str, href: str = "") -> Node:
    links = [{"type": "link", "attrs": {"href": href}}] if href else []
    return {"type": "text", "text": text, "marks": [*({"type": mark} for mark in marks), *links]}


def paragraph(*nodes: Node) -> Node:
    return {"type": "paragraph", "content": list(nodes)}


def _text_block(node: Node, context: _Context) -> list[Node]:
    return [
        {
            "type": node["type"],
            "attrs": node.get("attrs", {}),
            "content": _inline(node.get("content", []), context),
        }
    ]


def _within(node: Node, context: _Context) -> list[Node]:
    return _blocks(node.get("content", []), context)


def _list(node: Node, context: _Context) -> list[Node]:
    items = [{"type": "listItem", "content": _blocks(item["content"], context)} for item in node["content"]]
    return [
        {"type": node["type"], "attrs": {"start": node.get("attrs", {}).get("start", 1)}, "content": items}
    ]


def _quote(node: Node, context: _Context) -> list[Node]:
    content = _blocks(node["content"], context)
    source = node["attrs"].get("source", "")
    if source:
        where = context.address(node["attrs"]["address"]) if node["attrs"].get("address") else ""
        content.append(paragraph(_words(f"— {source}", href=where)))
    return [{"type": "quote", "content": content}]


def _callout(node: Node, context: _Context) -> list[Node]:
    title = node["attrs"].get("title", "")
    head = [paragraph(_words(title, "strong"))] if title else []
    return [{"type": "quote", "content": [*head, *_blocks(node["content"], context)]}]


def _picture(node: Node, context: _Context) -> list[Node]:
    attributes = node["attrs"]
    return [
        {
            "type": "picture",
            "attrs": {"src": attributes["src"], "alt": attributes.get("alt", "")},
            "content": _inline(node.get("content", []), context),
        }
    ]


def _recording(node: Node, context: _Context) -> list[Node]:
    """A line in the place of what is played."""
    attributes = node["attrs"]
    name = {"sound": "Sound", "video": "Video", "embed": "Video", "file": "File"}[node["type"]]
    where = context.address(attributes.get("src") or attributes.get("address", ""))
    title = attributes.get("title") or attributes.get("words") or where
    said = _inline(node.get("content", []), context)
    line = [_words(f"{name}: "), _words(title or "see the web page", href=where)]
    return [paragraph(*line, *([_words(". "), *said] if said else []))]


def _button(node: Node, context: _Context) -> list[Node]:
    where = context.address(node["attrs"]["address"]) if node["attrs"].get("address") else ""
    words = node["attrs"].get("words", "")
    return [paragraph(_words(words, href=where))] if words and where else []


def _table(node: Node, context: _Context) -> list[Node]:
    rows = [
        {
            "type": "tableRow",
            "content": [
                {"type": cell["type"], "attrs": cell["attrs"], "content": _blocks(cell["content"], context)}
                for cell in row.get("content", [])
            ],
        }
        for row in node["content"]
    ]
    caption = node.get("attrs", {}).get("caption", "")
    return [
        *([paragraph(_words(caption, "emphasis"))] if caption else []),
        {"type": "table", "content": rows},
    ]


def _review(node: Node, context: _Context) -> list[Node]:
    attributes = node["attrs"]
    found = [paragraph(_words(attributes["name"], "strong"))] if attributes.get("name") else []
    for name, score, _ in attributes.get("criteria", []):
        found.append(paragraph(_words(f"{name}: {shown(score)}")))
    total = overall(attributes.get("criteria", []))
    if total is not None:
        found.append(paragraph(_words(f"In all: {shown(total)}", "strong")))
    for sign, name in (("+", "points_for"), ("−", "points_against")):
        found += [paragraph(_words(f"{sign} {one}")) for one in attributes.get(name, [])]
    return [*found, *([paragraph(_words(attributes["verdict"]))] if attributes.get("verdict") else [])]


def _code(node: Node, context: _Context) -> list[Node]:
    text = "".join(one.get("text", "\n") for one in node.get("content", []))
    return [{"type": "codeBlock", "content": [{"type": "text", "text": text, "marks": []}]}]


def _rule(node: Node, context: _Context) -> list[Node]:
    return [{"type": "divider"}]


_BLOCKS: dict[str, Callable[[Node, _Context], list[Node]]] = {
    "paragraph": _text_block, "heading": _text_block, "bulletList": _list, "orderedList": _list, "quote": _quote, "codeBlock": _code, "divider": _rule,
    "picture": _picture, "gallery": _within, "beside": _within, "side": _within, "callout": _callout, "button": _button, "table": _table, "review": _review,
    "sound": _recording, "video": _recording, "embed": _recording, "file": _recording,
}  # fmt: skip
"""{kind of block: what a book has instead}; forms, contents, the teaser line and HTML by hand are left out."""

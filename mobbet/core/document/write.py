"""Walks a document with the node table: to HTML, to Markdown, to plain text."""

from __future__ import annotations

from collections.abc import Callable
from html import escape
from typing import Any

from mobbet.core.document.html import Html
from mobbet.core.document.markdown import escape_text
from mobbet.core.document.nodes import MARK, NODE

Node = dict[str, Any]


def to_html(document: Node, html: Html | None = None) -> str:
    """HTML of a checked document, one block a line, without an element around it."""
    html = html or Html()
    return "\n".join(_html(block, html) for block in document["content"])


def to_markdown(document: Node) -> str:
    """CommonMark of a checked document, ending with one line break."""
    return _markdown(document) + "\n"


def to_text(document: Node) -> str:
    """Plain text of a checked document."""
    return _text(document)


def inline_html(nodes: list[Node]) -> str:
    """HTML of inline nodes, such as a caption or a teaser's paragraph."""
    return _inline(nodes, 0, lambda node: _html(node, Html()), lambda mark, inner, *_: MARK[mark["type"]].html(mark.get("attrs", {}), inner))


def _html(node: Node, html: Html) -> str:
    if node["type"] == "text":
        return escape(node["text"], quote=False)
    content = node.get("content", [])
    if "inline" in NODE[node["type"]].content:
        inner = inline_html(content)
    else:
        inner = "".join(_html(child, html) for child in content)
    return NODE[node["type"]].html(node, inner, html)


def _markdown(node: Node) -> str:
    row = NODE[node["type"]]
    content = node.get("content", [])
    if row.content == "inline*":
        return row.markdown(node, [_inline(content, 0, _markdown_leaf, _markdown_mark)])
    return row.markdown(node, [_markdown(child) for child in content if child["type"] != "text"])


def _markdown_leaf(node: Node) -> str:
    if node["type"] != "text":
        return NODE[node["type"]].markdown(node, [])
    is_code = any(mark["type"] == "code" for mark in node.get("marks", ()))
    return node["text"] if is_code else escape_text(node["text"])


def _markdown_mark(mark: Node, inner: str, before: str, after: str) -> str:
    return MARK[mark["type"]].markdown(mark.get("attrs", {}), inner, before, after)


def _text(node: Node) -> str:
    if node["type"] == "text":
        return node["text"]
    return NODE[node["type"]].text(node, [_text(child) for child in node.get("content", ())])


def _inline(nodes: list[Node], depth: int, leaf: Callable, wrap: Callable) -> str:
    """Writes inline nodes; neighbours that share their mark at `depth` stand in it together.

    `leaf(node)` writes a bare node, `wrap(mark, inner, before, after)` puts a mark around it.
    """
    parts: list[str] = []
    index = 0
    while index < len(nodes):
        mark = _mark_at(nodes[index], depth)
        end = index + 1
        if mark is None:
            parts.append(leaf(nodes[index]))
        else:
            while end < len(nodes) and _mark_at(nodes[end], depth) == mark:
                end += 1
            inner = _inline(nodes[index:end], depth + 1, leaf, wrap)
            before = parts[-1][-1:] if parts else ""
            after = _first_letter(nodes, end)
            parts.append(wrap(mark, inner, before, after))
        index = end
    return "".join(parts)


def _mark_at(node: Node, depth: int) -> Node | None:
    marks = node.get("marks", ())
    return marks[depth] if depth < len(marks) else None


def _first_letter(nodes: list[Node], index: int) -> str:
    return nodes[index].get("text", "")[:1] if index < len(nodes) else ""

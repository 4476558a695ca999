"""Walks a document with the node table: to HTML, to Markdown, to plain text."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import replace
from html import escape
from typing import Any

from mobbet.core.document import notation
from mobbet.core.document.html import Html, entries
from mobbet.core.document.html_media import SEPARATOR, gallery_shares
from mobbet.core.document.links import media_number
from mobbet.core.document.markdown import escape_text
from mobbet.core.document.nodes import MARK, NODE
from mobbet.core.errors import BadDocument
from mobbet.core.values import existing

Node = dict[str, Any]


def to_html(document: Node, html: Html | None = None) -> str:
    """HTML of a checked document, one block a line, without an element around it."""
    if is_empty(document):
        return ""
    html = replace(html or Html(), entries=entries(document), counts=Counter())
    return "\n".join(_html(block, html) for block in document["content"])


def to_markdown(document: Node) -> str:
    """CommonMark of a checked document, with Mobbet's notation for what it lacks, ending with one line break.

    Each block is read back as it is written; one that would come back as another is written as HTML.
    """
    if is_empty(document):
        return "\n"
    parts = [_sure(block, _markdown(block)) for block in document["content"]]
    return (NODE["doc"].markdown(document, parts) or "") + "\n"


def is_empty(document: Node) -> bool:
    """Whether a document is one empty paragraph."""
    return bool(document["content"] == [{"type": "paragraph", "attrs": {"align": "start"}}])


def to_text(document: Node) -> str:
    """Plain text of a checked document."""
    return _text(document)


def inline_html(nodes: list[Node], html: Html | None = None) -> str:
    """HTML of inline nodes, such as a caption or a teaser's paragraph."""
    html = html or Html()
    return _inline(
        nodes, lambda node: _html(node, html), lambda mark, inner, *_: _html_mark(mark, inner, html)
    )


def _html(node: Node, html: Html) -> str:
    if node["type"] == "text":
        return escape(node["text"], quote=False)
    content = node.get("content", [])
    if len(content) == 1 and content[0]["type"] == "text" and not content[0].get("marks"):
        inner = escape(content[0]["text"], quote=False)
    elif "inline" in NODE[node["type"]].content:
        inner = inline_html(content, html)
    else:
        inner = _inside(node, content, html)
    return NODE[node["type"]].html(node, inner, html)


def _inside(node: Node, content: list[Node], html: Html) -> str:
    """The HTML of a node's blocks; beside each other, or in a gallery, each has a share of the line."""
    kind = node["type"]
    if kind == "beside" and html.is_page:
        share = node["attrs"]["share"] / 100
        return "\n".join(
            _html(child, html.within(part)) for child, part in zip(content, (share, 1 - share), strict=True)
        )
    if kind == "gallery":
        shares = gallery_shares(node, html) if html.is_page else [1.0] * len(content)
        return SEPARATOR.join(
            _html(child, html.within(part, False, node["attrs"]["layout"] == "rows"))
            for child, part in zip(content, shares, strict=True)
        )
    return "\n".join(_html(child, html) for child in content)


def _html_mark(mark: Node, inner: str, html: Html) -> str:
    """A mark of the table, or one of a comparison."""
    change = {"added": "ins", "removed": "del"}.get(mark["type"])
    return (
        f"<{change}>{inner}</{change}>"
        if change
        else MARK[mark["type"]].html(mark.get("attrs", {}), inner, html)
    )


def _markdown(node: Node) -> str:
    """A block in Markdown; in the notation where CommonMark has no sign for it."""
    row = NODE[node["type"]]
    content = node.get("content", [])
    if node["type"] == "picture" and content and media_number(node["attrs"]["src"]) is None:
        return _sure(node, to_html({"content": [node]}))  # so that other programs show the caption as text
    if row.content in ("inline*", "text*"):
        words = _inline(content, _markdown_leaf, _markdown_mark)
        written = row.markdown(node, [words])
        if written is None:
            return _sure(node, notation.fence(notation.kebab(row.name), _given(node), words))
        return _sure(node, written)
    parts = [_markdown(child) for child in content]
    written = row.markdown(node, parts)
    return _fence(node, parts) if written is None else written


def _fence(node: Node, parts: list[str]) -> str:
    """A block in the notation. Lists stand in it as plain lists, tables as HTML, others as their content."""
    kind, attrs = notation.kebab(node["type"]), _given(node)
    if node["type"] in notation.LIST_STYLES:
        listed = _list_with_comment(node, parts)
        if listed is not None:
            return listed
        plain = {**node, "attrs": {row.name: row.default for row in NODE[node["type"]].attributes}}
        return notation.fence(kind, attrs, existing(NODE[node["type"]].markdown(plain, parts)))
    if node["type"] == "table":
        return notation.fence(notation.HTML, {}, to_html({"content": [node]}))
    if node["type"] == "rawHtml":
        return notation.fence(kind, {}, node["attrs"]["html"])
    return notation.fence(kind, attrs, (NODE["doc"].markdown(node, parts) or "") if parts else "")


def _list_with_comment(node: Node, parts: list[str]) -> str | None:
    """A list as CommonMark has it, which any program shows, below a comment with its numbers or sign; None where it cannot be one."""
    name = notation.LIST_STYLES[node["type"]]
    usual = next(row.default for row in NODE[node["type"]].attributes if row.name == name)
    plain = {**node, "attrs": {**node["attrs"], name: usual}}
    written = NODE[node["type"]].markdown(plain, parts)
    return (
        None if written is None else f"{notation.list_comment(node['type'], node['attrs'][name])}\n{written}"
    )


def _given(node: Node) -> dict[str, Any]:
    """The attributes that differ from their defaults."""
    attributes = NODE[node["type"]].attributes
    return {
        row.name: node["attrs"][row.name]
        for row in attributes
        if row.is_required or node["attrs"][row.name] != row.default
    }


def _sure(node: Node, written: str) -> str:
    """The Markdown of a block, or its HTML in the notation when the Markdown would be read as another block."""
    from mobbet.core.document.from_markdown import (
        from_markdown,  # the whole reader, of which a build of the site needs nothing
    )

    try:
        is_same = bool(written) and from_markdown(written)["content"] == [node]
    except BadDocument:
        is_same = False
    return written if is_same else notation.fence(notation.HTML, {}, to_html({"content": [node]}))


def _markdown_leaf(node: Node) -> str:
    if node["type"] != "text":
        return existing(NODE[node["type"]].markdown(node, []))
    is_code = any(mark["type"] == "code" for mark in node.get("marks", ()))
    return str(node["text"]) if is_code else escape_text(node["text"])


def _markdown_mark(mark: Node, inner: str, before: str, after: str) -> str:
    row, attrs = MARK[mark["type"]], mark.get("attrs", {})
    written = row.markdown(attrs, inner, before, after)
    return row.html(attrs, inner, Html()) if written is None else written


def _text(node: Node) -> str:
    if node["type"] == "text":
        return str(node["text"])
    return NODE[node["type"]].text(node, [_text(child) for child in node.get("content", ())])


def _inline(nodes: list[Node], leaf: Callable[..., Any], wrap: Callable[..., Any]) -> str:
    """Writes inline nodes; a mark stands around as many neighbours as share it, the widest outside.

    `leaf(node)` writes a bare node, `wrap(mark, inner, before, after)` puts a mark around it. A line
    break has no marks of its own and does not end one.
    """
    parts: list[str] = []
    index = 0
    while index < len(nodes):
        marks = nodes[index].get("marks", ())
        if not marks:
            parts.append(leaf(nodes[index]))
            index += 1
            continue
        ends = [_end_of(nodes, index, mark) for mark in marks]
        end = max(ends)
        mark = marks[ends.index(end)]
        inner = _inline([_without(node, mark) for node in nodes[index:end]], leaf, wrap)
        before = parts[-1][-1:] if parts else ""
        after = nodes[end].get("text", "")[:1] if end < len(nodes) else ""
        parts.append(wrap(mark, inner, before, after))
        index = end
    return "".join(parts)


def _end_of(nodes: list[Node], index: int, mark: Node) -> int:
    """The index after the last of the neighbours that share a mark from `index` on."""
    end = index
    while index < len(nodes):
        if mark in nodes[index].get("marks", ()):
            end = index + 1
        elif nodes[index]["type"] != "lineBreak":
            break
        index += 1
    return end


def _without(node: Node, mark: Node) -> Node:
    if "marks" not in node:
        return node
    return {**node, "marks": [other for other in node["marks"] if other != mark]}

"""CommonMark (with `~~strike~~`) to document."""

from __future__ import annotations

import re
from typing import Any

from markdown_it import MarkdownIt
from markdown_it.token import Token

from mobbet.core.document import schema
from mobbet.core.document.from_html import MARK_OF_TAG, from_html, paragraphs
from mobbet.core.document.links import clean_address, clean_picture
from mobbet.core.errors import BadDocument

Node = dict[str, Any]

_PARSER = MarkdownIt("commonmark", {"maxNesting": 60}).enable("strikethrough")
_PARSER.validateLink = lambda url: True  # clean_address judges addresses, by one list for all sources
_MARKS = {"strong": "strong", "em": "emphasis", "s": "strike"}
_TAG = re.compile(r"^<(/?)([a-zA-Z]+)[^>]*>$")


def from_markdown(source: str) -> Node:
    """The document in a Markdown text. Raises BadDocument when it is too large."""
    if len(source) > schema.MOST_BYTES:
        raise BadDocument(f"The text is larger than {schema.MOST_BYTES // 1_000_000} MB; bring it in in parts.")
    blocks, _ = _blocks(_PARSER.parse(source), 0, "")
    return schema.check({"type": "doc", "content": blocks or [{"type": "paragraph"}]})


def _blocks(tokens: list[Token], index: int, until: str) -> tuple[list[Node], int]:
    """Blocks from `index` up to the closing token `until`; also the index after it."""
    blocks: list[Node] = []
    while index < len(tokens) and tokens[index].type != until:
        token = tokens[index]
        if token.nesting == 1:
            close = token.type.replace("_open", "_close")
            inner, index = _blocks(tokens, index + 1, close)
            blocks.extend(_CONTAINERS[token.type](token, inner))
        else:
            blocks.extend(_LEAVES[token.type](token))
            index += 1
    return blocks, index + 1


def _heading(token: Token, inner: list[Node]) -> list[Node]:
    """A picture in a heading comes to stand after it."""
    level = int(token.tag[1])
    shells = [{**block, "type": "heading", "attrs": {"level": level}} for block in inner if block["type"] == "paragraph"]
    rest = [block for block in inner if block["type"] != "paragraph"]
    return [*(shells or ([] if rest else [{"type": "heading", "attrs": {"level": level}}])), *rest]


def _item(token: Token, inner: list[Node]) -> list[Node]:
    if not inner or inner[0]["type"] != "paragraph":
        inner = [{"type": "paragraph"}, *inner]
    return [{"type": "listItem", "content": inner}]


def _ordered(token: Token, inner: list[Node]) -> list[Node]:
    start = token.attrGet("start")
    return [{"type": "orderedList", "attrs": {"start": 1 if start is None else int(start)}, "content": inner}]


_CONTAINERS = {
    "paragraph_open": lambda token, inner: inner,
    "heading_open": _heading,
    "bullet_list_open": lambda token, inner: [{"type": "bulletList", "content": inner}],
    "ordered_list_open": _ordered,
    "list_item_open": _item,
    "blockquote_open": lambda token, inner: [{"type": "quote", "content": inner or [{"type": "paragraph"}]}],
}


def _code(token: Token) -> list[Node]:
    words = token.content.removesuffix("\n")
    language = (token.info or "").split(" ")[0][:40]
    language = language if re.fullmatch(r"[\w+#.-]*", language) else ""
    content = [{"type": "text", "text": words}] if words else []
    return [{"type": "codeBlock", "attrs": {"language": language}, "content": content}]


def _html_block(token: Token) -> list[Node]:
    blocks = from_html(token.content)["content"]
    return [] if blocks == [{"type": "paragraph"}] else blocks


def _inline_block(token: Token) -> list[Node]:
    return paragraphs(_inline(token.children or []))


_LEAVES = {
    "fence": _code,
    "code_block": _code,
    "hr": lambda token: [{"type": "divider"}],
    "html_block": _html_block,
    "inline": _inline_block,
}


def _inline(tokens: list[Token]) -> list[Node]:
    """Inline nodes; marks are opened and closed as the tokens come."""
    parts: list[Node] = []
    marks: list[Node] = []
    for token in tokens:
        if token.type in ("text", "text_special"):
            parts.append(_text(token.content, marks))
        elif token.type == "code_inline":
            parts.append(_text(token.content, [*marks, {"type": "code"}]))
        elif token.type == "softbreak":
            parts.append(_text(" ", marks))
        elif token.type == "hardbreak":
            parts.append({"type": "lineBreak"})
        elif token.type == "image":
            parts.extend(_picture(token))
        elif token.type == "html_inline":
            marks = _html_inline(token.content, parts, marks)
        elif token.type == "link_open":
            href = clean_address(token.attrGet("href"))
            marks = [*marks, {"type": "link", "attrs": {"href": href}}] if href else [*marks, {"type": "no link"}]
        elif token.type == "link_close":
            marks = _close(marks, ("link", "no link"))
        elif token.nesting == 1:
            marks = [*marks, {"type": _MARKS[token.tag]}]
        elif token.nesting == -1:
            marks = _close(marks, (_MARKS[token.tag],))
    return parts


def _html_inline(source: str, parts: list[Node], marks: list[Node]) -> list[Node]:
    """Tags of the marks count, `<br>` is a line break, all others are dropped."""
    tag = _TAG.match(source)
    if not tag:
        return marks
    name = tag.group(2).lower()
    if name == "br":
        parts.append({"type": "lineBreak"})
    mark = MARK_OF_TAG.get(name)
    if mark is None:
        return marks
    return _close(marks, (mark,)) if tag.group(1) else [*marks, {"type": mark}]


def _close(marks: list[Node], names: tuple[str, ...]) -> list[Node]:
    for index in range(len(marks) - 1, -1, -1):
        if marks[index]["type"] in names:
            return marks[:index] + marks[index + 1 :]
    return marks


def _text(words: str, marks: list[Node]) -> Node:
    real = [mark for mark in marks if mark["type"] != "no link"]
    return {"type": "text", "text": words, **({"marks": real} if real else {})}


def _picture(token: Token) -> list[Node]:
    src = clean_picture(token.attrGet("src"))
    if not src:
        return [_text(token.content, [])] if token.content else []
    caption = token.attrGet("title") or ""
    node: Node = {"type": "picture", "attrs": {"src": src, "alt": _alt(token)[:2000]}}
    if caption:
        node["content"] = [{"type": "text", "text": caption}]
    return [node]


def _alt(token: Token) -> str:
    return "".join(child.content or ("\n" if "break" in child.type else "") for child in token.children or [])

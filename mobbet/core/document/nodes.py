"""The node table: a row for everything that a post can hold, and for each mark on its text.

Adding a kind is one row here, its functions in `html`, `markdown` and `text`, and its mirror in
the writing surface (a test compares the two).
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mobbet.core.document import html, markdown, text
from mobbet.core.document.links import clean_address, clean_picture

_MISSING = object()


@dataclass(frozen=True)
class Attribute:
    """One attribute of a node or mark.

    `read` returns the value as it is kept, or None when it cannot be one; `default` is used when
    the attribute is absent, and without a default it must be given.
    """

    name: str
    read: Callable[[Any], Any]
    default: Any = _MISSING

    @property
    def is_required(self) -> bool:
        return self.default is _MISSING


@dataclass(frozen=True)
class NodeType:
    """One row: what may stand in the node, and what it becomes in each format.

    `content` is a ProseMirror content expression. `html` takes (node, inner, Html); `markdown` and
    `text` take (node, the written parts of its content).
    """

    name: str
    content: str
    group: str
    html: Callable[..., str]
    markdown: Callable[..., str]
    text: Callable[..., str]
    attributes: tuple[Attribute, ...] = ()
    marks: bool = True


@dataclass(frozen=True)
class MarkType:
    """One row of the marks; a mark of an earlier row encloses those of later ones."""

    name: str
    html: Callable[[dict, str], str]
    markdown: Callable[[dict, str, str, str], str]
    attributes: tuple[Attribute, ...] = ()


def _whole(least: int, most: int) -> Callable[[Any], int | None]:
    def read(value: Any) -> int | None:
        is_whole = isinstance(value, int) and not isinstance(value, bool)
        return value if is_whole and least <= value <= most else None

    return read


def _words(longest: int) -> Callable[[Any], str | None]:
    def read(value: Any) -> str | None:
        return " ".join(value.split()) if isinstance(value, str) and len(value) <= longest else None

    return read


def _language(value: Any) -> str | None:
    if value is None:
        return ""
    return value if isinstance(value, str) and re.fullmatch(r"[\w+#.-]{0,40}", value) else None


NODES: tuple[NodeType, ...] = (
    NodeType("doc", "block+", "", html.element("div"), markdown.blocks, text.blocks),
    NodeType("paragraph", "inline*", "block", html.element("p"), markdown.paragraph, text.inline),
    NodeType(
        "heading", "inline*", "block", html.heading, markdown.heading, text.inline,
        (Attribute("level", _whole(1, 6)),),
    ),
    NodeType("bulletList", "listItem+", "block", html.element("ul"), markdown.bullet_list, text.bullet_list),
    NodeType(
        "orderedList", "listItem+", "block", html.ordered_list, markdown.ordered_list, text.ordered_list,
        (Attribute("start", _whole(0, 999_999_999), 1),),
    ),
    NodeType("listItem", "paragraph block*", "", html.list_item, markdown.blocks, text.blocks),
    NodeType("quote", "block+", "block", html.element("blockquote"), markdown.quote, text.blocks),
    NodeType(
        "codeBlock", "text*", "block", html.code_block, markdown.code_block, text.inline,
        (Attribute("language", _language, ""),), marks=False,
    ),
    NodeType("divider", "", "block", html.void("hr"), markdown.divider, text.divider),
    NodeType(
        "picture", "inline*", "block", html.picture, markdown.picture, text.picture,
        (Attribute("src", clean_picture), Attribute("alt", _words(2000), "")),
    ),
    NodeType("lineBreak", "", "inline", html.void("br"), markdown.line_break, text.line_break),
    NodeType("text", "", "inline", html.element("span"), markdown.inline, text.inline),
)  # fmt: skip

MARKS: tuple[MarkType, ...] = (
    MarkType("link", html.link, markdown.link, (Attribute("href", clean_address),)),
    MarkType("strong", html.tag("strong"), markdown.delimited("**", "strong")),
    MarkType("emphasis", html.tag("em"), markdown.delimited("*", "em")),
    MarkType("underline", html.tag("u"), markdown.tagged("u")),
    MarkType("strike", html.tag("s"), markdown.delimited("~~", "s")),
    MarkType("code", html.tag("code"), markdown.code),
)

NODE: dict[str, NodeType] = {row.name: row for row in NODES}
MARK: dict[str, MarkType] = {row.name: row for row in MARKS}
RANK: dict[str, int] = {row.name: rank for rank, row in enumerate(MARKS)}


def description() -> dict[str, Any]:
    """The table as data, for the test that holds the writing surface against it."""
    return {
        "nodes": {
            row.name: {
                "content": row.content,
                "group": row.group,
                "attributes": sorted(attribute.name for attribute in row.attributes),
                "marks": row.marks,
            }
            for row in NODES
        },
        "marks": {row.name: sorted(a.name for a in row.attributes) for row in MARKS},
    }

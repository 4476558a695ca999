"""The node table: a row for everything that a post can hold, and for each mark on its text.

A composed kind is a row here, its functions in `composed`, its reader in `own_html`, and its mirror in the writing surface
(`editor/src/blocks/`; a test compares the two).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mobbet.core import languages
from mobbet.core.asking import FORM, OUTCOMES, POLL, VOTED
from mobbet.core.document import asking, composed, html, html_media, markdown, review, text
from mobbet.core.document.attributes import (
    Attribute,
    address_or_none,
    criteria,
    day_or_none,
    language,
    lines,
    matching,
    one_of,
    picture_or_none,
    raw_html,
    switch,
    whole,
    words,
)  # fmt: skip
from mobbet.core.document.links import clean_address, clean_item, clean_picture
from mobbet.core.document.palette import NAMES
from mobbet.core.document.signs import SIGNS
from mobbet.core.media.places import FRAMES, LAYOUTS, PLACES, SIZES, SPACES


@dataclass(frozen=True)
class NodeType:
    """One row: what may stand in the node, and what it becomes in each format.

    `content` is a ProseMirror content expression. `html` takes (node, inner, Html); `markdown` and
    `text` take (node, the written parts of its content). `markdown` answers None for a node that
    CommonMark has no sign for; `write` then puts it in the notation of `notation`. `marks` says whether
    words in it may have marks, `is_marked` whether it may itself have them as words do.
    """

    name: str
    content: str
    group: str
    html: Callable[..., str]
    markdown: Callable[..., str | None]
    text: Callable[..., str]
    attributes: tuple[Attribute, ...] = ()
    marks: bool = True
    is_marked: bool = False


@dataclass(frozen=True)
class MarkType:
    """One row of the marks; a mark of an earlier row encloses those of later ones."""

    name: str
    html: Callable[..., str]
    markdown: Callable[[dict[str, Any], str, str, str], str | None]
    attributes: tuple[Attribute, ...] = ()


SIGNS_OF_LISTS = ("disc", "circle", "square", "tick", "star", "arrow")
NUMBERS = ("decimal", "lower-alpha", "upper-alpha", "lower-roman", "upper-roman", "lower-greek")
SHARES = (25, 33, 40, 50, 60, 67, 75)
_ALIGN = Attribute("align", one_of("start", "centre", "end"), "start")
_CELL = (Attribute("colspan", whole(1, 60), 1), Attribute("rowspan", whole(1, 500), 1), _ALIGN)
_ANCHOR = matching(r"[\w-]{0,64}")

NODES: tuple[NodeType, ...] = (
    NodeType("doc", "(block | top)+", "", html.element("div"), markdown.blocks, text.blocks),
    NodeType("paragraph", "inline*", "block", html.paragraph, markdown.paragraph, text.inline, (_ALIGN,)),
    NodeType(
        "heading", "inline*", "block", html.heading, markdown.heading, text.inline,
        (Attribute("level", whole(1, 6)), Attribute("anchor", _ANCHOR, "")),
    ),
    NodeType(
        "bulletList", "listItem+", "block", html.bullet_list, markdown.bullet_list, text.bullet_list,
        (Attribute("sign", one_of(*SIGNS_OF_LISTS), "disc"), Attribute("loose", switch, False)),
    ),
    NodeType(
        "orderedList", "listItem+", "block", html.ordered_list, markdown.ordered_list, text.ordered_list,
        (Attribute("start", whole(0, 999_999_999), 1), Attribute("numbers", one_of(*NUMBERS), "decimal"), Attribute("loose", switch, False)),
    ),
    NodeType("listItem", "paragraph block*", "", html.list_item, markdown.item, text.blocks),
    NodeType(
        "quote", "block+", "block", html.quote, markdown.quote, text.quote,
        (Attribute("source", words(300), ""), Attribute("address", address_or_none, "")),
    ),
    NodeType(
        "codeBlock", "text*", "block", html.code_block, markdown.code_block, text.inline,
        (Attribute("language", language, ""),), marks=False,
    ),
    NodeType("divider", "", "block", html.void("hr"), markdown.divider, text.divider),
    NodeType(
        "picture", "inline*", "block", html_media.picture, markdown.picture, text.picture,
        (
            Attribute("src", clean_picture), Attribute("alt", words(2000), ""), Attribute("decoration", switch, False),
            Attribute("size", one_of(*SIZES), "full"), Attribute("place", one_of(*PLACES), "centre"), Attribute("around", switch, False),
            Attribute("frame", one_of(*FRAMES), "plain"), Attribute("space", one_of(*SPACES), "usual"),
            Attribute("credit", words(200), ""), Attribute("address", address_or_none, ""),
        ),
    ),
    NodeType("gallery", "picture+", "block", html_media.gallery, markdown.fenced, text.blocks, (Attribute("layout", one_of(*LAYOUTS), "rows"),)),
    NodeType(
        "sound", "inline*", "block", html_media.sound, markdown.fenced, text.sound,
        (Attribute("src", clean_item), Attribute("title", words(200), ""), Attribute("size", one_of("small", "full"), "full")),
    ),
    NodeType(
        "video", "inline*", "block", html_media.video, markdown.fenced, text.sound,
        (Attribute("src", clean_item), Attribute("title", words(200), ""), Attribute("size", one_of("small", "full", "wide"), "full")),
    ),
    NodeType(
        "embed", "inline*", "block", html_media.embed, markdown.fenced, text.embed,
        (
            Attribute("address", clean_address), Attribute("title", words(300), ""), Attribute("width", whole(1, 10_000), 640),
            Attribute("height", whole(1, 10_000), 360), Attribute("poster", picture_or_none, ""), Attribute("size", one_of("small", "full", "wide"), "full"),
            Attribute("frame", address_or_none, ""), Attribute("provider", words(80), ""),
        ),
    ),
    NodeType("file", "", "block", html_media.file, markdown.fenced, text.file, (Attribute("src", clean_item), Attribute("words", words(200), ""))),
    NodeType(
        "table", "tableRow+", "block", composed.table, markdown.table, text.table,
        (Attribute("caption", words(300), ""),),
    ),
    NodeType("tableRow", "cell*", "", composed.table_row, markdown.table_row, text.table_row),
    NodeType("tableCell", "block+", "cell", composed.table_cell, markdown.blocks, text.blocks, _CELL),
    NodeType("tableHeader", "block+", "cell", composed.table_header, markdown.blocks, text.blocks, _CELL),
    NodeType(
        "callout", "block+", "block", composed.callout, markdown.fenced, composed.callout_text,
        (Attribute("sign", one_of(*SIGNS), "note"), Attribute("tint", one_of(*NAMES), "moss"), Attribute("title", words(200), "")),
    ),
    NodeType(
        "button", "", "block", composed.button, markdown.fenced, composed.button_text,
        (Attribute("words", words(120), ""), Attribute("address", address_or_none, ""), Attribute("weight", one_of("strong", "quiet"), "strong")),
    ),
    NodeType("beside", "side side", "block", composed.beside, markdown.fenced, text.blocks, (Attribute("share", one_of(*SHARES), 50),)),
    NodeType("side", "block+", "", composed.side, markdown.fenced, text.blocks),
    NodeType(
        "subscribe", "", "block", composed.subscribe, markdown.fenced, composed.subscribe_text,
        (Attribute("words", words(120), ""), Attribute("what", one_of(*composed.SUBSCRIBE_TO), "all")),
    ),
    NodeType(
        "ask", "", "block", asking.ask, markdown.fenced, asking.ask_text,
        (
            Attribute("key", matching(r"[a-z0-9]{0,16}"), ""), Attribute("kind", one_of(FORM, POLL), FORM), Attribute("title", words(200), ""),
            Attribute("questions", asking.questions, []), Attribute("told", words(300), ""), Attribute("outcome", one_of(*OUTCOMES), VOTED),
            Attribute("closes", day_or_none, ""),
        ),
    ),
    NodeType("contents", "", "block", composed.contents, markdown.fenced, text.nothing, (Attribute("depth", whole(2, 6), 3),)),
    NodeType("teaserLine", "", "top", composed.teaser_line, markdown.fenced, text.nothing),
    NodeType(
        "review", "", "block", composed.review, markdown.fenced, composed.review_text,
        (
            Attribute("name", words(200), ""), Attribute("criteria", criteria, []), Attribute("points_for", lines(20, 300), []),
            Attribute("points_against", lines(20, 300), []), Attribute("verdict", words(1000), ""), Attribute("kind", one_of(*review.KINDS), ""),
        ),
    ),
    NodeType("rawHtml", "", "block", composed.raw_html, markdown.fenced, composed.raw_html_text, (Attribute("html", raw_html, ""),)),
    NodeType("standing", "", "block", composed.standing, markdown.fenced, text.nothing, (Attribute("copy", whole(1, 10**12)),)),
    NodeType(
        "fillIn", "", "inline", html.fill_in, markdown.fill_in, text.fill_in,
        (Attribute("name", matching(r"[a-z][a-z0-9-]{0,40}")),), is_marked=True,
    ),
    NodeType("lineBreak", "", "inline", html.line_break, markdown.line_break, text.line_break),
    NodeType("text", "", "inline", html.element("span"), markdown.inline, text.inline),
)  # fmt: skip

MARKS: tuple[MarkType, ...] = (
    MarkType(
        "link", html.link, markdown.link,
        (
            Attribute("href", clean_address), Attribute("title", words(300), ""),
            Attribute("window", one_of("here", "new"), "here"), Attribute("paid", switch, False),
        ),
    ),
    MarkType("emphasis", html.tag("em"), markdown.delimited("*")),
    MarkType("strong", html.tag("strong"), markdown.delimited("**")),
    MarkType("underline", html.tag("u"), markdown.tagged),
    MarkType("strike", html.tag("s"), markdown.delimited("~~")),
    MarkType("superscript", html.tag("sup"), markdown.tagged),
    MarkType("subscript", html.tag("sub"), markdown.tagged),
    MarkType("size", html.classed("span", "step"), markdown.tagged, (Attribute("step", one_of(-2, -1, 1, 2, 3)),)),
    MarkType("tint", html.classed("span", "tint"), markdown.tagged, (Attribute("tint", one_of(*NAMES)),)),
    MarkType("marker", html.classed("mark", "marker"), markdown.tagged, (Attribute("marker", one_of(*NAMES)),)),
    MarkType("language", html.language, markdown.tagged, (Attribute("language", matching(languages.TAG)),)),
    MarkType("code", html.tag("code"), markdown.code),
)  # fmt: skip

NODE: dict[str, NodeType] = {row.name: row for row in NODES}
MARK: dict[str, MarkType] = {row.name: row for row in MARKS}
RANK: dict[str, int] = {row.name: rank for rank, row in enumerate(MARKS)}


def defaults(name: str) -> dict[str, Any]:
    """The attributes of a node as they are when nothing is said; required ones are left out."""
    return {row.name: row.default for row in NODE[name].attributes if not row.is_required}


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

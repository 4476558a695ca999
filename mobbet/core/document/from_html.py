"""HTML to document: structure is kept, everything else is dropped."""

from __future__ import annotations

import re
from typing import Any

from selectolax.lexbor import LexborHTMLParser, LexborNode

from mobbet.core.document import schema
from mobbet.core.document.links import clean_address, clean_picture
from mobbet.core.errors import BadDocument

Node = dict[str, Any]

DEEPEST = 120
"""How deep the walk follows nested elements; what lies deeper is read as plain words."""

MARK_OF_TAG = {
    "strong": "strong", "b": "strong", "em": "emphasis", "i": "emphasis", "cite": "emphasis", "dfn": "emphasis",
    "var": "emphasis", "u": "underline", "ins": "underline", "s": "strike", "strike": "strike", "del": "strike",
    "code": "code", "kbd": "code", "samp": "code", "tt": "code",
}  # fmt: skip
DROPPED = frozenset(
    "script style template head title meta link noscript iframe frame object embed applet svg math canvas "
    "audio video form input button select textarea option map area dialog base param source track".split()
)
BLOCKS = frozenset(
    "p h1 h2 h3 h4 h5 h6 ul ol li dl dt dd blockquote pre hr figure table thead tbody tfoot tr td th caption "
    "div section article main header footer aside nav address figcaption details summary fieldset center body html".split()
)
_SPACE = re.compile(r"[ \t\r\n\f\u00a0]+")


def from_html(source: str) -> Node:
    """The document in a page or a piece of HTML. Raises BadDocument when it is too large."""
    if len(source) > schema.MOST_BYTES:
        raise BadDocument(f"The HTML is larger than {schema.MOST_BYTES // 1_000_000} MB; bring it in in parts.")
    body = LexborHTMLParser(source).body
    blocks = _Walk().blocks(body, [], 0) if body is not None else []
    return schema.check({"type": "doc", "content": blocks or [{"type": "paragraph"}]})


class _Walk:
    """One walk over a page. `marks` are those of the elements around."""

    def blocks(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        """The blocks in an element; loose words between them become paragraphs."""
        found: list[Node] = []
        inline: list[Node] = []

        def flush() -> None:
            found.extend(paragraphs(inline))
            inline.clear()

        for child in node.iter(include_text=True):
            if child.tag in BLOCKS and depth < DEEPEST:
                flush()
                found.extend(self.block(child, marks, depth + 1))
            elif depth < DEEPEST and child.tag not in ("-text", "br", "img") and _holds_block(child):
                flush()
                found.extend(self.blocks(child, self.marked(child, marks), depth + 1))
            else:
                inline.extend(self.inline(child, marks, depth + 1))
        flush()
        return found

    def block(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        maker = _MAKERS.get(node.tag)
        return maker(self, node, marks, depth) if maker else self.blocks(node, marks, depth)

    def inline(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        """Text, line breaks and pictures, in order; pictures are lifted out of the line later."""
        tag = node.tag
        if tag == "-text":
            words = _SPACE.sub(" ", node.text_content or "")
            return [_text(words, marks)] if words else []
        if tag == "br":
            return [{"type": "lineBreak"}]
        if tag == "img":
            return _picture(node)
        if tag in DROPPED or tag.startswith("-"):
            return []
        if depth >= DEEPEST:
            return [_text(_SPACE.sub(" ", node.text() or ""), marks)]
        inner = self.marked(node, marks)
        return [part for child in node.iter(include_text=True) for part in self.inline(child, inner, depth + 1)]

    def marked(self, node: LexborNode, marks: list[Node]) -> list[Node]:
        """The marks inside an element: those around it and its own."""
        if node.tag == "a":
            href = clean_address(node.attributes.get("href"))
            own = {"type": "link", "attrs": {"href": href}} if href else None
        else:
            name = MARK_OF_TAG.get(node.tag) or _mark_of_style(node)
            own = {"type": name} if name else None
        if own is None or any(mark["type"] == own["type"] for mark in marks):
            return marks
        return [*marks, own]

    def heading(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        parts = self.inline_of(node, marks, depth)
        return _lift(parts, {"type": "heading", "attrs": {"level": int(node.tag[1])}})

    def paragraph(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        return self.blocks(node, marks, depth)

    def list(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        items: list[Node] = []
        for child in node.iter():
            if child.tag == "li":
                items.append(_item(self.blocks(child, marks, depth + 1)))
            elif child.tag in ("ul", "ol") and items:
                items[-1]["content"].extend(self.list(child, marks, depth + 1))
            elif child.tag not in DROPPED:
                blocks = self.blocks(child, marks, depth + 1)
                items.extend([_item(blocks)] if blocks else [])
        if not items:
            return []
        if node.tag == "ul":
            return [{"type": "bulletList", "content": items}]
        start = node.attributes.get("start") or ""
        number = int(start) if re.fullmatch(r"\d{1,9}", start) else 1
        return [{"type": "orderedList", "attrs": {"start": number}, "content": items}]

    def quote(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        blocks = self.blocks(node, marks, depth)
        return [{"type": "quote", "content": blocks}] if blocks else []

    def code(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        inner = node.css_first("code")
        name = re.search(r"language-([\w+#.-]{1,40})", (inner.attributes.get("class") or "") if inner else "")
        words = (node.text() or "").removeprefix("\n").removesuffix("\n")
        content = [{"type": "text", "text": words}] if words else []
        return [{"type": "codeBlock", "attrs": {"language": name.group(1) if name else ""}, "content": content}]

    def divider(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        return [{"type": "divider"}]

    def figure(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        """A figure of one picture takes its caption along; any other is its content."""
        pictures, caption = node.css("img"), node.css_first("figcaption")
        found = _picture(pictures[0]) if len(pictures) == 1 else []
        if not found:
            return self.blocks(node, marks, depth)
        words = self.inline_of(caption, [], depth) if caption else []
        return [{**found[0], "content": _trim([part for part in words if part["type"] != "picture"])}]

    def row(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        """A table's row as one paragraph, its cells parted by a bar, so that no word is lost."""
        cells = [_trim(self.inline_of(cell, marks, depth)) for cell in node.iter() if cell.tag in ("td", "th")]
        line: list[Node] = []
        for cell in cells:
            line += ([_text(" | ", [])] if line and cell else []) + cell
        return paragraphs(line)

    def inline_of(self, node: LexborNode, marks: list[Node], depth: int) -> list[Node]:
        return [part for child in node.iter(include_text=True) for part in self.inline(child, marks, depth)]


_MAKERS = {
    **{f"h{level}": _Walk.heading for level in range(1, 7)},
    "ul": _Walk.list,
    "ol": _Walk.list,
    "blockquote": _Walk.quote,
    "pre": _Walk.code,
    "hr": _Walk.divider,
    "figure": _Walk.figure,
    "tr": _Walk.row,
}


def paragraphs(inline: list[Node]) -> list[Node]:
    """Inline parts as paragraphs; a picture among them stands between two."""
    return _lift(inline, {"type": "paragraph"})


def _lift(inline: list[Node], shell: Node) -> list[Node]:
    blocks: list[Node] = []
    line: list[Node] = []
    for part in [*inline, None]:
        if part is not None and part["type"] != "picture":
            line.append(part)
            continue
        words = _trim(line)
        if words:
            blocks.append({**shell, "content": words})
        if part is not None:
            blocks.append(part)
        line = []
    return blocks


def _trim(inline: list[Node]) -> list[Node]:
    """Without white space at the edges and around line breaks, and without double spaces."""
    kept: list[Node] = []
    for part in inline:
        if part["type"] == "text":
            words = part["text"]
            if not kept or kept[-1]["type"] == "lineBreak" or kept[-1].get("text", "").endswith(" "):
                words = words.lstrip(" ")
            if not words:
                continue
            part = {**part, "text": words}
        elif part["type"] == "lineBreak":
            kept = _without_end(kept)
            if not kept:
                continue
        kept.append(part)
    while kept and kept[-1]["type"] == "lineBreak":
        kept.pop()
    return _without_end(kept)


def _without_end(kept: list[Node]) -> list[Node]:
    while kept and kept[-1]["type"] == "text":
        words = kept[-1]["text"].rstrip(" ")
        if words:
            return [*kept[:-1], {**kept[-1], "text": words}]
        kept = kept[:-1]
    return kept


def _item(blocks: list[Node]) -> Node:
    """An item begins with a paragraph, an empty one where it would begin with anything else."""
    if not blocks or blocks[0]["type"] != "paragraph":
        blocks = [{"type": "paragraph"}, *blocks]
    return {"type": "listItem", "content": blocks}


def _text(words: str, marks: list[Node]) -> Node:
    return {"type": "text", "text": words, **({"marks": marks} if marks else {})}


def _picture(node: LexborNode) -> list[Node]:
    src = clean_picture(node.attributes.get("src"))
    if not src:
        return []
    return [{"type": "picture", "attrs": {"src": src, "alt": (node.attributes.get("alt") or "")[:2000]}}]


def _holds_block(node: LexborNode) -> bool:
    return node.tag not in DROPPED and any(child.tag in BLOCKS or _holds_block(child) for child in node.iter())


def _mark_of_style(node: LexborNode) -> str | None:
    style = (node.attributes.get("style") or "").lower()
    if not style:
        return None
    if re.search(r"font-weight\s*:\s*(bold|[6-9]00)", style):
        return "strong"
    if re.search(r"font-style\s*:\s*(italic|oblique)", style):
        return "emphasis"
    if re.search(r"text-decoration[^;]*underline", style):
        return "underline"
    return "strike" if re.search(r"text-decoration[^;]*line-through", style) else None



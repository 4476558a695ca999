"""HTML to document: structure is kept, everything else is dropped and counted."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from mobbet.core.document import office, own_html, schema, style_rules
from mobbet.core.document.attributes import LANGUAGE
from mobbet.core.document.elements import BLOCKS, Element, parse
from mobbet.core.document.html import AS_TYPED
from mobbet.core.document.html_marks import MARK_OF_TAG, mark_names
from mobbet.core.document.inline import bare_words, paragraphs, shelled, trimmed, unbroken
from mobbet.core.document.links import clean_address, clean_picture, unwrapped
from mobbet.core.document.read_tables import read_table

Node = dict[str, Any]
Nodes = list[Node]

DROPPED = {
    **dict.fromkeys("script style template noscript link meta base head title".split(), "scripts and styles"),
    **dict.fromkeys(
        "iframe frame object embed applet audio video source track param".split(), "embedded things"
    ),
    **dict.fromkeys("form input button select textarea option dialog".split(), "forms"),
    **dict.fromkeys("svg math canvas map area".split(), "drawings"),
}
_SPACE = re.compile(r"[ \t\r\n\f\u00a0]+")
_KEPT_SPACE = re.compile(r"(?<=[\d«])\u00a0(?=\S)|(?<=\S)\u00a0(?=[;:!?»%€£$])")

Bring = Callable[[str], str | None]
"""Answers with the `src` a picture of that address gets, or None when it is left out."""


@dataclass
class Reading:
    """A document read from elsewhere, and how much of what was left out."""

    document: Node
    dropped: Counter[str] = field(default_factory=Counter)


def no_embedded(src: str) -> str | None:
    """Pictures keep their addresses; those whose data stand in the text are left out."""
    return clean_picture(src)


def from_html(source: str) -> Node:
    """The document in a page or a piece of HTML. Raises BadDocument when it is too large."""
    return read_html(source).document


def read_html(source: str, bring: Bring = no_embedded) -> Reading:
    """The document in HTML, with a count of what was dropped. Raises BadDocument."""
    walk = _Walk(bring, ())
    body = parse(source)
    style_rules.dress(body, style_rules.read_rules(source))
    office.tidy(body, walk.dropped)
    return Reading(schema.check({"type": "doc", "content": walk.blocks(body, [])}), walk.dropped)


def tidy_blocks(source: str, parts: Sequence[Nodes] = ()) -> Nodes:
    """The blocks, not checked yet, in HTML in which no program's rubbish is to be expected.

    `<div data-part="0">` stands for the nodes of `parts[0]`.
    """
    return _Walk(no_embedded, parts, keeps_empty=True).blocks(parse(source), [])


class _Walk:
    """One walk over a page. `marks` are those of the elements around."""

    def __init__(self, bring: Bring, parts: Sequence[Nodes], keeps_empty: bool = False) -> None:
        self.keeps_empty = keeps_empty
        self.bring = bring
        self.parts = parts
        self.dropped: Counter[str] = Counter()

    def blocks(self, element: Element, marks: Nodes) -> Nodes:
        """The blocks in an element; loose words between them become paragraphs."""
        found: Nodes = []
        inline: Nodes = []
        for child in element.children:
            if isinstance(child, str) or not (child.tag in BLOCKS or child.holds_block):
                inline += self.inline(child, marks)
                continue
            if inline:
                found += paragraphs(inline)
                inline = []
            found += (
                self.block(child, marks)
                if child.tag in BLOCKS
                else self.blocks(child, self.marked(child, marks))
            )
        return [*found, *paragraphs(inline)] if inline else found

    def block(self, element: Element, marks: Nodes) -> Nodes:
        if element.attrs:
            own = own_html.read(element, lambda inner: self.blocks(inner, []))
            if own is not None:
                return own
        maker = _MAKERS.get(element.tag)
        return maker(self, element, marks) if maker else self.blocks(element, marks)

    def inline(self, child: Element | str, marks: Nodes, is_exact: bool = False) -> Nodes:
        """Text, line breaks, fill-ins and pictures, in order; pictures are lifted out of the line later."""
        if isinstance(child, str):
            is_code = any(mark["type"] == "code" for mark in marks)
            words = child if is_exact or is_code else folded(child)
            return [_text(words, marks)] if words else []
        tag = child.tag
        if tag == "br":
            return [{"type": "lineBreak"}]
        if tag == "img":
            return self.picture(child)
        if tag in DROPPED:
            self.dropped[DROPPED[tag]] += 1
            return []
        name = child.attrs.get("data-fill-in", "")
        if re.fullmatch(r"[a-z][a-z0-9-]{0,40}", name):
            return [{"type": "fillIn", "attrs": {"name": name}, "marks": marks}]
        inner = self.marked(child, marks)
        if len(child.children) == 1:
            return self.inline(child.children[0], inner, is_exact)
        return [part for grandchild in child.children for part in self.inline(grandchild, inner, is_exact)]

    def marked(self, element: Element, marks: Nodes) -> Nodes:
        """The marks inside an element: those around it and its own, less those that its style takes back."""
        if not element.attrs and element.tag not in MARK_OF_TAG and element.tag != "font":
            return marks
        if element.tag == "a":
            own = [self.link(element)]
        else:
            own = [own_html.mark_of(element) if "class" in element.attrs else None]
            if own == [None]:
                marks = _taken_back(element, marks)
                names = mark_names(element)
                if any(mark["type"] == "link" for mark in marks) and element.tag not in ("u", "ins"):
                    names = [name for name in names if name != "underline"]  # every link is underlined
                own = [{"type": name} for name in names]
                self.count_dress(element)
        for mark in own:
            if mark is not None and (not marks or all(other["type"] != mark["type"] for other in marks)):
                marks = [*marks, mark]
        return marks

    def link(self, element: Element) -> Node | None:
        href = clean_address(element.attrs.get("href"))
        if href and "data-exact" not in element.attrs:
            href = unwrapped(href)
        if not href or element.has_class("dropped"):
            self.dropped["links with an unsafe address"] += bool(element.attrs.get("href", "").strip())
            return None
        relations = element.attrs.get("rel", "").split()
        window = "new" if element.attrs.get("target") == "_blank" else "here"
        title = element.attrs.get("title", "")[:300]
        return {
            "type": "link",
            "attrs": {"href": href, "title": title, "window": window, "paid": "sponsored" in relations},
        }

    def count_dress(self, element: Element) -> None:
        """Fonts, colours and sizes that are left behind."""
        if element.tag == "font" or any(
            name in element.attrs.get("style", "") for name in ("font-family", "color", "font-size")
        ):
            self.dropped["fonts, colours and sizes"] += 1

    def paragraph(self, element: Element, marks: Nodes) -> Nodes:
        attrs = {"align": own_html.align_of(element)}
        if (
            element.style().get("text-align") == "justify"
            or element.attrs.get("align", "").lower() == "justify"
        ):
            self.dropped["justified text"] += 1
        if element.has_class(AS_TYPED):
            line = self.line(element, marks, is_exact=True)
            if not element.children or (line and not any(part["type"] == "picture" for part in line)):
                return [{"type": "paragraph", "attrs": attrs, "content": line}]
            return paragraphs(line, attrs)
        if element.holds_block:
            return self.blocks(element, marks)
        if element.attrs.get("style"):
            marks = self.marked(element, marks)
        found = paragraphs(self.line(element, marks), attrs)
        if not found and self.keeps_empty and not element.children:
            return [{"type": "paragraph", "attrs": attrs}]
        if not found:
            self.dropped["empty paragraphs"] += 1
        return found

    def heading(self, element: Element, marks: Nodes) -> Nodes:
        is_exact = element.has_class(AS_TYPED)
        anchor = element.attrs.get("id", "") if "data-fixed" in element.attrs else ""
        if is_exact and not anchor:
            anchor = _take_anchor(element)
        anchor = anchor if re.fullmatch(r"[\w-]{0,64}", anchor) else ""
        line = self.line(element, marks, is_exact)
        shell = {"type": "heading", "attrs": {"level": int(element.tag[1]), "anchor": anchor}}
        if is_exact and not any(part["type"] == "picture" for part in line):
            return [{**shell, "content": line}]
        return shelled(line if is_exact else _without_whole_strong(line), shell)

    def list(self, element: Element, marks: Nodes) -> Nodes:
        items: Nodes = []
        for child in element.elements():
            if child.tag == "li":
                items.append(_item(self.blocks(child, marks)))
            elif child.tag in ("ul", "ol") and items:
                items[-1]["content"].extend(self.list(child, marks))
            elif child.tag not in DROPPED:
                blocks = self.blocks(child, marks)
                items.extend([_item(blocks)] if blocks else [])
        if not items:
            return []
        name = "bulletList" if element.tag == "ul" else "orderedList"
        return [{"type": name, "attrs": own_html.list_attrs(element), "content": items}]

    def quote(self, element: Element, marks: Nodes) -> Nodes:
        attrs = {"source": "", "address": clean_address(element.attrs.get("cite")) or ""}
        foot = next((child for child in element.elements() if child.tag == "footer"), None)
        if foot is not None:
            attrs["source"] = foot.words()[:300]
            element.children.remove(foot)
        blocks = self.blocks(element, marks)
        is_meant = blocks or attrs["source"] or not element.elements()
        return [{"type": "quote", "attrs": attrs, "content": blocks}] if is_meant else []

    def code(self, element: Element, marks: Nodes) -> Nodes:
        inner = element.find("code")
        name = re.search(
            r"(?:language|lang)-(" + LANGUAGE + r"{1,40})",
            f"{inner.attrs.get('class', '') if inner else ''} {element.attrs.get('class', '')}",
        )
        words = _code_words(element).removesuffix("\n")
        content = [{"type": "text", "text": words}] if words else []
        return [
            {"type": "codeBlock", "attrs": {"language": name.group(1) if name else ""}, "content": content}
        ]

    def definitions(self, element: Element, marks: Nodes) -> Nodes:
        """A list of definitions: each term bold, with what it means below it."""
        found: Nodes = []
        for child in element.elements():
            inner = (
                [*marks, {"type": "strong"}]
                if child.tag == "dt" and all(mark["type"] != "strong" for mark in marks)
                else marks
            )
            found += self.definitions(child, marks) if child.tag == "div" else self.blocks(child, inner)
        return found

    def divider(self, element: Element, marks: Nodes) -> Nodes:
        return [{"type": "divider"}]

    def figure(self, element: Element, marks: Nodes) -> Nodes:
        """A figure of one picture takes its caption along; any other is its content."""
        if element.attrs.get("data-kind") in ("sound", "video", "embed"):
            return self.kept_figure(element, element.attrs["data-kind"])
        pictures, caption = (
            [inner for inner in element.walk() if inner.tag == "img"],
            element.find("figcaption"),
        )
        found = self.picture(pictures[0]) if len(pictures) == 1 else []
        if not found:
            return self.blocks(element, marks)
        settings = own_html.settings_of(element, "picture")
        found = [{**found[0], "attrs": {**settings, **found[0]["attrs"]}}]
        return [{**found[0], "content": self.caption(caption)}] if caption else found

    def kept_figure(self, element: Element, kind: str) -> Nodes:
        """A sound, a video or an embed as Mobbet writes it; nothing when its settings cannot be read."""
        attrs, caption = own_html.settings_of(element, kind), element.find("figcaption")
        if not own_html.is_whole(attrs, kind):
            return self.blocks(element, [])
        return [{"type": kind, "attrs": attrs, "content": self.caption(caption) if caption else []}]

    def caption(self, element: Element) -> Nodes:
        is_exact = element.has_class(AS_TYPED)
        words = [part for part in self.line(element, [], is_exact) if part["type"] != "picture"]
        return words if is_exact else trimmed(words)

    def table(self, element: Element, marks: Nodes) -> Nodes:
        return read_table(element, lambda cell: self.blocks(cell, marks))

    def part(self, element: Element, marks: Nodes) -> Nodes:
        number = element.attrs.get("data-part", "")
        if number.isdecimal() and int(number) < len(self.parts):
            return self.parts[int(number)]
        return self.blocks(element, marks)

    def line(self, element: Element, marks: Nodes, is_exact: bool = False) -> Nodes:
        """The inline nodes of an element; a line break of the source after `<br>` is none of the text's."""
        line = [part for child in element.children for part in self.inline(child, marks, is_exact)]
        return unbroken(line)

    def picture(self, element: Element) -> Nodes:
        if _is_tracking(element):
            self.dropped["tracking pictures"] += 1
            return []
        src = self.bring(element.attrs.get("src", ""))
        if not src:
            self.dropped["pictures"] += 1
            return []
        caption = element.attrs.get("title", "")
        caption = "" if caption == element.attrs.get("alt") else caption
        node = {"type": "picture", "attrs": {"src": src, "alt": element.attrs.get("alt", "")[:2000]}}
        return [{**node, "content": [{"type": "text", "text": caption}]} if caption else node]


_MAKERS = {
    **{f"h{level}": _Walk.heading for level in range(1, 7)},
    "p": _Walk.paragraph,
    "ul": _Walk.list,
    "ol": _Walk.list,
    "blockquote": _Walk.quote,
    "pre": _Walk.code,
    "dl": _Walk.definitions,
    "hr": _Walk.divider,
    "figure": _Walk.figure,
    "table": _Walk.table,
    "div": _Walk.part,
}


def _taken_back(element: Element, marks: Nodes) -> Nodes:
    """The marks that hold within an element whose style says plain words."""
    style = element.style() if marks and "style" in element.attrs else {}
    plain = {
        "strong": style.get("font-weight", "") in ("normal", "400", "300", "lighter"),
        "emphasis": style.get("font-style", "") == "normal",
    }
    return [mark for mark in marks if not plain.get(mark["type"])] if any(plain.values()) else marks


def _is_tracking(element: Element) -> bool:
    """Whether a picture is of one pixel, so that it tells somebody that it was opened."""
    style = element.style()
    sizes = [element.attrs.get(name, "") or style.get(name, "") for name in ("width", "height")]
    return all(size.strip().removesuffix("px") in ("0", "1") for size in sizes)


def folded(words: str) -> str:
    """White space as single spaces; a non-breaking space is kept where it binds a number or a sign."""
    if "\u00a0" not in words:
        return _SPACE.sub(" ", words)
    bound = _KEPT_SPACE.sub("\x00", words)
    return _SPACE.sub(" ", bound).replace("\x00", "\u00a0")


def _take_anchor(element: Element) -> str:
    """The anchor that stands as an empty `<a id>` at a heading's end, which is taken away with its space."""
    last = element.children[-1] if element.children else None
    if last is None or isinstance(last, str) or last.tag != "a" or last.children or not last.attrs.get("id"):
        return ""
    element.children.pop()
    if element.children and isinstance(element.children[-1], str):
        element.children[-1] = element.children[-1].removesuffix(" ")
    return last.attrs["id"]


def _without_whole_strong(line: Nodes) -> Nodes:
    """A heading that is bold from end to end says nothing by it."""
    words = [part for part in line if part["type"] == "text" and part["text"].strip()]
    if not words or not all(
        any(mark["type"] == "strong" for mark in part.get("marks", ())) for part in words
    ):
        return line
    return [
        {**part, "marks": [mark for mark in part.get("marks", ()) if mark["type"] != "strong"]}
        if part["type"] == "text"
        else part
        for part in line
    ]


def _code_words(element: Element) -> str:
    return "".join(
        child if isinstance(child, str) else "\n" if child.tag == "br" else _code_words(child)
        for child in element.children
    )


def _item(blocks: Nodes) -> Node:
    """An item begins with a paragraph, an empty one where it would begin with anything else."""
    if not blocks or blocks[0]["type"] != "paragraph":
        blocks = [bare_words(), *blocks]
    return {"type": "listItem", "content": blocks}


def _text(words: str, marks: Nodes) -> Node:
    return {"type": "text", "text": words, **({"marks": marks} if marks else {})}

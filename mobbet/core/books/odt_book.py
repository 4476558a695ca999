"""A book as an .odt file (OpenDocument)."""

from __future__ import annotations

import io
from typing import Any

from odfdo import Cell as OdfCell
from odfdo import Document, Element, Frame, Header, Link, List, ListItem, Paragraph, Span, Style
from odfdo import Row as OdfRow
from odfdo import Table as OdfTable

from mobbet.core.books.book import Book, Node
from mobbet.core.document.characters import UNPRINTABLE

WIDEST_CM, PIXELS_A_CM = 15.0, 37.8


def odt_book(book: Book) -> bytes:
    """The bytes of the file."""
    document = Document("text")
    document.body.clear()
    _add_styles(document)
    document.meta.title, document.meta.creator = _clean(book.title), _clean(book.author)
    is_one = len(book.chapters) == 1
    writer = _Writer(book, document, 1 if is_one else 2)
    if not is_one:
        document.body.append(Header(1, _clean(book.title)))
    for chapter in book.chapters:
        document.body.append(Header(1 if is_one else 2, _clean(chapter.title)))
        for line in filter(None, (chapter.subtitle, " ".join(filter(None, (chapter.author, chapter.date))))):
            document.body.append(Paragraph(_clean(line), style="Subtitle"))
        writer.blocks(chapter.document["content"], document.body)
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _clean(text: str) -> str:
    return UNPRINTABLE.sub("", text)


_TEXT: dict[str, dict[str, str]] = {
    "strong": {"fo:font-weight": "bold"}, "emphasis": {"fo:font-style": "italic"}, "underline": {"style:text-underline-style": "solid"},
    "strike": {"style:text-line-through-style": "solid"}, "superscript": {"style:text-position": "super 58%"}, "subscript": {"style:text-position": "sub 58%"},
    "code": {"style:font-name": "Courier New"},
}  # fmt: skip


def _add_styles(document: Any) -> None:
    for name, properties in _TEXT.items():
        style = Style("text", name=f"mark-{name}")
        style.set_properties(properties, area="text")
        document.insert_style(style, automatic=True)


class _Writer:
    def __init__(self, book: Book, document: Any, level: int) -> None:
        self._book, self._document, self._level = book, document, level
        self._names: dict[str, str] = {}

    def blocks(self, nodes: list[Node], into: Any, style: str | None = None) -> None:
        for node in nodes:
            self._block(node, into, style)

    def _block(self, node: Node, into: Any, style: str | None) -> None:
        kind, content = node["type"], node.get("content", [])
        if kind == "heading":
            into.append(self._filled(Header(min(10, node["attrs"]["level"] + self._level), ""), content))
        elif kind in ("bulletList", "orderedList"):
            into.append(self._list(node))
        elif kind == "quote":
            self.blocks(content, into, "Quotations")
        elif kind == "codeBlock":
            paragraph = Paragraph(style="Preformatted_20_Text")
            paragraph.append_plain_text(_clean(content[0]["text"]))
            into.append(paragraph)
        elif kind == "divider":
            into.append(Paragraph("* * *"))
        elif kind == "picture":
            self._picture(node, into)
        elif kind == "table":
            self._table(node, into)
        else:
            into.append(self._filled(Paragraph(style=style), content))

    def _list(self, node: Node) -> Any:
        found = List(style="Numbering_20_1" if node["type"] == "orderedList" else "List_20_1")
        for item in node["content"]:
            box = ListItem()
            self.blocks(item["content"], box)
            found.append(box)
        return found

    def _picture(self, node: Node, into: Any) -> None:
        found = self._book.pictures.get(node["attrs"]["src"])
        alt = _clean(node["attrs"]["alt"])
        if found is None:
            into.append(Paragraph(alt))
        else:
            paragraph = Paragraph()
            paragraph.append(self._frame(node["attrs"]["src"], alt))
            into.append(paragraph)
        if node.get("content"):
            into.append(self._filled(Paragraph(style="Illustration"), node["content"]))

    def _frame(self, src: str, alt: str) -> Any:
        picture = self._book.pictures[src]
        if src not in self._names:
            self._names[src] = self._document.add_file(io.BytesIO(picture.data))
        across = min(WIDEST_CM, picture.width / PIXELS_A_CM)
        size = (f"{across:.2f}cm", f"{across * picture.height / max(1, picture.width):.2f}cm")
        frame = Frame.image_frame(self._names[src], size=size, anchor_type="as-char")
        frame.set_attribute("draw:name", f"picture {len(self._names)}")
        description = Element.from_tag("svg:desc")
        description.text = alt
        frame.append(description)
        return frame

    def _table(self, node: Node, into: Any) -> None:
        table = OdfTable(f"table-{id(node)}")
        for row in node["content"]:
            line = OdfRow()
            for cell in row["content"]:
                box = OdfCell()
                self.blocks(cell["content"], box)
                line.append(box)
                for _ in range(cell["attrs"].get("colspan", 1) - 1):
                    line.append(OdfCell())
            table.append(line)
        into.append(table)

    def _filled(self, paragraph: Any, nodes: list[Node]) -> Any:
        for node in nodes:
            if node["type"] == "lineBreak":
                paragraph.append(Element.from_tag("text:line-break"))
                continue
            self._run(paragraph, node)
        return paragraph

    def _run(self, paragraph: Any, node: Node) -> None:
        inside: Any = None
        for mark in reversed(node["marks"]):
            outer = (
                Link(mark["attrs"]["href"]) if mark["type"] == "link" else Span(style=f"mark-{mark['type']}")
            )
            if inside is None:
                outer.append_plain_text(_clean(node["text"])) if isinstance(outer, Span) else outer.append(
                    self._span(node["text"])
                )
            else:
                outer.append(inside)
            inside = outer
        if inside is None:
            paragraph.append_plain_text(_clean(node["text"]))
        else:
            paragraph.append(inside)

    def _span(self, text: str) -> Any:
        span = Span()
        span.append_plain_text(_clean(text))
        return span

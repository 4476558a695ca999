"""A book as a .docx file (Office Open XML), with the styles that every word processor knows."""

from __future__ import annotations

import io
from typing import Any

from docx import Document
from docx.enum.text import WD_BREAK
from docx.opc.constants import RELATIONSHIP_TYPE
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Cm, Emu

from mobbet.core.books.book import Book, Node
from mobbet.core.document.characters import UNPRINTABLE

WIDEST = Cm(15)


def docx_book(book: Book) -> bytes:
    """The bytes of the file."""
    document: Any = Document()
    document.core_properties.title, document.core_properties.author = (
        _clean(book.title)[:255],
        _clean(book.author)[:255],
    )
    is_one = len(book.chapters) == 1
    if not is_one:
        document.add_heading(_clean(book.title), 0)
    for number, chapter in enumerate(book.chapters):
        if number:
            document.add_page_break()
        document.add_heading(_clean(chapter.title), 0 if is_one else 1)
        for line in filter(None, (chapter.subtitle, " ".join(filter(None, (chapter.author, chapter.date))))):
            document.add_paragraph(_clean(line), style="Subtitle")
        _Writer(book, document, 0 if is_one else 1).blocks(chapter.document["content"], document)
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _clean(text: str) -> str:
    return UNPRINTABLE.sub("", text)


class _Writer:
    def __init__(self, book: Book, document: Any, level: int) -> None:
        self._book, self._document, self._level = book, document, level

    def blocks(self, nodes: list[Node], into: Any, style: str | None = None) -> None:
        for node in nodes:
            self._block(node, into, style)

    def _block(self, node: Node, into: Any, style: str | None) -> None:
        kind, content = node["type"], node.get("content", [])
        if kind == "heading":
            self._inline(
                content, into.add_paragraph(style=f"Heading {min(9, node['attrs']['level'] + self._level)}")
            )
        elif kind in ("bulletList", "orderedList"):
            self._list(node, into, 1)
        elif kind == "quote":
            self.blocks(content, into, "Quote")
        elif kind == "codeBlock":
            paragraph = into.add_paragraph()
            run = paragraph.add_run(_clean(content[0]["text"]))
            run.font.name = "Courier New"
        elif kind == "divider":
            into.add_paragraph("* * *")
        elif kind == "picture":
            self._picture(node, into)
        elif kind == "table":
            self._table(node, into)
        else:
            self._inline(content, into.add_paragraph(style=style))

    def _list(self, node: Node, into: Any, depth: int) -> None:
        name = "List Bullet" if node["type"] == "bulletList" else "List Number"
        style = name if depth == 1 else f"{name} {min(depth, 3)}"
        for item in node["content"]:
            for place, block in enumerate(item["content"]):
                if block["type"] in ("bulletList", "orderedList"):
                    self._list(block, into, depth + 1)
                else:
                    self._block(block, into, style if place == 0 else "List Continue")

    def _picture(self, node: Node, into: Any) -> None:
        found = self._book.pictures.get(node["attrs"]["src"])
        alt = _clean(node["attrs"]["alt"])
        if found is None:
            into.add_paragraph(alt)
        else:
            run = into.add_paragraph().add_run()
            shape = run.add_picture(io.BytesIO(found.data))
            if shape.width > WIDEST:
                shape.height, shape.width = Emu(int(shape.height * WIDEST / shape.width)), WIDEST
            shape._inline.docPr.set("descr", alt)
        if node.get("content"):
            self._inline(node["content"], into.add_paragraph(style="Caption"))

    def _table(self, node: Node, into: Any) -> None:
        rows = node["content"]
        columns = max(
            (sum(cell["attrs"].get("colspan", 1) for cell in row["content"]) for row in rows), default=0
        )
        if not columns:
            return
        table = into.add_table(rows=len(rows), cols=columns)
        table.style = "Table Grid"
        taken: set[tuple[int, int]] = set()
        for y, row in enumerate(rows):
            x = 0
            for cell in row["content"]:
                while (y, x) in taken:
                    x += 1
                if x >= columns:
                    break
                right = min(columns, x + cell["attrs"].get("colspan", 1)) - 1
                low = min(len(rows), y + cell["attrs"].get("rowspan", 1)) - 1
                taken |= {(one, other) for one in range(y, low + 1) for other in range(x, right + 1)}
                box = table.cell(y, x)
                if (low, right) != (y, x):
                    box = box.merge(table.cell(low, right))
                self._cell(cell, box)
                x = right + 1

    def _cell(self, cell: Node, box: Any) -> None:
        first = box.paragraphs[0]
        self.blocks(cell["content"], box)
        if len(box.paragraphs) > 1 and not first.runs:
            first._element.getparent().remove(first._element)
        if cell["type"] == "tableHeader":
            for run in (run for paragraph in box.paragraphs for run in paragraph.runs):
                run.bold = True

    def _inline(self, nodes: list[Node], paragraph: Any) -> None:
        for node in nodes:
            if node["type"] == "lineBreak":
                paragraph.add_run().add_break(WD_BREAK.LINE)
                continue
            marks = {mark["type"]: mark for mark in node["marks"]}
            run = paragraph.add_run(_clean(node["text"]))
            run.bold, run.italic = "strong" in marks or None, "emphasis" in marks or None
            run.underline = "underline" in marks or "link" in marks or None
            run.font.strike = "strike" in marks or None
            run.font.superscript, run.font.subscript = (
                "superscript" in marks or None,
                "subscript" in marks or None,
            )
            if "code" in marks:
                run.font.name = "Courier New"
            if "link" in marks:
                self._link(paragraph, run, marks["link"]["attrs"]["href"])

    def _link(self, paragraph: Any, run: Any, address: str) -> None:
        number = paragraph.part.relate_to(address, RELATIONSHIP_TYPE.HYPERLINK, is_external=True)
        link = OxmlElement("w:hyperlink")
        link.set(qn("r:id"), number)
        run._element.getparent().replace(run._element, link)
        link.append(run._element)

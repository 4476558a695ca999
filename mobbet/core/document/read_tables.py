"""HTML tables to document: tables of data stay tables, those that only arrange a page are taken apart."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from mobbet.core.document.elements import Element
from mobbet.core.document.own_html import align_of

Node = dict[str, Any]
Blocks = Callable[[Element], list[Node]]
_ALIGN = {"center": "centre", "right": "end", "end": "end", "centre": "centre"}


def read_table(element: Element, blocks: Blocks) -> list[Node]:
    """The table as one node, or its cells' blocks one after the other. `blocks` reads a cell."""
    rows = list(_rows(element))
    is_own = element.has_class("data")
    if not is_own and not _is_data(element, rows):
        return [block for child in element.elements() for block in _loose(child, blocks)]
    caption = next((child.words() for child in element.elements() if child.tag == "caption"), "")
    content = [
        _row(row, is_head or (not is_own and at == 0 and _is_bold_head(rows)), blocks, is_own)
        for at, (row, is_head) in enumerate(rows)
    ]
    content = [row for row in content if row["content"] or is_own]
    return [{"type": "table", "attrs": {"caption": caption[:300]}, "content": content}] if content else []


def _rows(element: Element) -> Iterator[tuple[Element, bool]]:
    """The rows of a table, each with whether it stands in the head."""
    for child in element.elements():
        if child.tag == "tr":
            yield child, False
        elif child.tag in ("thead", "tbody", "tfoot"):
            yield from ((row, child.tag == "thead") for row in child.elements() if row.tag == "tr")


def _cells(row: Element) -> list[Element]:
    return [child for child in row.elements() if child.tag in ("td", "th")]


def _is_data(element: Element, rows: list[tuple[Element, bool]]) -> bool:
    if element.attrs.get("role") in ("presentation", "none") or any(
        inner.tag == "table" for inner in element.walk()
    ):
        return False
    if element.find("th") is not None:
        return True
    return len(rows) > 1 and max(len(_cells(row)) for row, _ in rows) > 1


def _loose(element: Element, blocks: Blocks) -> list[Node]:
    if element.tag in ("td", "th", "caption"):
        return blocks(element)
    return [block for child in element.elements() for block in _loose(child, blocks)]


def _row(row: Element, is_head: bool, blocks: Blocks, is_own: bool) -> Node:
    return {
        "type": "tableRow",
        "content": [_cell(cell, is_head and not is_own, blocks) for cell in _cells(row)],
    }


def _cell(cell: Element, is_head: bool, blocks: Blocks) -> Node:
    align = align_of(cell)
    if align == "start":
        align = _ALIGN.get(cell.attrs.get("align", "").lower() or cell.style().get("text-align", ""), "start")
    attrs = {"colspan": _span(cell, "colspan", 60), "rowspan": _span(cell, "rowspan", 500), "align": align}
    is_heading = cell.tag == "th" or is_head
    content = blocks(cell)
    if is_head:
        content = [_without_strong(block) for block in content]
    return {"type": "tableHeader" if is_heading else "tableCell", "attrs": attrs, "content": content}


def _span(cell: Element, name: str, most: int) -> int:
    given = cell.attrs.get(name, "")
    return min(most, max(1, int(given))) if given.isascii() and given.isdecimal() and len(given) < 6 else 1


def _is_bold_head(rows: list[tuple[Element, bool]]) -> bool:
    """Whether the first row alone is bold, which is how word processors tell a heading."""
    if not rows or rows[0][1]:
        return False
    bold = [all(_is_bold(cell) for cell in _cells(row) if cell.words().strip()) for row, _ in rows]
    return bold[0] and any(cell.words().strip() for cell in _cells(rows[0][0])) and not any(bold[1:])


def _is_bold(element: Element) -> bool:
    """Whether all words in an element are bold."""
    if element.tag in ("b", "strong", "th") or element.style().get("font-weight", "") in (
        "bold",
        "600",
        "700",
        "800",
        "900",
    ):
        return True
    return all(
        not child.strip() if isinstance(child, str) else _is_bold(child) or not child.words().strip()
        for child in element.children
    )


def _without_strong(block: Node) -> Node:
    if "content" in block:
        return {**block, "content": [_without_strong(child) for child in block["content"]]}
    return (
        {**block, "marks": [mark for mark in block.get("marks", ()) if mark["type"] != "strong"]}
        if "marks" in block
        else block
    )

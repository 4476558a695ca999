"""The text of an OpenDocument file (ODF 1.3) as plain HTML, which `from_html` reads like any other."""

from __future__ import annotations

from collections.abc import Callable
from html import escape

from lxml import etree

_NAMES = "urn:oasis:names:tc:opendocument:xmlns:"
OFFICE, TEXT, STYLE, TABLE, DRAW = (
    f"{{{_NAMES}{name}:1.0}}" for name in ("office", "text", "style", "table", "drawing")
)
FO, SVG = f"{{{_NAMES}xsl-fo-compatible:1.0}}", f"{{{_NAMES}svg-compatible:1.0}}"
HREF = "{http://www.w3.org/1999/xlink}href"
_LEFT_OUT = frozenset(
    "tracked-changes sequence-decls forms variable-decls user-field-decls annotation annotation-end change change-start change-end "
    "bookmark bookmark-start bookmark-end reference-mark soft-page-break note-citation alphabetical-index-mark".split()
)
_TYPES = {"a": "a", "A": "A", "i": "i", "I": "I"}
_QUOTES = ("Quotations", "Quote", "Block_20_Quotation")


def html_of(content: etree._Element, styles: etree._Element | None, picture: Callable[[str], str]) -> str:
    """HTML of the body; `picture` answers with the address of a picture file in the archive, or ''."""
    body = content.find(f".//{OFFICE}text")
    if body is None:
        return ""
    writer = _Writer(picture)
    for tree in (styles, content):
        if tree is not None:
            writer.learn(tree)
    return writer.children(body) + writer.notes_html()


class _Writer:
    def __init__(self, picture: Callable[[str], str]) -> None:
        self.picture = picture
        self.css: dict[str, str] = {}
        self.parent: dict[str, str] = {}
        self.lists: dict[str, list[str]] = {}
        self.notes: list[str] = []

    def learn(self, tree: etree._Element) -> None:
        """The styles of a tree: their CSS, their parents, and what the levels of lists are numbered by."""
        for style in tree.iter(f"{STYLE}style"):
            name = style.get(f"{STYLE}name", "")
            self.css[name] = _css(style.find(f"{STYLE}text-properties"))
            self.parent[name] = style.get(f"{STYLE}parent-style-name", "")
        for style in tree.iter(f"{TEXT}list-style"):
            levels = [
                level.get(f"{STYLE}num-format", "1") if level.tag == f"{TEXT}list-level-style-number" else ""
                for level in style.iterchildren(tag=etree.Element)
            ]
            self.lists[style.get(f"{STYLE}name", "")] = levels

    def children(self, element: etree._Element, level: int = 0, style: str = "") -> str:
        """The blocks in an element; lines of code in a row are one block of code."""
        blocks = "".join(self.block(child, level, style) for child in element.iterchildren(tag=etree.Element))
        return blocks.replace("</pre><pre>", "\n")

    def block(self, element: etree._Element, level: int, style: str) -> str:
        name = etree.QName(element).localname
        if name in _LEFT_OUT:
            return ""
        if name == "p":
            return self.paragraph(element)
        if name == "h":
            depth = min(6, max(1, int(element.get(f"{TEXT}outline-level", "1"))))
            return f"<h{depth}>{self.inline(element)}</h{depth}>"
        if name == "list":
            return self.list(element, level, element.get(f"{TEXT}style-name") or style)
        if name == "table":
            return self.table(element)
        if name in ("frame", "image"):
            return self.frame(element)
        return self.children(element, level, style)

    def paragraph(self, element: etree._Element) -> str:
        name = element.get(f"{TEXT}style-name", "")
        inner = self.inline(element)
        line = {name, *self.ancestors(name)}
        if "Title" in line:
            return f"<h1>{inner}</h1>"
        if "Subtitle" in line:
            return f"<h2>{inner}</h2>"
        if line & set(_QUOTES):
            return f"<blockquote><p>{inner}</p></blockquote>"
        if "Preformatted_20_Text" in line:
            return f"<pre>{inner}</pre>"
        if "Horizontal_20_Line" in line and not inner.strip():
            return "<hr>"
        return f'<p style="{escape(self.whole_css(name))}">{inner}</p>'

    def ancestors(self, name: str) -> list[str]:
        found: list[str] = []
        while name in self.parent and self.parent[name] and self.parent[name] not in found:
            name = self.parent[name]
            found.append(name)
        return found

    def whole_css(self, name: str) -> str:
        return "".join(self.css.get(style, "") for style in [*reversed(self.ancestors(name)), name])

    def list(self, element: etree._Element, level: int, style: str) -> str:
        levels = self.lists.get(style, [])
        number = levels[level] if level < len(levels) else ""
        items = []
        for item in element.iterchildren(f"{TEXT}list-item", f"{TEXT}list-header"):
            items.append(f"<li>{self.children(item, level + 1, style)}</li>")
        first = element.find(f"{TEXT}list-item")
        start = first.get(f"{TEXT}start-value", "") if first is not None else ""
        begins = f' start="{escape(start)}"' if start else ""
        if not number:
            return f"<ul>{''.join(items)}</ul>"
        kind = f' type="{_TYPES[number]}"' if number in _TYPES else ""
        return f"<ol{kind}{begins}>{''.join(items)}</ol>"

    def table(self, element: etree._Element) -> str:
        head = "".join(
            self.row(row, "th")
            for rows in element.iterchildren(f"{TABLE}table-header-rows")
            for row in rows.iterchildren(f"{TABLE}table-row")
        )
        rows = element.iterchildren(f"{TABLE}table-row", f"{TABLE}table-rows")
        body = "".join(
            self.row(row, "td") if row.tag == f"{TABLE}table-row" else self.row_group(row) for row in rows
        )
        return f"<table>{f'<thead>{head}</thead>' if head else ''}<tbody>{body}</tbody></table>"

    def row_group(self, element: etree._Element) -> str:
        return "".join(self.row(row, "td") for row in element.iterchildren(f"{TABLE}table-row"))

    def row(self, element: etree._Element, tag: str) -> str:
        cells = []
        for cell in element.iterchildren(f"{TABLE}table-cell"):
            spans = "".join(
                f' {name}="{cell.get(f"{TABLE}number-{side}-spanned")}"'
                for name, side in (("colspan", "columns"), ("rowspan", "rows"))
                if (cell.get(f"{TABLE}number-{side}-spanned") or "1").isdecimal()
                and cell.get(f"{TABLE}number-{side}-spanned")
            )
            cells.append(f"<{tag}{spans}>{self.children(cell)}</{tag}>")
        return f"<tr>{''.join(cells)}</tr>"

    def frame(self, element: etree._Element) -> str:
        """A picture with its description, or the text of a box."""
        box = element.find(f"{DRAW}text-box")
        if box is not None:
            return self.children(box)
        image = element if etree.QName(element).localname == "image" else element.find(f"{DRAW}image")
        if image is None:
            return ""
        address = self.picture(image.get(HREF, ""))
        told = element.findtext(f"{SVG}desc") or element.findtext(f"{SVG}title") or ""
        return f'<img src="{escape(address)}" alt="{escape(told)}">' if address else ""

    def inline(self, element: etree._Element) -> str:
        parts = [escape(element.text or "", quote=False)]
        for child in element.iterchildren(tag=etree.Element):
            parts.append(self.inline_of(child))
            parts.append(escape(child.tail or "", quote=False))
        return "".join(parts)

    def inline_of(self, child: etree._Element) -> str:
        name = etree.QName(child).localname
        if name == "span":
            return f'<span style="{escape(self.whole_css(child.get(f"{TEXT}style-name", "")))}">{self.inline(child)}</span>'
        if name == "a":
            return f'<a href="{escape(child.get(HREF, ""))}">{self.inline(child)}</a>'
        if name == "line-break":
            return "<br>"
        if name == "s":
            count = child.get(f"{TEXT}c", "1")
            return " " * (min(200, int(count)) if count.isdecimal() else 1)
        if name == "tab":
            return "\t"
        if name == "note":
            return self.note(child)
        if name in ("frame", "image"):
            return self.frame(child)
        return "" if name in _LEFT_OUT else self.inline(child)

    def note(self, element: etree._Element) -> str:
        body = element.find(f"{TEXT}note-body")
        self.notes.append(self.children(body) if body is not None else "")
        number = len(self.notes)
        return f'<sup><a id="fnref{number}" href="#fn{number}">{number}</a></sup>'

    def notes_html(self) -> str:
        items = (
            f'<li id="fn{number}">{note}<a href="#fnref{number}">↑</a></li>'
            for number, note in enumerate(self.notes, 1)
        )
        return f"<ol>{''.join(items)}</ol>" if self.notes else ""


def _css(properties: etree._Element | None) -> str:
    """The text properties that say something, as CSS."""
    if properties is None:
        return ""
    parts = [
        f"{name}:{value};"
        for name in ("font-weight", "font-style", "font-size")
        if (value := properties.get(f"{FO}{name}"))
    ]
    lines = [
        word
        for name, word in (("text-underline-style", "underline"), ("text-line-through-style", "line-through"))
        if properties.get(f"{STYLE}{name}", "none") != "none"
    ]
    if lines:
        parts.append(f"text-decoration:{' '.join(lines)};")
    raised = properties.get(f"{STYLE}text-position", "").split(" ")[0]
    if raised == "super" or (raised.endswith("%") and not raised.startswith(("-", "0"))):
        parts.append("vertical-align:super;")
    elif raised == "sub" or raised.startswith("-"):
        parts.append("vertical-align:sub;")
    if properties.get(f"{TEXT}display") == "none":
        parts.append("display:none;")
    return "".join(parts)

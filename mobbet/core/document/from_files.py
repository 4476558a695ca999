"""Plain text and word-processor files to document."""

from __future__ import annotations

import io
import re
import zipfile
from typing import Any

import mammoth
from lxml import etree

from mobbet.core.document import schema
from mobbet.core.document.from_html import from_html
from mobbet.core.document.links import clean_address
from mobbet.core.errors import BadDocument

Node = dict[str, Any]

LARGEST_FILE = 50_000_000
LARGEST_UNPACKED = 100_000_000
_OFFICE = "urn:oasis:names:tc:opendocument:xmlns:office:1.0"
_TEXT = "urn:oasis:names:tc:opendocument:xmlns:text:1.0"
_STYLE = "urn:oasis:names:tc:opendocument:xmlns:style:1.0"
_FO = "urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0"
_HREF = "{http://www.w3.org/1999/xlink}href"


def from_text(source: str) -> Node:
    """Plain text: blank lines make paragraphs, a single line break is a line break."""
    blocks = []
    for block in re.split(r"\n\s*\n", source.replace("\r\n", "\n").replace("\r", "\n").lstrip("\ufeff")):
        lines = [line.strip() for line in block.strip().split("\n")]
        content: list[Node] = []
        for line in lines:
            content += ([{"type": "lineBreak"}] if content else []) + ([{"type": "text", "text": line}] if line else [])
        if any(lines):
            blocks.append({"type": "paragraph", "content": content})
    return schema.check({"type": "doc", "content": blocks})


def from_docx(data: bytes) -> Node:
    """The text of a .docx file; its pictures are left out. Raises BadDocument for a damaged one."""
    _check_archive(data, "word/document.xml", ".docx")
    try:
        html = mammoth.convert_to_html(
            io.BytesIO(data), convert_image=mammoth.images.img_element(lambda image: {"src": ""})
        ).value
    except Exception:
        # mammoth raises whatever its XML and zip parts raise; for a person they all mean one thing
        raise BadDocument("The .docx file is damaged; open it in its word processor and save it again.") from None
    return from_html(html)


def from_odt(data: bytes) -> Node:
    """The text of an .odt file (OpenDocument 1.3); its pictures are left out. Raises BadDocument."""
    _check_archive(data, "content.xml", ".odt")
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        source = archive.read("content.xml")
    try:
        parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
        root = etree.fromstring(source, parser)
    except etree.XMLSyntaxError:
        raise BadDocument("The .odt file is damaged; open it in its word processor and save it again.") from None
    body = root.find(f".//{{{_OFFICE}}}text")
    blocks = _Odt(root).blocks(body) if body is not None else []
    return schema.check({"type": "doc", "content": blocks})


def _check_archive(data: bytes, member: str, ending: str) -> None:
    if len(data) > LARGEST_FILE:
        raise BadDocument(f"The {ending} file is larger than {LARGEST_FILE // 1_000_000} MB; bring it in in parts.")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            unpacked = sum(info.file_size for info in archive.infolist())
            has_member = member in archive.namelist()
    except (zipfile.BadZipFile, OSError):
        has_member, unpacked = False, 0
    if not has_member:
        raise BadDocument(f"This is not a {ending} file; choose one that a word processor saved.")
    if unpacked > LARGEST_UNPACKED:
        raise BadDocument(f"The {ending} file unpacks to more than {LARGEST_UNPACKED // 1_000_000} MB; bring it in in parts.")


class _Odt:
    """One walk over an OpenDocument text; the marks of its automatic styles are read first."""

    def __init__(self, root: etree._Element) -> None:
        self.marks = {}
        self.numbered = set()
        for style in root.iter(f"{{{_STYLE}}}style"):
            self.marks[style.get(f"{{{_STYLE}}}name")] = _marks_of_style(style.find(f"{{{_STYLE}}}text-properties"))
        for style in root.iter(f"{{{_TEXT}}}list-style"):
            if style.find(f"{{{_TEXT}}}list-level-style-number[@{{{_TEXT}}}level='1']") is not None:
                self.numbered.add(style.get(f"{{{_STYLE}}}name"))

    def blocks(self, parent: etree._Element) -> list[Node]:
        found: list[Node] = []
        for element in parent.iterchildren(tag=etree.Element):
            name = etree.QName(element).localname
            if name == "p":
                content = self.inline(element, [])
                found += [{"type": "paragraph", "content": content}] if content else []
            elif name == "h":
                level = min(6, max(1, int(element.get(f"{{{_TEXT}}}outline-level", "1"))))
                found.append({"type": "heading", "attrs": {"level": level}, "content": self.inline(element, [])})
            elif name == "list":
                found += self.list(element)
            elif name not in ("tracked-changes", "sequence-decls", "forms"):
                found += self.blocks(element)
        return found

    def list(self, element: etree._Element) -> list[Node]:
        items = []
        for child in element.iterchildren(f"{{{_TEXT}}}list-item"):
            blocks = self.blocks(child)
            if not blocks or blocks[0]["type"] != "paragraph":
                blocks = [{"type": "paragraph"}, *blocks]
            items.append({"type": "listItem", "content": blocks})
        is_numbered = element.get(f"{{{_TEXT}}}style-name") in self.numbered
        return [{"type": "orderedList" if is_numbered else "bulletList", "content": items}] if items else []

    def inline(self, element: etree._Element, marks: list[Node]) -> list[Node]:
        parts = _words(element.text, marks)
        for child in element.iterchildren(tag=etree.Element):
            name = etree.QName(child).localname
            if name == "span":
                own = self.marks.get(child.get(f"{{{_TEXT}}}style-name"), [])
                parts += self.inline(child, [*marks, *own])
            elif name == "a":
                href = clean_address(child.get(_HREF))
                parts += self.inline(child, [*marks, {"type": "link", "attrs": {"href": href}}] if href else marks)
            elif name == "line-break":
                parts.append({"type": "lineBreak"})
            elif name in ("s", "tab"):
                parts += _words(" ", marks)
            elif name not in ("note", "annotation", "frame", "change", "change-start", "change-end"):
                parts += self.inline(child, marks)
            parts += _words(child.tail, marks)
        return parts


def _words(text: str | None, marks: list[Node]) -> list[Node]:
    words = re.sub(r"\s+", " ", text or "")
    return [{"type": "text", "text": words, **({"marks": marks} if marks else {})}] if words else []


def _marks_of_style(properties: etree._Element | None) -> list[Node]:
    if properties is None:
        return []
    names = []
    if properties.get(f"{{{_FO}}}font-weight", "") in ("bold", "600", "700", "800", "900"):
        names.append("strong")
    if properties.get(f"{{{_FO}}}font-style", "") in ("italic", "oblique"):
        names.append("emphasis")
    if properties.get(f"{{{_STYLE}}}text-underline-style", "none") != "none":
        names.append("underline")
    if properties.get(f"{{{_STYLE}}}text-line-through-style", "none") != "none":
        names.append("strike")
    return [{"type": name} for name in names]

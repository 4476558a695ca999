"""Writes XML for feeds and site maps."""

from __future__ import annotations

import re
from xml.etree import ElementTree
from xml.etree.ElementTree import Element

_FORBIDDEN = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
"""Characters that XML 1.0 cannot hold."""


def add(parent: Element, tag: str, text: str | None = None, **attributes: str) -> Element:
    """Appends an element; characters that XML cannot hold are left out."""
    clean = {name: _FORBIDDEN.sub("", value) for name, value in attributes.items()}
    child = ElementTree.SubElement(parent, tag, clean)
    if text is not None:
        child.text = _FORBIDDEN.sub("", text)
    return child


def to_bytes(root: Element) -> bytes:
    data: bytes = ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)
    return data

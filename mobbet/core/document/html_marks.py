"""Which marks an HTML element gives to the words in it, by its name or its style."""

from __future__ import annotations

import re

from mobbet.core.document.elements import Element

MARK_OF_TAG = {
    "strong": "strong", "b": "strong", "em": "emphasis", "i": "emphasis", "cite": "emphasis", "dfn": "emphasis",
    "var": "emphasis", "u": "underline", "ins": "underline", "s": "strike", "strike": "strike", "del": "strike",
    "code": "code", "kbd": "code", "samp": "code", "tt": "code", "sup": "superscript", "sub": "subscript",
}  # fmt: skip


def mark_names(element: Element) -> list[str]:
    """The marks that an element gives by its name or its style."""
    names = [MARK_OF_TAG[element.tag]] if element.tag in MARK_OF_TAG else []
    if element.tag == "mark":
        return names
    if "style" not in element.attrs:
        return names
    style = element.style()
    weight = style.get("font-weight", "")
    if re.fullmatch(r"bold|bolder|[6-9]00", weight):
        names.append("strong")
    elif weight in ("normal", "400") and "strong" in names:
        names.remove("strong")
    slant = style.get("font-style", "")
    if slant.startswith(("italic", "oblique")):
        names.append("emphasis")
    elif slant == "normal" and "emphasis" in names:
        names.remove("emphasis")
    lines = style.get("text-decoration", "") + " " + style.get("text-decoration-line", "")
    if "underline" in lines and not _holds_link(element):
        names.append("underline")
    if "line-through" in lines:
        names.append("strike")
    raised = style.get("vertical-align", "")
    return [*names, *(["superscript"] if raised == "super" else ["subscript"] if raised == "sub" else [])]


def _holds_link(element: Element) -> bool:
    return any(inner.tag == "a" for inner in element.walk())

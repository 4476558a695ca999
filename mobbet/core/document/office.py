"""Turns what word processors and mail programs write into the plain HTML they mean.

Works on a parsed page before it is read: comments and deleted text go, paragraphs that stand for list
items become lists, bold short lines in a larger size become headings, notes are gathered at the end.
"""

from __future__ import annotations

import re
from collections import Counter

from mobbet.core.document import office_lists, office_notes
from mobbet.core.document.elements import Element
from mobbet.core.document.html import AS_TYPED

LONGEST_HEADING = 100
_POINTS = {"pt": 1.0, "px": 0.75, "em": 12.0, "rem": 12.0, "%": 0.12}
_NAMED = {
    "xx-small": 7.0,
    "x-small": 7.5,
    "small": 10.0,
    "medium": 12.0,
    "large": 13.5,
    "x-large": 18.0,
    "xx-large": 24.0,
}
_FONT = {"1": 7.5, "2": 10.0, "3": 12.0, "4": 13.5, "5": 18.0, "6": 24.0, "7": 36.0}
_BOLD = re.compile(r"bold|bolder|[6-9]00")


def tidy(body: Element, dropped: Counter[str]) -> None:
    """Rewrites a page in place; `dropped` counts what went."""
    office_notes.gather(body)
    _clean(body, dropped)
    _make_headings(body)
    office_lists.make(body)


def _clean(element: Element, dropped: Counter[str]) -> None:
    kept: list[Element | str] = []
    for child in element.children:
        if isinstance(child, str):
            kept.append(child)
            continue
        reason = _reason_to_drop(child)
        if reason:
            dropped[reason] += 1
            continue
        _clean(child, dropped)
        if child.tag == "ins" and _is_tracked(child):
            kept.extend(child.children)
            continue
        _rename(child)
        kept.append(child)
    element.children[:] = kept


def _reason_to_drop(element: Element) -> str:
    """Why an element goes with all that is in it; '' when it stays."""
    if element.tag == "del" and _is_tracked(element):
        return "deleted text"
    attrs = element.attrs
    if not attrs:
        return ""
    name = attrs.get("class", "").lower()
    if (
        "msocom" in name
        or "msocommentreference" in name
        or "comment-marker" in name
        or attrs.get("href", "").lower().startswith("#_msocom")
    ):
        return "comments"
    if "style" in attrs:
        style = attrs["style"].lower()
        if "mso-element:comment" in style.replace(" ", ""):
            return "comments"
        if "mso-hide:all" in style.replace(" ", "") or element.style().get("display") == "none":
            return "hidden text"
    return "hidden text" if "hidden" in attrs and element.tag != "hr" else ""


def _is_tracked(element: Element) -> bool:
    return "datetime" in element.attrs or "cite" in element.attrs


def _rename(element: Element) -> None:
    """Paragraphs whose style says what they are get the element for it."""
    if element.tag != "p" or not element.attrs:
        return
    name = element.attrs.get("class", "")
    level = re.search(r"mso-outline-level:\s*([1-6])", element.attrs.get("style", ""))
    if name in ("MsoTitle", "Title"):
        element.tag = "h1"
    elif level:
        element.tag = f"h{level.group(1)}"
    elif name in ("MsoQuote", "MsoIntenseQuote"):
        element.tag, element.children = "blockquote", [Element("p", {}, element.children)]
        element.holds_block = True
    elif name in ("MsoSubtitle", "Subtitle"):
        element.tag = "h2"


def _make_headings(body: Element) -> None:
    """Bold short lines in a larger size than the text's become headings, the largest of level 2."""
    if not any("style" in element.attrs or element.tag == "font" for element in body.walk()):
        return
    sizes: Counter[float] = Counter()
    candidates: list[tuple[Element, float]] = []
    _measure(body, sizes, candidates, is_listed=False)
    usual = sizes.most_common(1)[0][0] if sizes else 12.0
    larger = [(element, size) for element, size in candidates if size >= usual * 1.12]
    levels = {
        size: min(4, 2 + rank) for rank, size in enumerate(sorted({size for _, size in larger}, reverse=True))
    }
    for element, size in larger:
        element.tag = f"h{levels[size]}"


def _measure(
    element: Element, sizes: Counter[float], candidates: list[tuple[Element, float]], is_listed: bool
) -> None:
    for child in element.elements():
        if child.tag in ("p", "div") and not child.holds_block:
            words = child.words()
            if len(words) > LONGEST_HEADING:  # no heading: its first words tell the size
                sizes[_first_size(child, 12.0)] += len(words)
                continue
            runs: list[tuple[int, float, bool]] = []
            _runs(child, 12.0, False, runs)
            letters = sum(count for count, _, _ in runs)
            for count, size, _ in runs:
                sizes[size] += count
            is_short = 0 < letters <= LONGEST_HEADING and not words.rstrip().endswith((".", ",", ";", ":"))
            if (
                is_short
                and not is_listed
                and not child.has_class(AS_TYPED)
                and all(is_bold for _, _, is_bold in runs)
            ):
                candidates.append((child, min(size for _, size, _ in runs)))
        else:
            _measure(child, sizes, candidates, is_listed or child.tag in ("li", "table", "blockquote"))


def _runs(element: Element, size: float, is_bold: bool, found: list[tuple[int, float, bool]]) -> None:
    """Adds the stretches of words in an element: (letters, size in points, whether bold)."""
    size, is_bold = _dressed(element, size, is_bold)
    for child in element.children:
        if not isinstance(child, str):
            _runs(child, size, is_bold, found)
        elif child.strip():
            found.append((len(child.strip()), size, is_bold))


def _first_size(element: Element, size: float) -> float:
    """The size of the first words in an element."""
    while True:
        size, _ = _dressed(element, size, False)
        inner = next(
            (child for child in element.children if not isinstance(child, str) or child.strip()), None
        )
        if inner is None or isinstance(inner, str):
            return size
        element = inner


def _dressed(element: Element, size: float, is_bold: bool) -> tuple[float, bool]:
    if element.tag in ("b", "strong"):
        is_bold = True
    if not element.attrs:
        return size, is_bold
    if element.tag == "font":
        size = _FONT.get(element.attrs.get("size", ""), size)
    if "style" in element.attrs:
        style = element.style()
        weight = style.get("font-weight", "")
        is_bold = bool(_BOLD.fullmatch(weight)) if weight else is_bold
        size = _points(style.get("font-size", ""), size)
    return size, is_bold


def _points(given: str, before: float) -> float:
    number = re.fullmatch(r"([\d.]{1,8})(pt|px|em|rem|%)", given)
    if not number:
        return _NAMED.get(given, before)
    try:
        return float(number.group(1)) * _POINTS[number.group(2)]
    except ValueError:
        return before

"""What the style rules of a pasted text mean: bold words, headings made by size, lines of a code editor.

Only rules for a class, alone or of an element (`.big`, `p.big`), are read, as programs write them that dress text by classes; their properties
become those of the elements' own `style`, so that the rest of the reader need not know of them.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from mobbet.core.document.elements import Element, declarations

MOST_RULES = 2_000
LONGEST_HEADING = 160
LARGER, LARGER_BOLD, USUAL = 1.25, 1.08, 12.0
"""By how much a paragraph is larger than the text, to be a heading; and one that is bold; the size in points of what no rule names."""
_COPIED = (
    "font-family",
    "font-weight",
    "font-style",
    "text-decoration",
    "text-decoration-line",
    "white-space",
    "margin-left",
    "text-indent",
    "vertical-align",
)
_SELECTOR = re.compile(r"([a-z][a-z0-9]*)?\.([\w-]{1,80})")
_SIZE = re.compile(r"(\d{1,3}(?:\.\d{1,3})?)(pt|px|em|rem|%)?")
_POINTS = {"pt": 1.0, "px": 0.75, "em": 12.0, "rem": 12.0, "%": 0.12, None: 1.0}
_MONOSPACE = ("mono", "consolas", "courier", "menlo", "monaco", "source code", "fira code")
_PARAGRAPHS = ("p", "div")
_BOLD = ("bold", "bolder", "600", "700", "800", "900")

Rules = dict[str, dict[str, str]]
"""{“.big” or “p.big”: its declarations}."""


def read_rules(source: str) -> Rules:
    """The rules of every `<style>` of a page."""
    rules: Rules = {}
    lower, at = source.lower(), 0
    while (start := lower.find("<style", at)) >= 0 and len(rules) < MOST_RULES:
        begin = lower.find(">", start)
        end = lower.find("</style", begin)
        if begin < 0 or end < 0:
            break
        for block in lower[begin + 1 : end].split("}"):
            selectors, brace, body = block.rpartition("{")
            for selector in selectors.split(",")[:40] if brace else ():
                match = _SELECTOR.fullmatch(selector.strip().rpartition("\n")[2].strip())
                if match:
                    key = f"{match[1] or ''}.{match[2]}"
                    rules[key] = {**rules.get(key, {}), **declarations(body.strip())}
        at = end + 1
    return rules


def dress(body: Element, rules: Rules) -> None:
    """Gives elements the properties that the rules for their classes name, and makes headings and code blocks of what only looks so."""
    if rules:
        sizes = dict(_sizes(body, rules))
        _make_headings(body, sizes)
    for element in [body, *body.walk()]:
        element.children = [
            _code(child) if isinstance(child, Element) else child for child in element.children
        ]


def _sizes(body: Element, rules: Rules) -> Iterator[tuple[int, tuple[float, bool]]]:
    """(identity of an element, (its size in points, whether it is bold)) of each element that a rule is for."""
    for element in body.walk():
        names = element.attrs.get("class", "").lower().split()[:12]
        found: dict[str, str] = {}
        for key in (*(f".{name}" for name in names), *(f"{element.tag}.{name}" for name in names)):
            found.update(rules.get(key, {}))
        if not found:
            continue
        copied = "; ".join(f"{name}: {found[name]}" for name in _COPIED if name in found)
        if copied:
            element.attrs["style"] = f"{copied}; {element.attrs.get('style', '')}"
        size = _SIZE.match(found.get("font-size", ""))
        if size:
            points = float(size[1]) * _POINTS[size[2]]
            yield id(element), (points, found.get("font-weight", "") in _BOLD)


def _make_headings(body: Element, sizes: dict[int, tuple[float, bool]]) -> None:
    paragraphs = [one for one in body.walk() if one.tag in _PARAGRAPHS and not one.holds_block]
    dressed = [(one, _size_of(one, sizes) or (USUAL, False)) for one in paragraphs]
    letters: Counter[float] = Counter()
    for element, (points, _) in dressed:
        letters[points] += len(element.words().strip())
    if len(letters) < 2:
        return
    usual = letters.most_common(1)[0][0]
    headings = [
        (element, points)
        for element, (points, is_bold) in dressed
        if 0 < len(element.words().strip()) <= LONGEST_HEADING
        and points >= usual * (LARGER_BOLD if is_bold else LARGER)
    ]
    ranks = sorted({points for _, points in headings}, reverse=True)
    is_title = bool(headings) and sum(points == ranks[0] for _, points in headings) == 1 and len(ranks) > 1
    for element, points in headings:
        element.tag = f"h{min(6, ranks.index(points) + (1 if is_title else 2))}"


def _size_of(element: Element, sizes: dict[int, tuple[float, bool]]) -> tuple[float, bool] | None:
    """The size of a paragraph: that of the element itself, or of the one that holds all its words."""
    inner, is_bold = element, False
    while True:
        found = sizes.get(id(inner))
        is_bold = is_bold or inner.style().get("font-weight", "") in _BOLD or inner.tag in ("b", "strong")
        children = [child for child in inner.children if not isinstance(child, str) or child.strip()]
        if len(children) != 1 or isinstance(children[0], str):
            return (found[0], found[1] or is_bold) if found else None
        if found and not sizes.get(id(children[0])):
            return found[0], found[1] or is_bold or children[0].tag in ("b", "strong")
        inner = children[0]


def _code(element: Element) -> Element:
    """The lines of a code editor as one block of code; any other element as it is."""
    style = element.style()
    if element.tag not in _PARAGRAPHS or not style.get("white-space", "").startswith("pre"):
        return element
    if not any(name in style.get("font-family", "") for name in _MONOSPACE):
        return element
    return Element("pre", {}, ["".join(_code_lines(element)).strip("\n")])


def _code_lines(element: Element) -> Iterator[str]:
    for child in element.children:
        if isinstance(child, str):
            yield child
        elif child.tag == "br":
            yield "\n"
        else:
            words = "".join(_code_lines(child))
            yield f"{words}\n" if child.tag in ("div", "p") and not words.endswith("\n") else words

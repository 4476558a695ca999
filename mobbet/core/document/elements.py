"""HTML as a tree of light values, parsed as browsers do it (WHATWG HTML, by lexbor)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from selectolax.lexbor import LexborHTMLParser, LexborNode

from mobbet.core.errors import BadDocument

MOST_BYTES = 5_000_000
DEEPEST = 200
"""How deep the tree follows nested elements; what lies deeper is kept as plain words."""
DEEPEST_SOURCE = 2000
_VOID = "area|base|br|col|embed|hr|img|input|link|meta|param|source|track|wbr|p|li|td|th|tr|dd|dt|option|thead|tbody|tfoot|colgroup"
_TAG = re.compile(rf"<(?!!)(/?)(?!(?:{_VOID})\b)[a-zA-Z][^<>]*?(/?)>", re.IGNORECASE)

BLOCKS = frozenset(
    "p h1 h2 h3 h4 h5 h6 ul ol li dl dt dd blockquote pre hr figure table thead tbody tfoot tr td th caption "
    "div section article main header footer aside nav address figcaption details summary fieldset center body html".split()
)


class Element:
    """One element: its name, its attributes (names in lower case) and what stands in it, words as str."""

    __slots__ = ("attrs", "children", "holds_block", "tag")

    def __init__(self, tag: str, attrs: dict[str, str], children: list[Element | str]) -> None:
        self.tag = tag
        self.attrs = attrs
        self.children = children
        self.holds_block = False
        for child in children:
            if child.__class__ is Element and (child.holds_block or child.tag in BLOCKS):
                self.holds_block = True
                break

    def elements(self) -> list[Element]:
        return [child for child in self.children if not isinstance(child, str)]

    def has_class(self, name: str) -> bool:
        return name in self.attrs.get("class", "").split()

    def style(self) -> dict[str, str]:
        """The declarations of its `style` attribute, in lower case."""
        source = self.attrs.get("style")
        return declarations(source) if source else {}

    def words(self) -> str:
        """All words in it, as they stand."""
        if len(self.children) == 1:
            child = self.children[0]
            return child if isinstance(child, str) else child.words()
        return "".join(child if isinstance(child, str) else child.words() for child in self.children)

    def walk(self) -> Iterator[Element]:
        """Every element below, in order."""
        for child in self.children:
            if not isinstance(child, str):
                yield child
                yield from child.walk()

    def find(self, tag: str) -> Element | None:
        return next((element for element in self.walk() if element.tag == tag), None)


def parse(source: str) -> Element:
    """The body of a page or a piece of HTML. Raises BadDocument when it is too large or nested too deep."""
    if len(source) > MOST_BYTES:
        raise BadDocument(f"The HTML is larger than {MOST_BYTES // 1_000_000} MB; bring it in in parts.")
    _refuse_depth(source)
    body = LexborHTMLParser(source).body
    return _light(body, 0) if body is not None else Element("body", {}, [])


def _refuse_depth(source: str) -> None:
    """Parsers take a time that grows with the square of the depth, so it is measured before."""
    if source.count("<") < DEEPEST_SOURCE:
        return
    depth = 0
    for closes, is_empty in _TAG.findall(source):
        depth += -1 if closes else 0 if is_empty else 1
        depth = max(depth, 0)
        if depth > DEEPEST_SOURCE:
            raise BadDocument(
                f"The HTML nests elements more than {DEEPEST_SOURCE:,} deep; bring it in in parts."
            )


def _light(node: LexborNode, depth: int) -> Element:
    children: list[Element | str] = []
    child = node.child
    while child is not None:
        tag = child.tag
        if tag == "-text":
            children.append(child.text_content or "")
        elif tag and tag[0] != "-":
            children.append(_light(child, depth + 1) if depth < DEEPEST else child.text() or "")
        child = child.next
    attributes = node.attributes
    return Element(
        node.tag or "",
        {name: value or "" for name, value in attributes.items()} if attributes else {},
        children,
    )


@lru_cache(maxsize=4096)
def declarations(source: str) -> dict[str, str]:
    """CSS declarations as {property: value}, in lower case."""
    found = {}
    for declaration in source.lower().split(";"):
        name, colon, value = declaration.partition(":")
        if colon:
            found[name.strip()] = value.strip()
    return found

"""The words of a post's page, as readers get them."""

from __future__ import annotations

from datetime import datetime

from selectolax.lexbor import LexborHTMLParser, LexborNode

from mobbet.core.canonical import digest
from mobbet.core.searching import spaced
from mobbet.store.site_search import Words

_TEXT = "article > header .subtitle, article > .text:not(.promo)"
_IN_A_LINE = frozenset(
    ("a", "abbr", "b", "cite", "code", "del", "em", "i", "ins", "kbd", "mark", "q", "s", "small", "span", "strong", "sub", "sup", "time", "u", "wbr")
)  # fmt: skip
_UNSAID = frozenset(("script", "style", "template"))


def words_of_page(page: bytes) -> Words:
    """The title, the text and the time of going out of a page that was rendered for a post."""
    tree = LexborHTMLParser(page)
    title = _content(tree, 'meta[property="og:title"]')
    lines = "\n".join(map(_text, tree.css(_TEXT))).split("\n")
    text = "\n".join(filter(None, (" ".join(line.split()) for line in lines)))
    written = _content(tree, 'meta[property="article:published_time"]')
    instant = int(datetime.fromisoformat(written).timestamp()) if written else 0
    return Words(spaced(title), spaced(text), instant, digest([title, text, instant]))


def _text(part: LexborNode) -> str:
    """The text below a node, each block on a line of its own."""
    found: list[str] = []
    for node in part.traverse(include_text=True):
        if node.tag == "-text":
            if node.parent is None or node.parent.tag not in _UNSAID:
                found.append(" ".join((node.text_content or "").split("\n")))
        elif node.tag not in _IN_A_LINE:
            found.append("\n")
    return "".join(found)


def _content(tree: LexborHTMLParser, selector: str) -> str:
    node = tree.css_first(selector)
    return (node.attributes.get("content") or "") if node else ""

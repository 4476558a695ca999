"""Webmention (W3C Recommendation, 2017): where a page takes mentions, whether a page links to another one, and what it says (microformats)."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any
from urllib.parse import urldefrag, urljoin

from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.web_addresses import split_address

LARGEST = 1_000_000
"""In bytes: of a page no more is read."""
DEEPEST, LONGEST_ADDRESS, LONGEST_NAME, LONGEST_TEXT = 200, 2000, 80, 500
MOST_TARGETS = 50
"""So many links of a post are told of."""
_REL = re.compile(r"\brel\s{0,9}=\s{0,9}[\"']?([^\"',;]{0,200})", re.IGNORECASE)
_LINKING = (("a", "href"), ("area", "href"), ("img", "src"), ("video", "src"), ("audio", "src"), ("source", "src"), ("iframe", "src"), ("q", "cite"), ("blockquote", "cite"))  # fmt: skip
"""The elements by which a page links to another one, with their attribute."""


@dataclass(frozen=True)
class Said:
    """What a page says that mentions: by whom, their address ('' for none), and its words."""

    name: str
    address: str
    text: str


def is_web_address(address: str) -> bool:
    parts = split_address(address)
    return parts.scheme in ("http", "https") and bool(parts.hostname) and len(address) <= LONGEST_ADDRESS


def endpoint_in(page: bytes, links: list[str], base: str) -> str:
    """Where the page at `base` takes mentions, by its Link headers or else the first element that says so; '' where it does not."""
    for header in links:
        for part in header[:8000].split("<")[1:]:
            address, _, rest = part.partition(">")
            rel = _REL.search(rest.partition("<")[0])
            if rel and "webmention" in rel[1].lower().split():
                return str(urljoin(base, address.strip()))
    for node in _tree(page).css("link[rel][href], a[rel][href]"):
        if "webmention" in (node.attributes.get("rel") or "").lower().split():
            return str(urljoin(base, (node.attributes.get("href") or "").strip()))
    return ""


def links_to(page: bytes, base: str, target: str) -> bool:
    """Whether the page at `base` has an element that links to the target; words and comments that name it are none."""
    wanted = urldefrag(target).url
    tree = _tree(page)
    return any(
        urldefrag(urljoin(base, (node.attributes.get(name) or "").strip())).url == wanted
        for tag, name in _LINKING
        for node in tree.css(f"{tag}[{name}]")
    )


def said_by(page: bytes, base: str) -> Said:
    """By whom a page is and what it says: its h-entry (microformats2), or else its title."""
    import mf2py  # with its parser, which most commands do without

    items = mf2py.parse(doc=page.decode("utf-8", "replace"), url=base)["items"]
    entry: dict[str, Any] = next((item for item in items if "h-entry" in item.get("type", ())), {})
    properties = entry.get("properties", {})
    author = next(iter(properties.get("author", ())), "")
    name, address = _person(author)
    title = _tree(page).css_first("title")
    words = _words(properties) or (title.text() if title else "") or base
    host = split_address(base).hostname or "a page"
    return Said(
        _line(name)[:LONGEST_NAME] or host,
        address if is_web_address(address) else "",
        _line(words)[:LONGEST_TEXT],
    )


def _person(author: Any) -> tuple[str, str]:
    if not isinstance(author, dict):
        return ("", str(author)) if is_web_address(str(author)) else (str(author), "")
    properties = author.get("properties", {})
    name = next(iter(properties.get("name", ())), "") or author.get("value", "")
    return str(name), str(next(iter(properties.get("url", ())), ""))


def _words(properties: dict[str, Any]) -> str:
    for name in ("summary", "content", "name"):
        found = next(iter(properties.get(name, ())), "")
        text = found.get("value", "") if isinstance(found, dict) else str(found)
        if text.strip():
            return str(text)
    return ""


def _line(text: str) -> str:
    return " ".join(UNPRINTABLE.sub("", text).split())


def _tree(page: bytes) -> Any:
    from selectolax.lexbor import LexborHTMLParser

    return LexborHTMLParser(page[:LARGEST])

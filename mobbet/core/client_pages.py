"""What the page of a program says of it: its name, and where answers may go (OAuth Client ID Metadata Document, or the links and the h-app of a page)."""

from __future__ import annotations

import json
import re
from typing import Any, NamedTuple

from mobbet.core.names import one_line
from mobbet.core.web_addresses import join_address

MOST_REDIRECTS, LONGEST_NAME = 100, 80
_LINK = re.compile(r"<([^<>]{1,2000})>\s{0,9};([^<>]{0,2000})")
_REL = re.compile(r'\brel\s{0,9}=\s{0,9}"?([^";]{1,200})')
_WANTED = "redirect_uri"


class ClientPage(NamedTuple):
    """The name of a program, '' for none, and the addresses to which an answer may go."""

    name: str
    redirects: tuple[str, ...]


def read_client_page(kind: str, body: bytes, links: list[str], address: str) -> ClientPage:
    """What the page at an address says; `kind` is its media type, `links` its Link headers."""
    if kind == "application/json" or kind.endswith("+json"):
        return _metadata(body, address)
    found = [join_address(address, place) for header in links for place in _of_header(header)]
    tree = _tree(body)
    for node in tree.css("link[rel][href]"):
        if _WANTED in (node.attributes.get("rel") or "").lower().split():
            found.append(join_address(address, (node.attributes.get("href") or "").strip()))
    app = tree.css_first(".h-app .p-name, .h-x-app .p-name, .h-app")
    title = app or tree.css_first("title")
    return ClientPage(one_line(title.text())[:LONGEST_NAME] if title else "", tuple(found[:MOST_REDIRECTS]))


def _metadata(body: bytes, address: str) -> ClientPage:
    try:
        data: Any = json.loads(body)
    except (ValueError, RecursionError):
        data = None
    if not isinstance(data, dict) or data.get("client_id") != address:
        return ClientPage("", ())
    places = data.get("redirect_uris")
    name = data.get("client_name")
    return ClientPage(
        one_line(name)[:LONGEST_NAME] if isinstance(name, str) else "",
        tuple(one for one in places[:MOST_REDIRECTS] if isinstance(one, str))
        if isinstance(places, list)
        else (),
    )


def _of_header(header: str) -> list[str]:
    return [
        place
        for place, rest in _LINK.findall(header[:8000])
        if (rel := _REL.search(rest)) and _WANTED in rel[1].lower().split()
    ]


def _tree(body: bytes) -> Any:
    from selectolax.lexbor import LexborHTMLParser

    return LexborHTMLParser(body[:1_000_000])

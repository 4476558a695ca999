"""Asks the page of a video or a sound where its host tells of it, and reads what the host says (oEmbed 1.0)."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import urljoin

from lxml import etree
from selectolax.lexbor import LexborHTMLParser

from mobbet.core.embeds import read_embed_code
from mobbet.core.errors import BadInput
from mobbet.core.names import one_line
from mobbet.services.contracts import EmbedFacts, Fetcher, Heavy, OfferedVideo

MOST_PAGE, MOST_BYTES, MOST_POSTER = 3_000_000, 200_000, 10_000_000
SECONDS = 5.0
"""For reading a page or an answer; asking for it has the limits of the fetcher."""
TYPES = {
    "application/json+oembed": "json",
    "text/json+oembed": "json",
    "text/xml+oembed": "xml",
    "application/xml+oembed": "xml",
}
SHOWN = ("video", "rich")
"""Types with a frame (2.3.4); the others are a picture and a link."""


class OEmbedHost:
    """Any host that tells of its works by the standard. They offer no search."""

    def __init__(self, fetch: Fetcher, heavy: Heavy) -> None:
        self._fetch, self._heavy = fetch, heavy

    def search(self, words: str) -> list[OfferedVideo]:
        return []

    def tell(self, address: str) -> EmbedFacts | None:
        page = self._fetch(address, MOST_PAGE)
        endpoint = self._read(endpoint_of, page.body, address)
        if not endpoint:
            return None
        answer = self._fetch(urljoin(page.address, endpoint), MOST_BYTES)
        told: dict[str, Any] = self._read(facts_of, answer.body, address)
        if not told:
            return None
        poster = told.pop("thumbnail")
        return EmbedFacts(**told, poster=self._poster(urljoin(answer.address, poster)) if poster else b"")

    def _read(self, function: Any, body: bytes, address: str) -> Any:
        return self._heavy(function, body, seconds=SECONDS, what=f"What “{address[:120]}” answers with")

    def _poster(self, address: str) -> bytes:
        """The bytes of the picture; none where it cannot be had, since the video can be shown without it."""
        try:
            return self._fetch(address, MOST_POSTER).body
        except BadInput:
            return b""


def endpoint_of(page: bytes) -> str:
    """The address where a page's host tells of its work (4, discovery), JSON before XML; '' for none."""
    found: dict[str, str] = {}
    for link in LexborHTMLParser(page.decode("utf-8", "replace")).css(
        "link[rel~=alternate][href], link[rel~=alternative][href]"
    ):
        kind = TYPES.get((link.attributes.get("type") or "").strip().lower(), "")
        found.setdefault(kind, link.attributes.get("href") or "")
    return found.get("json") or found.get("xml") or ""


def facts_of(answer: bytes) -> dict[str, Any]:
    """What an answer in JSON or XML says of a work: title, by, width, height, frame, provider, thumbnail; {} where it shows no frame."""
    told = _fields(answer)
    code = told.get("html")
    if str(told.get("type", "")) not in SHOWN or not isinstance(code, str):
        return {}
    held = read_embed_code(code)
    return {
        "title": _words(told.get("title")) or held.words,
        "by": _words(told.get("author_name"))[:200],
        "provider": _words(told.get("provider_name"))[:80],
        "width": _whole(told.get("width"), held.width),
        "height": _whole(told.get("height"), held.height),
        "frame": held.frame,
        "thumbnail": str(told.get("thumbnail_url") or "")[:2000],
    } if held.frame else {}  # fmt: skip


def _fields(answer: bytes) -> dict[str, Any]:
    """The members of the answer; {} for what is neither format."""
    try:
        told = json.loads(answer)
        return told if isinstance(told, dict) else {}
    except (ValueError, RecursionError):
        parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    try:
        root = etree.fromstring(answer, parser)
    except etree.XMLSyntaxError:
        return {}
    return {str(one.tag): one.text for one in root if one.text is not None}


def _words(value: object) -> str:
    return one_line(value)[:300] if isinstance(value, str) else ""


def _whole(value: object, usual: int) -> int:
    """A size in pixels; hosts write it as a number, as text, or not at all."""
    try:
        return min(10_000, max(1, int(float(str(value)))))
    except (ValueError, OverflowError):
        return usual

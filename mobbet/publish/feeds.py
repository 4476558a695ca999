"""Feeds (Atom RFC 4287, RSS 2.0, JSON Feed 1.1) and site maps (sitemaps.org 0.9)."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from datetime import datetime, timezone
from email.utils import format_datetime
from typing import TYPE_CHECKING
from xml.etree import ElementTree

from mobbet.core.document.html import Html
from mobbet.core.document.write import to_html
from mobbet.core.facts import House
from mobbet.core.timing import iso
from mobbet.publish.cards import Card
from mobbet.publish.rendered import Rendered

if TYPE_CHECKING:
    from mobbet.publish.values import Page

ATOM = "http://www.w3.org/2005/Atom"
CONTENT = "http://purl.org/rss/1.0/modules/content/"
CREATOR = "http://purl.org/dc/elements/1.1/"
SITEMAP = "http://www.sitemaps.org/schemas/sitemap/0.9"
_FORBIDDEN = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")

for _prefix, _space in (("atom", ATOM), ("content", CONTENT), ("dc", CREATOR)):
    ElementTree.register_namespace(_prefix, _space)

Entries = list[tuple[Card, str]]
"""Cards with their whole text as HTML."""


class _Feed:
    """What the makers need: the house, and the public address of a path."""

    def __init__(self, house: House, absolute: Callable[[str], str]) -> None:
        self.house = house
        self.absolute = absolute


def render(page: Page, house: House, absolute: Callable[[str], str], html_of: Callable[[Card, dict[int, str]], Html]) -> Rendered:
    feed = _Feed(house, absolute)
    if page.recipe in _MAPS:
        return Rendered("application/xml; charset=utf-8", _MAPS[page.recipe](feed, page.context))
    make, type = _FEEDS[page.recipe]
    entries = [(card, to_html(body, html_of(card, links))) for card, body, links in page.context]
    return Rendered(type, make(feed, entries))


def _atom(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("feed", xmlns=ATOM)
    _add(root, "id", feed.house.home)
    _add(root, "title", feed.house.name)
    if feed.house.tagline:
        _add(root, "subtitle", feed.house.tagline)
    _add(root, "link", rel="self", type="application/atom+xml", href=feed.absolute("/feed.atom"))
    _add(root, "link", rel="alternate", type="text/html", href=feed.house.home)
    _add(root, "updated", max((card.updated_iso for card, _ in entries), default="1970-01-01T00:00:00Z"))
    for card, html in entries:
        entry = _add(root, "entry")
        _add(entry, "id", feed.absolute(f"/#post-{card.id}"))
        _add(entry, "title", card.title)
        _add(entry, "link", rel="alternate", type="text/html", href=feed.absolute(card.path))
        _add(entry, "published", card.date_iso)
        _add(entry, "updated", card.updated_iso)
        _add(_add(entry, "author"), "name", card.author)
        if card.category:
            _add(entry, "category", term=card.category)
        _add(entry, "summary", card.description)
        _add(entry, "content", html, type="html")
    return _xml(root)


def _rss(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("rss", version="2.0")
    channel = _add(root, "channel")
    _add(channel, "title", feed.house.name)
    _add(channel, "link", feed.house.home)
    _add(channel, "description", feed.house.tagline or feed.house.name)
    _add(channel, "language", feed.house.language)
    _add(channel, f"{{{ATOM}}}link", rel="self", type="application/rss+xml", href=feed.absolute("/feed.rss"))
    for card, html in entries:
        item = _add(channel, "item")
        _add(item, "title", card.title)
        _add(item, "link", feed.absolute(card.path))
        _add(item, "guid", feed.absolute(f"/#post-{card.id}"), isPermaLink="false")
        _add(item, "pubDate", format_datetime(datetime.strptime(card.date_iso, "%Y-%m-%dT%H:%M:%SZ").replace(tzinfo=timezone.utc)))
        _add(item, f"{{{CREATOR}}}creator", card.author)
        if card.category:
            _add(item, "category", card.category)
        _add(item, "description", card.description)
        _add(item, f"{{{CONTENT}}}encoded", html)
    return _xml(root)


def _json(feed: _Feed, entries: Entries) -> bytes:
    items = [
        {
            "id": feed.absolute(f"/#post-{card.id}"),
            "url": feed.absolute(card.path),
            "title": card.title,
            "summary": card.description,
            "content_html": html,
            "date_published": card.date_iso,
            "date_modified": card.updated_iso,
            "authors": [{"name": card.author}],
            **({"tags": [card.category]} if card.category else {}),
        }
        for card, html in entries
    ]
    whole = {
        "version": "https://jsonfeed.org/version/1.1",
        "title": feed.house.name,
        "home_page_url": feed.house.home,
        "feed_url": feed.absolute("/feed.json"),
        "description": feed.house.tagline,
        "language": feed.house.language,
        "items": items,
    }
    return json.dumps(whole, ensure_ascii=False, indent=1).encode("utf-8", "replace")


def _sitemap(feed: _Feed, entries: tuple[tuple[str, int], ...]) -> bytes:
    root = ElementTree.Element("urlset", xmlns=SITEMAP)
    for path, updated in entries:
        url = _add(root, "url")
        _add(url, "loc", feed.absolute(path))
        _add(url, "lastmod", iso(updated))
    return _xml(root)


def _sitemap_index(feed: _Feed, parts: tuple[str, ...]) -> bytes:
    root = ElementTree.Element("sitemapindex", xmlns=SITEMAP)
    for path in parts:
        _add(_add(root, "sitemap"), "loc", feed.absolute(path))
    return _xml(root)


def _add(parent: ElementTree.Element, tag: str, text: str | None = None, **attributes: str) -> ElementTree.Element:
    child = ElementTree.SubElement(parent, tag, {name: _FORBIDDEN.sub("", value) for name, value in attributes.items()})
    if text is not None:
        child.text = _FORBIDDEN.sub("", text)
    return child


def _xml(root: ElementTree.Element) -> bytes:
    return ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)


_FEEDS = {
    "feed-atom": (_atom, "application/atom+xml; charset=utf-8"),
    "feed-rss": (_rss, "application/rss+xml; charset=utf-8"),
    "feed-json": (_json, "application/feed+json; charset=utf-8"),
}
_MAPS = {"sitemap": _sitemap, "sitemap-index": _sitemap_index}

"""Feeds (Atom RFC 4287, RSS 2.0, JSON Feed 1.1) and site maps (sitemaps.org 0.9)."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from email.utils import format_datetime
from typing import TYPE_CHECKING, Any
from xml.etree import ElementTree

from mobbet.core.facts import House, PictureFile
from mobbet.core.timing import iso
from mobbet.publish.cards import Card
from mobbet.publish.pictures import share_picture
from mobbet.publish.rendered import Rendered

if TYPE_CHECKING:
    from mobbet.publish.values import FeedPage, Page

ATOM = "http://www.w3.org/2005/Atom"
CONTENT = "http://purl.org/rss/1.0/modules/content/"
CREATOR = "http://purl.org/dc/elements/1.1/"
SITEMAP = "http://www.sitemaps.org/schemas/sitemap/0.9"
_FORBIDDEN = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")

for _prefix, _space in (("atom", ATOM), ("content", CONTENT), ("dc", CREATOR)):
    ElementTree.register_namespace(_prefix, _space)


@dataclass(frozen=True)
class Entry:
    """A post in a feed: its card, its whole text as HTML, the path of its picture, and what plays in it."""

    card: Card
    html: str
    picture: str = ""
    enclosure: PictureFile | None = None
    bytes: int = 0


Entries = list[Entry]
TextOf = Callable[[Card, dict[str, Any], dict[int, str]], str]
"""Writes the whole text of a post as HTML: (card, body, paths of the posts it leads to)."""


@dataclass(frozen=True)
class _Feed:
    """What the makers need: the house, the public address of a path, and what the feed is of."""

    house: House
    absolute: Callable[[str], str]
    page: FeedPage | None = None


def render(page: Page, house: House, absolute: Callable[[str], str], text_of: TextOf) -> Rendered:
    if page.recipe in _MAPS:
        return Rendered(
            "application/xml; charset=utf-8", _MAPS[page.recipe](_Feed(house, absolute), page.context)
        )
    make, type = _FEEDS[page.recipe]
    entries = [_entry(card, text_of(card, body, links)) for card, body, links in page.context.posts]
    return Rendered(type, make(_Feed(house, absolute, page.context), entries))


def _entry(card: Card, html: str) -> Entry:
    picture = share_picture(card.picture)
    played = next(
        (
            file
            for kind, item in (("sound", card.sound), ("video", card.picture))
            if item and item.kind == kind
            for file in item.of(kind)
        ),
        None,
    )
    size = (card.sound or card.picture).bytes if played else 0
    return Entry(card, html, picture.path if picture else "", played, size)


def _atom(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("feed", xmlns=ATOM)
    _add(root, "id", feed.absolute(feed.page.home))
    _add(root, "title", feed.page.title)
    if feed.page.about:
        _add(root, "subtitle", feed.page.about)
    _add(root, "link", rel="self", type="application/atom+xml", href=feed.absolute(f"{feed.page.path}.atom"))
    _add(root, "link", rel="alternate", type="text/html", href=feed.absolute(feed.page.home))
    _add(root, "updated", max((entry.card.updated_iso for entry in entries), default="1970-01-01T00:00:00Z"))
    for one in entries:
        card = one.card
        entry = _add(root, "entry")
        _add(entry, "id", feed.absolute(f"/#post-{card.id}"))
        _add(entry, "title", card.title)
        _add(entry, "link", rel="alternate", type="text/html", href=feed.absolute(card.path))
        if card.away:
            _add(entry, "link", rel="related", href=card.away)
        if one.enclosure:
            _add(
                entry,
                "link",
                rel="enclosure",
                type=one.enclosure.type,
                length=str(one.bytes),
                href=feed.absolute(one.enclosure.path),
            )
        _add(entry, "published", card.date_iso)
        _add(entry, "updated", card.updated_iso)
        _add(_add(entry, "author"), "name", card.author)
        for name, _ in card.categories:
            _add(entry, "category", term=name)
        _add(entry, "summary", card.description)
        _add(entry, "content", one.html, type="html")
    return _xml(root)


def _rss(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("rss", version="2.0")
    channel = _add(root, "channel")
    _add(channel, "title", feed.page.title)
    _add(channel, "link", feed.absolute(feed.page.home))
    _add(channel, "description", feed.page.about or feed.page.title)
    _add(channel, "language", feed.house.language)
    _add(
        channel,
        f"{{{ATOM}}}link",
        rel="self",
        type="application/rss+xml",
        href=feed.absolute(f"{feed.page.path}.rss"),
    )
    for one in entries:
        card = one.card
        item = _add(channel, "item")
        _add(item, "title", card.title)
        _add(item, "link", feed.absolute(card.path))
        _add(item, "guid", feed.absolute(f"/#post-{card.id}"), isPermaLink="false")
        _add(
            item,
            "pubDate",
            format_datetime(datetime.strptime(card.date_iso, "%Y-%m-%dT%H:%M:%SZ").replace(tzinfo=UTC)),
        )
        _add(item, f"{{{CREATOR}}}creator", card.author)
        for name, _ in card.categories:
            _add(item, "category", name)
        _add(item, "description", card.description)
        if one.enclosure:
            _add(
                item,
                "enclosure",
                url=feed.absolute(one.enclosure.path),
                length=str(one.bytes),
                type=one.enclosure.type,
            )
        _add(item, f"{{{CONTENT}}}encoded", one.html)
    return _xml(root)


def _json(feed: _Feed, entries: Entries) -> bytes:
    items = [_json_item(feed, entry) for entry in entries]
    whole = {
        "version": "https://jsonfeed.org/version/1.1",
        "title": feed.page.title,
        "home_page_url": feed.absolute(feed.page.home),
        "feed_url": feed.absolute(f"{feed.page.path}.json"),
        "description": feed.page.about,
        "language": feed.house.language,
        "items": items,
    }
    return json.dumps(whole, ensure_ascii=False, indent=1).encode("utf-8", "replace")


def _json_item(feed: _Feed, entry: Entry) -> dict[str, Any]:
    card = entry.card
    item = {
        "id": feed.absolute(f"/#post-{card.id}"),
        "url": feed.absolute(card.path),
        "title": card.title,
        "summary": card.description,
        "content_html": entry.html,
        "date_published": card.date_iso,
        "date_modified": card.updated_iso,
        "authors": [{"name": card.author}],
    }
    if card.away:
        item["external_url"] = card.away
    if entry.picture:
        item["image"] = feed.absolute(entry.picture)
    if card.categories:
        item["tags"] = [name for name, _ in card.categories]
    if entry.enclosure:
        item["attachments"] = [
            {
                "url": feed.absolute(entry.enclosure.path),
                "mime_type": entry.enclosure.type,
                "size_in_bytes": entry.bytes,
            }
        ]
    return item


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


def _add(
    parent: ElementTree.Element, tag: str, text: str | None = None, **attributes: str
) -> ElementTree.Element:
    child = ElementTree.SubElement(
        parent, tag, {name: _FORBIDDEN.sub("", value) for name, value in attributes.items()}
    )
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

"""Feeds: Atom (RFC 4287), RSS 2.0 and JSON Feed 1.1."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from email.utils import format_datetime
from typing import Any
from xml.etree import ElementTree

from mobbet.core.facts import House, PictureFile
from mobbet.publish.cards import Card
from mobbet.publish.pictures import share_picture
from mobbet.publish.rendered import Rendered
from mobbet.publish.values import FeedPage, FeedPost, Page
from mobbet.publish.xml import add, to_bytes

ATOM = "http://www.w3.org/2005/Atom"
CONTENT = "http://purl.org/rss/1.0/modules/content/"
CREATOR = "http://purl.org/dc/elements/1.1/"

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
TextOf = Callable[[FeedPost], str]
"""Writes what an entry holds as HTML: the whole text of a post, and the older posts it leads to."""


@dataclass(frozen=True)
class _Feed:
    """What the makers need: the house, the public address of a path, and what the feed is of."""

    house: House
    absolute: Callable[[str], str]
    page: FeedPage


def render(page: Page, house: House, absolute: Callable[[str], str], text_of: TextOf) -> Rendered:
    make, type = FORMATS[page.recipe.removeprefix("feed-")]
    entries = [_entry(post.card, text_of(post)) for post in page.context.posts]
    return Rendered(type, make(_Feed(house, absolute, page.context), entries))


def _entry(card: Card, html: str) -> Entry:
    picture, item = share_picture(card.picture), card.played
    played = next(iter(item.of(item.kind)), None) if item else None
    return Entry(card, html, picture.path if picture else "", played, item.bytes if item and played else 0)


def _atom(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("feed", xmlns=ATOM)
    add(root, "id", feed.absolute(feed.page.home))
    add(root, "title", feed.page.title)
    if feed.page.about:
        add(root, "subtitle", feed.page.about)
    add(root, "link", rel="self", type="application/atom+xml", href=feed.absolute(f"{feed.page.path}.atom"))
    add(root, "link", rel="alternate", type="text/html", href=feed.absolute(feed.page.home))
    if feed.house.hub:
        add(root, "link", rel="hub", href=feed.house.hub)
    add(root, "updated", max((entry.card.updated_iso for entry in entries), default="1970-01-01T00:00:00Z"))
    for one in entries:
        card = one.card
        entry = add(root, "entry")
        add(entry, "id", feed.absolute(f"/#post-{card.id}"))
        add(entry, "title", card.title)
        add(entry, "link", rel="alternate", type="text/html", href=feed.absolute(card.path))
        if card.away:
            add(entry, "link", rel="related", href=card.away)
        if one.enclosure:
            add(
                entry,
                "link",
                rel="enclosure",
                type=one.enclosure.type,
                length=str(one.bytes),
                href=feed.absolute(one.enclosure.path),
            )
        add(entry, "published", card.date_iso)
        add(entry, "updated", card.updated_iso)
        add(add(entry, "author"), "name", card.author)
        for name, _ in card.categories:
            add(entry, "category", term=name)
        add(entry, "summary", card.description)
        add(entry, "content", one.html, type="html")
    return to_bytes(root)


def _rss(feed: _Feed, entries: Entries) -> bytes:
    root = ElementTree.Element("rss", version="2.0")
    channel = add(root, "channel")
    add(channel, "title", feed.page.title)
    add(channel, "link", feed.absolute(feed.page.home))
    add(channel, "description", feed.page.about or feed.page.title)
    add(channel, "language", feed.house.language)
    add(
        channel,
        f"{{{ATOM}}}link",
        rel="self",
        type="application/rss+xml",
        href=feed.absolute(f"{feed.page.path}.rss"),
    )
    if feed.house.hub:
        add(channel, f"{{{ATOM}}}link", rel="hub", href=feed.house.hub)
    for one in entries:
        card = one.card
        item = add(channel, "item")
        add(item, "title", card.title)
        add(item, "link", feed.absolute(card.path))
        add(item, "guid", feed.absolute(f"/#post-{card.id}"), isPermaLink="false")
        add(
            item,
            "pubDate",
            format_datetime(datetime.strptime(card.date_iso, "%Y-%m-%dT%H:%M:%SZ").replace(tzinfo=UTC)),
        )
        add(item, f"{{{CREATOR}}}creator", card.author)
        for name, _ in card.categories:
            add(item, "category", name)
        add(item, "description", card.description)
        if one.enclosure:
            add(
                item,
                "enclosure",
                url=feed.absolute(one.enclosure.path),
                length=str(one.bytes),
                type=one.enclosure.type,
            )
        add(item, f"{{{CONTENT}}}encoded", one.html)
    return to_bytes(root)


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
        **({"hubs": [{"type": "WebSub", "url": feed.house.hub}]} if feed.house.hub else {}),
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


FORMATS = {
    "atom": (_atom, "application/atom+xml; charset=utf-8"),
    "rss": (_rss, "application/rss+xml; charset=utf-8"),
    "json": (_json, "application/feed+json; charset=utf-8"),
}
"""{ending of the address: (what writes the feed, its MIME type)}."""
_ALWAYS = ("id", "path", "title", "date_iso", "author", "description", "played")
FIELDS = {
    "atom": (*_ALWAYS, "away", "updated_iso"),
    "rss": _ALWAYS,
    "json": (*_ALWAYS, "away", "updated_iso", "picture"),
}
"""{ending of the address: what the feed shows of each card, beside its text and its categories}."""

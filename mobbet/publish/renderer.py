"""What all recipes share: templates, relative links, the HTML of a post, structured data."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable
from dataclasses import replace
from functools import lru_cache
from pathlib import Path
from typing import Any

from markupsafe import Markup

from mobbet.core import geo
from mobbet.core.addresses import up
from mobbet.core.canonical import digest
from mobbet.core.document.html import Html, Playing
from mobbet.core.document.links import media_number, post_number
from mobbet.core.document.write import to_html
from mobbet.core.facts import House, Item
from mobbet.core.link_rules import relations
from mobbet.core.media.licences import LICENCE
from mobbet.core.pages import SCHEMA_TYPES
from mobbet.core.timing import day_in_words
from mobbet.core.web_addresses import split_address
from mobbet.publish.cards import Card
from mobbet.publish.fragments import Fragments, link_from
from mobbet.publish.house_parts import HouseDigest
from mobbet.publish.pictures import Shared, playing, rendition, shared
from mobbet.publish.render_cache import RenderCache, TrackedItems
from mobbet.publish.rendered import Rendered
from mobbet.publish.templating import written
from mobbet.publish.values import Page, ShownBlock

PACKAGE = Path(__file__).parent.parent
HTML = "text/html; charset=utf-8"
NOT_FOUND, GONE = "missing", "gone"
"""The recipes of pages that answer at any address, so that their own place is not known."""


Items = Callable[[int], Item | None]
"""Answers with an item of the library."""


@lru_cache(maxsize=1)
def version() -> str:
    """A digest of all code and templates that bytes follow from, so that a new Mobbet renders anew."""
    files = sorted(
        path
        for folder in ("publish", "core")
        for path in (PACKAGE / folder).rglob("*")
        if path.suffix in (".py", ".html", ".css", ".js", ".woff2", ".svg", ".json")
    )
    return digest(
        [[str(path.relative_to(PACKAGE)), hashlib.sha256(path.read_bytes()).hexdigest()] for path in files]
    )


def house_digest(house: House) -> HouseDigest:
    """What every page of a blog depends on: its house style, and this version of Mobbet."""
    return HouseDigest.made_of(house, version())


class Renderer:
    """What the pages of one blog are rendered with. `items` answers with what is in its library.

    `root` is None for relative links; where a page's own place is not known (a not-found page), it
    is the address of the blog on its server. With a memo, texts that an earlier edition wrote of the same facts are taken from it.
    """

    def __init__(
        self, house: House, items: Items, root: str | None = None, memo: RenderCache | None = None
    ) -> None:
        self.house = house
        self.items = TrackedItems(items)
        self._root = root
        self.memo = memo
        self.fragments = Fragments(house)
        self.feed_texts: dict[tuple[Any, ...], str] = {}
        self._last_shared: tuple[Card | None, Shared | None] = (None, None)
        self.helpers = {
            "house": house,
            "absolute": self.absolute,
            "shared": self._shared,
            "structured": self._structured,
            "item_list": self._item_list,
            "breadcrumb": self._breadcrumb,
            "day": lambda instant: day_in_words(instant, house.zone),
        }

    def template(self, page: Page, **more: object) -> Rendered:
        root = self.root_from(page)
        values = {
            **self.helpers,
            "page": page.context,
            "here": page.path,
            "to": link_from(root, self.house.server),
            "around": self.fragments.around(page.path, root),
            **more,
        }
        return Rendered(HTML, written(page.recipe, values).encode())

    def root_from(self, page: Page) -> str:
        """The way from a page to the blog's front page."""
        if self._root is not None:
            return self._root
        return (
            (split_address(self.house.home).path or "/")
            if page.recipe in (NOT_FOUND, GONE)
            else up(page.path)
        )

    def absolute(self, path: str) -> str:
        """The public address of a path, for feeds, share cards and search engines."""
        return self.house.home + path[1:]

    def html_of(self, card: Card, links: dict[int, str], link: Callable[[str], str]) -> Html:
        """What the text of a post is written with; `link` makes an address of a path."""
        return replace(self.html_with(card.fill, links, link), post=card.id)

    def html_with(
        self, fill: Iterable[tuple[str, str]], links: dict[int, str], link: Callable[[str], str]
    ) -> Html:
        """What a document with these fill-ins and links to posts is written with."""

        def address(href: str) -> tuple[str, tuple[str, ...]] | None:
            number = post_number(href)
            if number is None:
                return href, relations(href, self.house.link_rules)
            return (
                (link(links[number]) + href.partition(":")[2].lstrip("0123456789"), ())
                if number in links
                else None
            )

        return Html(
            lambda src, sizes: self._of(src, lambda item: rendition(item, sizes, link)), lambda src: self._of(src, lambda item: playing(item, link)),
            address, dict(fill).get, is_page=True, language=self.house.language, frame_hosts=self.house.frame_hosts,
            forms=f"{link('/~/search')[: -len('search')]}", takes_subscribers=self.house.takes_subscribers,
        )  # fmt: skip

    def block(self, shown: ShownBlock, link: Callable[[str], str]) -> Markup:
        """A saved block outside of a post as HTML; `link` makes an address of a path."""
        return Markup(to_html(shown.block.document, self.html_with(shown.fill, shown.links, link)))

    def _breadcrumb(self, steps: tuple[Any, ...], last: str, path: str) -> dict[str, object]:
        """schema.org BreadcrumbList."""
        names = [*((step.name, step.path) for step in steps), (last, path)]
        items = [
            {"@type": "ListItem", "position": at, "name": name, "item": self.absolute(where)}
            for at, (name, where) in enumerate(names, 1)
        ]
        return {"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": items}

    def _item_list(self, cards: tuple[Card, ...]) -> dict[str, object]:
        """schema.org ItemList of the posts of a list."""
        items = [
            {"@type": "ListItem", "position": at, "name": card.title, "url": self.absolute(card.path)}
            for at, card in enumerate(cards, 1)
        ]
        return {"@context": "https://schema.org", "@type": "ItemList", "itemListElement": items}

    def video(self, attrs: dict[str, Any], caption: str, card: Card) -> dict[str, object] | None:
        """schema.org VideoObject of a video of the library; None while nothing of it can be played."""
        found: Playing | None = self._of(attrs["src"], lambda item: playing(item, self.absolute))
        if found is None:
            return None
        facts: dict[str, object] = {
            "@context": "https://schema.org",
            "@type": "VideoObject",
            "name": attrs["title"] or card.title,
            "description": caption or card.description or card.title,
            "uploadDate": card.date_iso,
            "contentUrl": found.href,
            "duration": f"PT{max(1, round(found.seconds))}S",
        }
        if found.poster:
            facts["thumbnailUrl"] = found.poster
        if found.captions:
            facts["caption"] = {
                "@type": "MediaObject",
                "contentUrl": found.captions,
                "encodingFormat": "text/vtt",
            }
        if found.transcript:
            facts["transcript"] = found.transcript
        return facts

    def _of(self, src: str, offer: Callable[[Item], Any]) -> Any:
        """What is offered of an item of the library; None for one that is unknown."""
        number = media_number(src)
        item = self.items(number) if number is not None else None
        return offer(item) if item else None

    def _shared(self, card: Card) -> Shared | None:
        """The picture of a post's share card; that of the last post is at hand, since its page asks for it three times."""
        if self._last_shared[0] is not card:
            self._last_shared = (card, shared(card, self.house))
        return self._last_shared[1]

    def _structured_page(self, card: Card) -> dict[str, object]:
        """schema.org WebPage, or the kind of it that the page is."""
        return {
            "@context": "https://schema.org",
            "@type": SCHEMA_TYPES[card.kind],
            "name": card.title,
            "description": card.description,
            "url": self.absolute(card.path),
            "dateModified": card.updated_iso,
            "inLanguage": card.language or self.house.language,
            "isPartOf": {"@type": "WebSite", "name": self.house.name, "url": self.house.home},
        }

    def _structured(self, card: Card) -> dict[str, object]:
        """schema.org BlogPosting; of a page, what it is."""
        if card.kind:
            return self._structured_page(card)
        facts: dict[str, object] = {
            "@context": "https://schema.org",
            "@type": "BlogPosting",
            "headline": card.title,
            "description": card.description,
            "datePublished": card.date_iso,
            "dateModified": card.updated_iso,
            "author": author_of(card),
            "wordCount": card.words,
            "inLanguage": card.language or self.house.language,
            "mainEntityOfPage": self.absolute(card.path),
            "isPartOf": {"@type": "Blog", "name": self.house.name, "url": self.house.home},
            "publisher": {
                "@type": "Organization",
                "name": self.house.made_by or self.house.name,
                "url": self.house.home,
            },
        }
        share = self._shared(card)
        if share:
            facts["image"] = self.absolute(share.path)
        if self.house.licence:
            facts["license"] = LICENCE[self.house.licence].page
        if card.categories:
            facts["articleSection"] = [name for name, _ in card.categories]
        place = geo.read_kept(card.place)
        if place:
            facts["contentLocation"] = geo.structured(place)
        return facts


def author_of(card: Card) -> dict[str, str]:
    """schema.org Person."""
    return {"@type": "Person", "name": card.author} | (
        {"url": card.author_address} if card.author_address else {}
    )


def parted(card: Card, body: dict[str, Any]) -> tuple[dict[str, Any] | None, dict[str, Any]]:
    """(the leading block as a document, the text without it) of a post whose heading shows its lead; (None, the text) otherwise."""
    at, blocks = card.first_block, body["content"]
    if at is None:
        return None, body
    rest = [*blocks[:at], *blocks[at + 1 :]] or [{"type": "paragraph", "attrs": {"align": "start"}}]
    return {**body, "content": [blocks[at]]}, {**body, "content": rest}

"""Recipes: what makes a page's bytes out of its context."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from markupsafe import Markup

from mobbet.core import geo
from mobbet.core.addresses import up
from mobbet.core.canonical import digest
from mobbet.core.document.html import Html
from mobbet.core.document.html_media import PICTURE_SETTINGS, picture_html
from mobbet.core.document.links import media_number, post_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.review import structured
from mobbet.core.document.write import to_html
from mobbet.core.facts import ORIGINAL, House, Item
from mobbet.core.headings import NONE, shown_parts
from mobbet.core.link_rules import relations
from mobbet.core.search_results import usual_title
from mobbet.core.timing import day_in_words
from mobbet.publish import coast, feeds, share_cards
from mobbet.publish.cards import Card
from mobbet.publish.fragments import Fragments, link_from
from mobbet.publish.memo import AskedItems, Memo
from mobbet.publish.pictures import Shared, playing, rendition, shared
from mobbet.publish.rendered import Rendered
from mobbet.publish.templating import written
from mobbet.publish.values import Page, PostPage

PACKAGE = Path(__file__).parent.parent
HTML = "text/html; charset=utf-8"


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


def house_digest(house: House) -> str:
    """What every page of a blog depends on: its house style, and this version of Mobbet."""
    return digest([list(house.__dict__.values()), version()])


class Renderer:
    """Renders pages of one blog. `items` answers with what is in its library.

    `root` is None for relative links; where a page's own place is not known (a not-found page), it
    is the address of the blog on its server. With a memo, texts that an earlier edition wrote of the same facts are taken from it.
    """

    def __init__(self, house: House, items: Items, root: str | None = None, memo: Memo | None = None) -> None:
        self._house = house
        self._items = AskedItems(items)
        self._root = root
        self._memo = memo
        self._fragments = Fragments(house)
        self._feed_texts: dict[tuple, str] = {}
        self._last_shared: tuple[Card | None, Shared | None] = (None, None)
        self._helpers = {
            "house": house,
            "absolute": self.absolute,
            "shared": self._shared,
            "structured": self._structured,
            "breadcrumb": self._breadcrumb,
            "day": lambda instant: day_in_words(instant, house.zone),
        }

    @staticmethod
    def version() -> str:
        """The digest of the code and templates that bytes follow from."""
        return version()

    @property
    def house(self) -> House:
        return self._house

    def render(self, page: Page) -> Rendered:
        return _RECIPES[page.recipe](self, page)

    def template(self, page: Page, **more: object) -> Rendered:
        root = self._root_from(page)
        values = {
            **self._helpers,
            "page": page.context,
            "here": page.path,
            "to": link_from(root),
            "around": self._fragments.around(page.path, root),
            **more,
        }
        return Rendered(HTML, written(page.recipe, values).encode())

    def _root_from(self, page: Page) -> str:
        """The way from a page to the blog's front page."""
        if self._root is not None:
            return self._root
        return (
            (urlsplit(self._house.home).path or "/") if page.recipe in ("missing", "gone") else up(page.path)
        )

    def absolute(self, path: str) -> str:
        """The public address of a path, for feeds, share cards and search engines."""
        return self._house.home + path[1:]

    def list_page(self, page: Page) -> Rendered:
        root = self._root_from(page)
        link = link_from(root)
        return self.template(
            page,
            item=lambda card, is_first, index: self._fragments.item(
                card, is_first, index, root, self._whole_text(page, card, link)
            ),
            picture=lambda item, sizes: Markup(picture_html(rendition(item, sizes, link), "", "high")),
            about=lambda document: Markup(
                to_html(document, Html(is_page=True, language=self._house.language))
            ),
        )

    def post(self, page: Page) -> Rendered:
        text = self._text(page.context, self._root_from(page))
        html = {name: Markup(text[name]) for name in ("about", "opening", "text")}
        return self.template(page, **html, title=text["title"], has_media=text["has_media"])

    def _text(self, context: PostPage, root: str) -> dict[str, Any]:
        """What of a page follows from its post alone, its text and what its head says about it: as an earlier edition wrote it, or written now."""
        if self._memo is None:
            return self._written(context, root)
        card, house = context.card, self._house
        facts = [
            card.digest,
            sorted(context.links.items()),
            root,
            house.link_rules,
            house.language,
            house.name,
            house.home,
            house.label,
            house.design,
        ]
        facts += [[list(step) for step in steps] for steps in (context.trail, context.tags)]
        return self._memo.worked("page", card.id, facts, self._items, lambda: self._written(context, root))

    def _written(self, context: PostPage, root: str) -> dict[str, Any]:
        document, card, link = context.body(), context.card, link_from(root)
        html = self.html_of(card, context.links, link)
        first, rest = parted(card, document)
        leading, body = to_html(first, html) if first else "", to_html(rest, html)
        nodes = list(walk(document))
        reviews = [structured(node["attrs"], card.author) for node in nodes if node["type"] == "review"]
        place = geo.read_kept(card.place)
        values = {**self._helpers, "page": context, "to": link}
        parts: dict[str, dict[str, Any]] = {
            "about": {
                "reviews": reviews,
                "has_frames": any(' data-frame="' in part for part in (leading, body)),
            },
            "opening": {
                "leading": Markup(leading),
                "has_own_title": any(
                    node["type"] == "heading" and node["attrs"]["level"] == 1 for node in walk(rest)
                ),
            },
            "text": {
                "body": Markup(body),
                "small_map": Markup(coast.small_map(place))
                if place and place.has_map and place.point
                else "",
            },
        }
        return {
            "title": card.search_title or usual_title(card.title, self._house.label, self._house.name),
            "has_media": any(map(_is_media, nodes)),
            **{name: written(name, {**values, **more}) for name, more in parts.items()},
        }

    def html_of(self, card: Card, links: dict[int, str], link: Callable[[str], str]) -> Html:
        """What the text of a post is written with; `link` makes an address of a path."""

        def address(href: str) -> tuple[str, tuple[str, ...]] | None:
            number = post_number(href)
            if number is None:
                return href, relations(href, self._house.link_rules)
            return (
                (link(links[number]) + href.partition(":")[2].lstrip("0123456789"), ())
                if number in links
                else None
            )

        return Html(
            lambda src, sizes: self._of(src, lambda item: rendition(item, sizes, link)), lambda src: self._of(src, lambda item: playing(item, link)),
            address, dict(card.fill).get, is_page=True, language=self._house.language,
        )  # fmt: skip

    def feed(self, page: Page) -> Rendered:
        return feeds.render(page, self._house, self.absolute, self._feed_text)

    def _feed_text(self, card: Card, body: dict[str, Any], links: dict[int, str]) -> str:
        """A post's whole text for feeds, what leads it first; written once for all feeds of an edition."""
        key = (card.digest, tuple(sorted(links.items())))
        if key not in self._feed_texts:
            leading, rest = parted(card, body)
            html = replace(self.html_of(card, links, self.absolute), is_feed=True)
            self._feed_texts[key] = "\n".join(to_html(part, html) for part in (leading, rest) if part)
        return self._feed_texts[key]

    def _whole_text(self, page: Page, card: Card, link: Callable[[str], str]) -> Markup | None:
        """A post's whole text in a list; None where lists show teasers."""
        if not page.context.bodies:
            return None
        return Markup(
            to_html(page.context.bodies[card.id], self.html_of(card, page.context.links[card.id], link))
        )

    def _breadcrumb(self, steps: tuple[Any, ...], last: str, path: str) -> dict[str, object]:
        """schema.org BreadcrumbList."""
        names = [*((step.name, step.path) for step in steps), (last, path)]
        items = [
            {"@type": "ListItem", "position": at, "name": name, "item": self.absolute(where)}
            for at, (name, where) in enumerate(names, 1)
        ]
        return {"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": items}

    def _of(self, src: str, offer: Callable[[Item], Any]) -> Any:
        """What is offered of an item of the library; None for one that is unknown."""
        number = media_number(src)
        item = self._items(number) if number is not None else None
        return offer(item) if item else None

    def _shared(self, card: Card) -> Shared | None:
        """The picture of a post's share card; that of the last post is at hand, since its page asks for it three times."""
        if self._last_shared[0] is not card:
            self._last_shared = (card, shared(card, self._house))
        return self._last_shared[1]

    def _structured(self, card: Card) -> dict[str, object]:
        """schema.org BlogPosting."""
        facts: dict[str, object] = {
            "@context": "https://schema.org",
            "@type": "BlogPosting",
            "headline": card.title,
            "description": card.description,
            "datePublished": card.date_iso,
            "dateModified": card.updated_iso,
            "author": {"@type": "Person", "name": card.author},
            "wordCount": card.words,
            "inLanguage": card.language or self._house.language,
            "mainEntityOfPage": self.absolute(card.path),
            "isPartOf": {"@type": "Blog", "name": self._house.name, "url": self._house.home},
        }
        share = self._shared(card)
        if share:
            facts["image"] = self.absolute(share.path)
        if card.categories:
            facts["articleSection"] = [name for name, _ in card.categories]
        place = geo.read_kept(card.place)
        if place:
            facts["contentLocation"] = geo.structured(place)
        return facts


def parted(card: Card, body: dict[str, Any]) -> tuple[dict[str, Any] | None, dict[str, Any]]:
    """(the leading block as a document, the text without it) of a post whose heading shows its lead; (None, the text) otherwise."""
    if card.lead_at is None or card.heading == NONE or "lead" not in shown_parts(card.heading):
        return None, body
    blocks = body["content"]
    rest = [*blocks[: card.lead_at], *blocks[card.lead_at + 1 :]] or [
        {"type": "paragraph", "attrs": {"align": "start"}}
    ]
    return {**body, "content": [blocks[card.lead_at]]}, {**body, "content": rest}


def _is_media(node: dict[str, Any]) -> bool:
    """Whether a block is more than a plain picture, which a style sheet of its own is for."""
    kind = node["type"]
    if kind == "picture":
        return any(node["attrs"][name] != usual for name, usual in PICTURE_SETTINGS.items())
    return kind in ("gallery", "sound", "video", "embed", "file")


def _robots(renderer: Renderer, page: Page) -> Rendered:
    body = f"User-agent: *\nDisallow:\n\nSitemap: {renderer.absolute('/sitemap.xml')}\n"
    return Rendered("text/plain; charset=utf-8", body.encode())


_RECIPES: dict[str, Callable[[Renderer, Page], Rendered]] = {
    "post": Renderer.post,
    "list": Renderer.list_page,
    "subjects": Renderer.template,
    "archive": Renderer.template,
    "missing": Renderer.template,
    "gone": Renderer.template,
    "ask": Renderer.template,
    "comment": Renderer.template,
    "sealed": Renderer.template,
    "leads-on": Renderer.template,
    "feed-atom": Renderer.feed,
    "feed-rss": Renderer.feed,
    "feed-json": Renderer.feed,
    "sitemap": Renderer.feed,
    "sitemap-index": Renderer.feed,
    "robots": _robots,
    "card": lambda renderer, page: Rendered(
        "image/png", share_cards.draw(*page.context, renderer.house.design)
    ),
    "media": lambda renderer, page: Rendered(
        page.context.type, media_hash=page.context.hash, is_download=page.context.use == ORIGINAL
    ),
    "asset": lambda renderer, page: Rendered(page.context.type, page.context.body),
}

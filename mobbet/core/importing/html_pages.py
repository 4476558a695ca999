"""Posts in HTML pages of another site: the main text by structure, the rest by JSON-LD, microformats, Open Graph and meta elements."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import PurePosixPath
from typing import Any

from selectolax.lexbor import LexborHTMLParser, LexborNode

from mobbet.core.importing.item import Item, NotRead, addresses, listed, names, one_line, read_date
from mobbet.core.web_addresses import join_address, split_address

MAIN = (".h-entry .e-content", "[itemprop=articleBody]", "article", "main", "[role=main]")
"""Where the text of a page stands, the surest first."""
NOT_TEXT = "script, style, noscript, template, nav, form, button, aside, header nav, footer, .comments, #comments, [hidden], [aria-hidden=true]"
POST_TYPES = {
    "article",
    "blogposting",
    "newsarticle",
    "socialmediaposting",
    "techarticle",
    "report",
    "review",
}
LEAST_WORDS, MOST_LINKS, LONGEST_LINK = 5, 5000, 500
LIST_FROM = 3
"""So many articles beside each other are a list of posts."""
_DAY_IN_PATH = re.compile(r"/(\d{4})/(\d\d?)(?:/(\d\d?))?/")


def read_page(data: bytes, path: str) -> Item | NotRead:
    """The post in a page; `path` is where it lies in its folder, or its address."""
    tree = LexborHTMLParser(data)
    if tree.body is None:
        return NotRead(path, "it is no HTML page")
    told = _Told(tree)
    published = read_date(told.date()) or _date_in(path)
    if told.is_list:
        return NotRead(path, "it is a list of posts")
    main = _main(tree)
    if (
        main is None
        or len(main.text(separator=" ").split()) < LEAST_WORDS
        and not main.css_first("img, video, audio")
    ):
        return NotRead(path, "it has no text")
    title = told.title()
    _clean(main, title)
    if not title:
        title = re.sub(r"[-_]+", " ", PurePosixPath(path).stem).strip().capitalize()
    return Item(
        path, one_line(title), main.html or "", published=published, categories=names(told.categories()), tags=names(told.tags()), author=one_line(told.author()),
        excerpt=one_line(told.meta("og:description") or told.meta("description"), 1000), is_draft=not published,
        addresses=addresses([told.address(), *_paths(path)]), base=path,
    )  # fmt: skip


def links_in(data: bytes, address: str) -> list[str]:
    """The pages of the same site that a page leads to, each once, without what stands behind `#`."""
    tree, own = LexborHTMLParser(data), split_address(address)
    base = tree.css_first("base[href]")
    start = join_address(address, (base.attributes.get("href") or "") if base else "")
    found: dict[str, None] = {}
    for node in tree.css("a[href], link[rel=next], link[rel=prev]"):
        where = join_address(start, (node.attributes.get("href") or "").strip()).partition("#")[0]
        parts = split_address(where)
        if (parts.scheme, parts.netloc) == (own.scheme, own.netloc) and len(where) <= LONGEST_LINK:
            found[where] = None
    return list(found)[:MOST_LINKS]


class _Told:
    """What a page says of itself."""

    def __init__(self, tree: LexborHTMLParser) -> None:
        self._tree = tree
        self._data = next((one for one in _json_ld(tree) if _type(one) & POST_TYPES), {})
        self._metas: dict[str, list[str]] = {}
        for node in tree.css("meta"):
            name = (
                node.attributes.get("property")
                or node.attributes.get("name")
                or node.attributes.get("itemprop")
            )
            if name and node.attributes.get("content"):
                self._metas.setdefault(name.lower(), []).append(node.attributes["content"] or "")

    @property
    def is_list(self) -> bool:
        if self._data or self.meta("og:type") == "article":
            return False
        articles = [one for one in self._tree.css("article, .h-entry") if not _is_within(one, "article")]
        return len(articles) >= LIST_FROM or self._tree.css_first(".h-feed .h-entry ~ .h-entry") is not None

    def meta(self, name: str) -> str:
        return next(iter(self._metas.get(name, ())), "")

    def title(self) -> str:
        found = (
            self._data.get("headline") or self._data.get("name") if isinstance(self._data, dict) else "",
            self._words(".h-entry .p-name"),
            self.meta("og:title"),
            self._words("article h1"),
            self._words("h1"),
            re.split(r"\s[|–—·»-]\s", self._words("title"))[0],
        )
        return next((one_line(one) for one in found if isinstance(one, str) and one.strip()), "")

    def date(self) -> str:
        return next(
            (
                one
                for one in (
                    self._data.get("datePublished"),
                    self._attribute(".h-entry .dt-published", "datetime"),
                    self.meta("article:published_time"),
                    self._attribute("[itemprop=datePublished]", "datetime")
                    or self._attribute("[itemprop=datePublished]", "content"),
                    self.meta("date"),
                    self.meta("dc.date"),
                    self.meta("dcterms.created"),
                    self._attribute("article time[datetime]", "datetime"),
                    self._attribute("time[datetime]", "datetime"),
                )
                if isinstance(one, str) and read_date(one)
            ),
            "",
        )

    def author(self) -> str:
        author = self._data.get("author")
        first = author[0] if isinstance(author, list) and author else author
        told = first.get("name") if isinstance(first, dict) else first
        return str(
            told or self._words(".h-entry .p-author") or self.meta("author") or self._words("[rel=author]")
        )

    def categories(self) -> list[Any]:
        return [*listed(self._data.get("articleSection")), *self._metas.get("article:section", ())]

    def tags(self) -> list[Any]:
        links = [one.text() for one in self._tree.css("a[rel~=tag], .h-entry .p-category")]
        keywords = [word for one in self._metas.get("keywords", ()) for word in listed(one)]
        return [
            *listed(self._data.get("keywords")),
            *self._metas.get("article:tag", ()),
            *links,
            *([] if links else keywords),
        ]

    def address(self) -> str:
        return self._attribute("link[rel=canonical]", "href") or self.meta("og:url")

    def _words(self, selector: str) -> str:
        node = self._tree.css_first(selector)
        return " ".join(node.text(separator=" ").split()) if node else ""

    def _attribute(self, selector: str, name: str) -> str:
        node = self._tree.css_first(selector)
        return (node.attributes.get(name) or "") if node else ""


def _json_ld(tree: LexborHTMLParser) -> Iterator[dict[str, Any]]:
    for node in tree.css('script[type="application/ld+json"]'):
        try:
            found = json.loads(node.text())
        except (ValueError, RecursionError):
            continue
        for one in found if isinstance(found, list) else [found]:
            if isinstance(one, dict):
                graph = one.get("@graph")
                yield from (
                    part for part in (graph if isinstance(graph, list) else [one]) if isinstance(part, dict)
                )


def _type(facts: dict[str, Any]) -> set[str]:
    return {str(one).lower() for one in listed(facts.get("@type"))}


def _main(tree: LexborHTMLParser) -> LexborNode | None:
    for selector in MAIN:
        found = tree.css(selector)
        if len(found) == 1 or (found and selector == MAIN[0]):
            return found[0]
    return _densest(tree)


def _densest(tree: LexborHTMLParser) -> LexborNode | None:
    """The element whose paragraphs have the most words that are no links; half of them count for the one around it."""
    scores: dict[int, float] = {}
    nodes: dict[int, LexborNode] = {}
    for block in tree.css("p, pre, blockquote, li"):
        words = len(block.text().split()) - sum(len(link.text().split()) for link in block.css("a"))
        holder, share = block.parent, 1.0
        while holder is not None and share > 0.2 and holder.tag not in ("html", "body") and words > 0:
            scores[holder.mem_id] = scores.get(holder.mem_id, 0) + words * share
            nodes[holder.mem_id] = holder
            holder, share = holder.parent, share / 2
    return nodes[max(scores, key=lambda one: scores[one])] if scores else tree.body


def _clean(main: LexborNode, title: str) -> None:
    """Takes out what is no text, and the title, which stands above it anyway."""
    for node in main.css(NOT_TEXT):
        node.decompose()
    for node in main.css("h1, .p-name"):
        if one_line(node.text(separator=" ")) == one_line(title):
            node.decompose()
            break
    for node in main.css("header time, header .p-author, .dt-published, .byline"):
        node.decompose()


def _is_within(node: LexborNode, tag: str) -> bool:
    parent = node.parent
    while parent is not None:
        if parent.tag == tag:
            return True
        parent = parent.parent
    return False


def _date_in(path: str) -> str:
    found = _DAY_IN_PATH.search(f"/{path}")
    return read_date(f"{found[1]}-{int(found[2]):02}-{int(found[3] or 1):02}") if found else ""


def _paths(path: str) -> list[str]:
    """The addresses at which a file of a folder was served."""
    plain = split_address(path).path if "://" in path else "/" + path.lstrip("/")
    if plain.endswith(("/index.html", "/index.htm")):
        return [plain.rpartition("/")[0] + "/", plain]
    return [plain]

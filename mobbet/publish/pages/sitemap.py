"""The site map (sitemaps.org 0.9): an index, the posts of each month in parts, and the pages beside posts likewise."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree

from mobbet.core.keys import ListName, PageKey
from mobbet.core.timing import iso
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.page_kind import FootprintGroup, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page
from mobbet.publish.xml import add, to_bytes

LENGTH = 1000
"""How many posts a part has at the most."""
INDEX, INDEX_PATH = PageKey("sitemap/index"), "/sitemap.xml"
PAGES = "pages"
"""What stands for the month in the keys of the parts with the pages beside posts."""
_PATH = re.compile(r"/sitemap-(\d{4}-\d\d|pages)-(\d+)\.xml")
_TYPE = "application/xml; charset=utf-8"
_NAMESPACE = "http://www.sitemaps.org/schemas/sitemap/0.9"


def key(month: str, part: int | str) -> PageKey:
    return PageKey.of("sitemap", month, part)


def path(month: str, part: int | str) -> str:
    return f"/sitemap-{month}-{part}.xml"


def parts(count: int) -> int:
    """How many parts a month with so many posts has."""
    return -(-count // LENGTH)


def page(plan: Plan, key: PageKey) -> Page | None:
    """The index, or a part of a month; None for a part without posts."""
    if key == INDEX:
        months = plan.snapshot.lists("month:")
        paths = tuple(
            path(name.which, part)
            for name in months
            for part in range(1, parts(plan.snapshot.count(name)) + 1)
        ) + tuple(path(PAGES, part) for part in range(1, parts(len(plan.snapshot.pages())) + 1))
        return Page(key, INDEX_PATH, "sitemap-index", paths, paths)
    month, part = key.parts
    start = (int(part) - 1) * LENGTH
    if month == PAGES:
        posts = plan.snapshot.pages()[start : start + LENGTH]
    else:
        posts = plan.snapshot.window(ListName.of("month", month), start, LENGTH)
    entries = tuple((post.path, post.updated) for post in posts)
    return Page(key, path(month, part), "sitemap", entries, entries) if entries else None


def _keys_of_list(plan: Plan, name: ListName) -> Iterator[PageKey]:
    if name.kind == "month":
        yield from (key(name.which, part) for part in range(1, parts(plan.snapshot.count(name)) + 1))


def _keys_of_pages(plan: Plan, more: int = 0) -> Iterator[PageKey]:
    """The parts with the pages beside posts; those of some more pages too."""
    return (key(PAGES, part) for part in range(1, parts(len(plan.snapshot.pages()) + more) + 1))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    pages = sum(1 for _, state in changed.states if state.get("kind"))
    if pages:
        yield INDEX
        yield from _keys_of_pages(changed.plan, pages)
    for one in changed.lists:
        if one.name.kind != "month":
            continue
        if parts(one.count) != parts(one.count_before):
            yield INDEX
        last = parts(max(one.count, one.count_before))
        yield from (key(one.name.which, part) for part in range(one.lowest // LENGTH + 1, last + 1))


def _at(plan: Plan, path: str) -> PageKey | None:
    if path == INDEX_PATH:
        return INDEX
    found = _PATH.fullmatch(path)
    return key(found[1], found[2]) if found else None


def _render_part(renderer: Renderer, page: Page) -> Rendered:
    root = ElementTree.Element("urlset", xmlns=_NAMESPACE)
    for path, updated in page.context:
        url = add(root, "url")
        add(url, "loc", renderer.absolute(path))
        add(url, "lastmod", iso(updated))
    return Rendered(_TYPE, to_bytes(root))


def _render_index(renderer: Renderer, page: Page) -> Rendered:
    root = ElementTree.Element("sitemapindex", xmlns=_NAMESPACE)
    for path in page.context:
        add(add(root, "sitemap"), "loc", renderer.absolute(path))
    return Rendered(_TYPE, to_bytes(root))


def _words(*_: Any) -> str:
    return "the site map"


KIND = PageKind(
    name="sitemap",
    page=page,
    recipes={"sitemap": _render_part, "sitemap-index": _render_index},
    fixed=lambda: (INDEX,),
    keys=_keys_of_pages,
    keys_of_list=_keys_of_list,
    touched=_touched,
    at=_at,
    successors=lambda key, known: (key, INDEX),
    groups=(FootprintGroup(lambda key, post_id: True, _words),),
    shows_of_house=house_parts.ADDRESSES,
)

"""The style sheet of the blog's look, the manifest, which tells a browser its colours, and the counts of the categories in the foot. All keep their
address when they change, so no page follows from them."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator

from mobbet.core.keys import ListName, PageKey
from mobbet.core.numbers import MOST_COUNTED, counted_to
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.design import path_of
from mobbet.publish.look_style import STYLE_PATH, style_of
from mobbet.publish.page_kind import FILE, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer, version
from mobbet.publish.values import Page

MANIFEST_PATH, COUNTS_PATH = "/site.webmanifest", "/counts.css"
CSS = "text/css; charset=utf-8"
KEY = PageKey.of("style", "look.css")
COUNTS = PageKey.of("style", "counts.css")
KEYS = {KEY: STYLE_PATH, PageKey.of("style", "site.webmanifest"): MANIFEST_PATH, COUNTS: COUNTS_PATH}


def page(plan: Plan, key: PageKey) -> Page | None:
    path, house = KEYS.get(key), plan.snapshot.house
    if path is None:
        return None
    if path == COUNTS_PATH:
        return _counts_page(plan)
    reads: object = [house.name, house.look.light.paper, house.icon]
    if path == STYLE_PATH:
        found = [plan.snapshot.item(number) for number in house.look.pictures]
        reads = [house.look_json, [[item.id, item.version] for item in found if item]]
    return Page(key, path, "style", [version(), reads], None)


def _counts_page(plan: Plan) -> Page | None:
    """How many posts each category of the foot lists; None where the foot does not say."""
    house = plan.snapshot.house
    if not (house.foot_counts and house.foot_categories):
        return None
    known = plan.snapshot.counts("category:", MOST_COUNTED + 1)
    counts = [
        (number, known.get(ListName.of("category", number), 0)) for number, _, _ in house.foot_categories
    ]
    return Page(COUNTS, COUNTS_PATH, "style", counts, counts)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if changed.plan.snapshot.house.foot_counts and any(one.name.is_of_category for one in changed.lists):
        yield COUNTS
    pictures = changed.plan.snapshot.house.pictures
    if any(fact.number in pictures for fact in changed.facts_of("media")):
        yield KEY


def _render(renderer: Renderer, page: Page) -> Rendered:
    return _MADE[page.path](renderer, page)


def _style(renderer: Renderer, page: Page) -> Rendered:
    return Rendered(CSS, style_of(renderer.house.look, renderer.items))


def _counts(renderer: Renderer, page: Page) -> Rendered:
    """The counts as text that the style sheet adds after each name, so that they need no script and stand on no page."""
    rules = [
        f'.foot-categories .of-{number}::after{{content:"\\a0 {counted_to(count, "post")}"}}'
        for number, count in page.context
        if count
    ]
    return Rendered(CSS, "\n".join(rules).encode())


def _manifest(renderer: Renderer, page: Page) -> Rendered:
    """W3C Web Application Manifest."""
    house = renderer.house
    colours = {"theme_color": house.look.light.paper, "background_color": house.look.light.paper}
    icon = {"src": f".{path_of('icon.svg')}", "sizes": "any", "type": "image/svg+xml"}
    if house.icon:
        icon = {"src": f".{house.icon[1]}", "type": house.icon[2]}
    data = {"name": house.name, "start_url": "./", "display": "browser", "icons": [icon], **colours}
    return Rendered("application/manifest+json", json.dumps(data, ensure_ascii=False, indent=1).encode())


_MADE: dict[str, Callable[[Renderer, Page], Rendered]] = {
    STYLE_PATH: _style,
    MANIFEST_PATH: _manifest,
    COUNTS_PATH: _counts,
}

KIND = PageKind(
    name="style",
    page=page,
    recipes={"style": _render},
    fixed=lambda: list(KEYS),
    touched=_touched,
    at=lambda plan, path: next((key for key, known in KEYS.items() if known == path), None),
    shows_of_house=house_parts.NONE,
    counts_as=FILE,
)

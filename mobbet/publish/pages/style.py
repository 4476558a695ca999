"""The style sheet of the blog's look, and the manifest, which tells a browser its colours. Both keep their address when the look changes."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator

from mobbet.core.keys import PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.design import path_of
from mobbet.publish.look_style import STYLE_PATH, style_of
from mobbet.publish.page_kind import FILE, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer, version
from mobbet.publish.values import Page

MANIFEST_PATH = "/site.webmanifest"
KEY = PageKey.of("style", "look.css")
KEYS = {PageKey.of("style", "look.css"): STYLE_PATH, PageKey.of("style", "site.webmanifest"): MANIFEST_PATH}


def page(plan: Plan, key: PageKey) -> Page | None:
    path, house = KEYS.get(key), plan.snapshot.house
    if path is None:
        return None
    reads: object = [house.name, house.look.light.paper, house.icon]
    if path == STYLE_PATH:
        found = [plan.snapshot.item(number) for number in house.look.pictures]
        reads = [house.look_json, [[item.id, item.version] for item in found if item]]
    return Page(key, path, "style", [version(), reads], None)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    pictures = changed.plan.snapshot.house.pictures
    if any(fact.number in pictures for fact in changed.facts_of("media")):
        yield KEY


def _render(renderer: Renderer, page: Page) -> Rendered:
    return _MADE[page.path](renderer)


def _style(renderer: Renderer) -> Rendered:
    return Rendered("text/css; charset=utf-8", style_of(renderer.house.look, renderer.items))


def _manifest(renderer: Renderer) -> Rendered:
    """W3C Web Application Manifest."""
    house = renderer.house
    colours = {"theme_color": house.look.light.paper, "background_color": house.look.light.paper}
    icon = {"src": f".{path_of('icon.svg')}", "sizes": "any", "type": "image/svg+xml"}
    if house.icon:
        icon = {"src": f".{house.icon[1]}", "type": house.icon[2]}
    data = {"name": house.name, "start_url": "./", "display": "browser", "icons": [icon], **colours}
    return Rendered("application/manifest+json", json.dumps(data, ensure_ascii=False, indent=1).encode())


_MADE: dict[str, Callable[[Renderer], Rendered]] = {STYLE_PATH: _style, MANIFEST_PATH: _manifest}

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

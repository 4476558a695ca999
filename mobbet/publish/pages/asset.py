"""A file of the site's design: style sheets, fonts, the icon, scripts."""

from __future__ import annotations

from mobbet.core.keys import PageKey
from mobbet.publish import house_parts
from mobbet.publish.design import assets
from mobbet.publish.page_kind import FILE, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.values import Page


def page(plan: Plan, key: PageKey) -> Page | None:
    asset = next((asset for asset in assets() if asset.name == key.rest), None)
    return Page(key, asset.path, "asset", asset.hash, asset) if asset else None


def _at(plan: Plan, path: str) -> PageKey | None:
    return next((PageKey.of("asset", asset.name) for asset in assets() if asset.path == path), None)


KIND = PageKind(
    name="asset",
    page=page,
    recipes={"asset": lambda renderer, page: Rendered(page.context.type, page.context.body)},
    fixed=lambda: [PageKey.of("asset", asset.name) for asset in assets()],
    at=_at,
    shows_of_house=house_parts.NONE,
    counts_as=FILE,
)

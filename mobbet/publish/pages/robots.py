"""`robots.txt` (RFC 9309), which names the site map."""

from __future__ import annotations

from mobbet.core.keys import PageKey
from mobbet.publish import house_parts
from mobbet.publish.page_kind import PageKind
from mobbet.publish.pages.missing import OTHER
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

KEY, PATH = PageKey("robots/"), "/robots.txt"


def page(plan: Plan, key: PageKey) -> Page:
    return Page(key, PATH, "robots", None, None)


def _render(renderer: Renderer, page: Page) -> Rendered:
    body = f"User-agent: *\nDisallow:\n\nSitemap: {renderer.absolute('/sitemap.xml')}\n"
    return Rendered("text/plain; charset=utf-8", body.encode())


KIND = PageKind(
    name="robots",
    page=page,
    recipes={"robots": _render},
    fixed=lambda: (KEY,),
    at=lambda plan, path: KEY if path == PATH else None,
    groups=(OTHER,),
    shows_of_house=house_parts.ADDRESSES,
)

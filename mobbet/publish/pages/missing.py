"""The page for an address at which there is nothing."""

from __future__ import annotations

from mobbet.core.keys import PageKey
from mobbet.core.numbers import counted
from mobbet.publish.page_kind import FootprintGroup, PageKind
from mobbet.publish.renderer import NOT_FOUND
from mobbet.publish.values import Page

KEY = PageKey("missing/")
OTHER = FootprintGroup(lambda key, post_id: True, lambda pages, names: counted(len(pages), "other page"))
"""The line of a footprint for pages that have none of their own."""


def page() -> Page:
    return Page(KEY, "/404.html", NOT_FOUND, None, None)


KIND = PageKind(
    name="missing",
    page=lambda plan, key: page(),
    recipes={NOT_FOUND: lambda renderer, page: renderer.template(page)},
    fixed=lambda: (KEY,),
    groups=(OTHER,),
)

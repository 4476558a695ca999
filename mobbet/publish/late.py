"""The bytes of pages that no file is kept of: they are made when a reader or a host asks."""

from __future__ import annotations

from mobbet.publish.pages import Renderer
from mobbet.publish.plan import Plan, leading
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot


def bytes_of(snapshot: SiteSnapshot, renderer: Renderer, row: PageRow) -> bytes | None:
    """The body of a row that is late; None for a share card whose post shows another one by now."""
    if row.leads_to is not None:
        return renderer.render(leading(snapshot.house, row.key, row.path, row.leads_to, row.audience)).body
    page = Plan(snapshot).page(row.key)
    return renderer.render(page).body if page and page.path == row.path else None

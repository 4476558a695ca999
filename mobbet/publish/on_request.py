"""Renders pages that have no file, when a reader or a host asks for them."""

from __future__ import annotations

from mobbet.publish.pages.kinds import page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.redirects import redirect
from mobbet.publish.renderer import Renderer
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot


def bytes_of(snapshot: SiteSnapshot, renderer: Renderer, row: PageRow) -> bytes | None:
    """The body of such a row; None for a share card whose post shows another one by now."""
    if row.leads_to is not None:
        return render(renderer, redirect(snapshot.house, row.key, row.path, row.leads_to, row.audience)).body
    page = page_at(Plan(snapshot), row.key)
    return render(renderer, page).body if page and page.path == row.path else None

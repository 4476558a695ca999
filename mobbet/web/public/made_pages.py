"""Public pages that are rendered on request and are in no edition."""

from __future__ import annotations

from mobbet.actions import addresses
from mobbet.actions.workshop import Workshop
from mobbet.core.keys import PageKey
from mobbet.publish import on_request
from mobbet.publish.pages import missing
from mobbet.publish.renderer import GONE, Renderer
from mobbet.publish.values import Page, Step
from mobbet.store import placements
from mobbet.store.blogs import Blog
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot


def not_found_page(workshop: Workshop, blog: Blog, root: str) -> bytes:
    """Rendered for the place where this server has the blog, which the files of the site cannot know."""
    return _renderer(workshop, blog, root).template(missing.page()).body


def gone_page(workshop: Workshop, blog: Blog, root: str, post_id: int | None) -> bytes:
    """The same for a post that was taken down, with those that stand next to it."""
    near = addresses.neighbours_of(workshop, blog, post_id)
    steps = [Step(placements.title_of(workshop.db, row), row.path) for row in near]
    return (
        _renderer(workshop, blog, root).template(Page(PageKey("gone/"), "/404.html", GONE, None, steps)).body
    )


def share_card(workshop: Workshop, blog: Blog, row: PageRow) -> bytes | None:
    """A share card; None when the post shows another one by now."""
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    return on_request.bytes_of(snapshot, Renderer(snapshot.house, snapshot.item), row)


def _renderer(workshop: Workshop, blog: Blog, root: str) -> Renderer:
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    return Renderer(snapshot.house, snapshot.item, root=f"{root}/")

"""The preview: the working text of a post, by the very code that publishes it."""

from __future__ import annotations

import re

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions.preview import as_it_would_be
from mobbet.actions.workshop import Workshop, post_for
from mobbet.core.audience import may_read
from mobbet.core.timing import time_in_words
from mobbet.publish.design import ASSETS
from mobbet.publish.pages import Renderer
from mobbet.publish.values import Page
from mobbet.store import editions, media
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web import links
from mobbet.web.bars import bar_for
from mobbet.web.contexts import PreviewPage
from mobbet.web.docket import docket_of
from mobbet.web.rendering import page
from mobbet.web.security import SITE_POLICY
from mobbet.web.session import Here, Me

router = APIRouter()
PREVIEW_HEADERS = {"Content-Security-Policy": SITE_POLICY, "Cache-Control": "no-store"}


@router.get("/posts/{post_id}/preview")
def preview(here: Here, me: Me, post_id: int) -> Response:
    post, blog = post_for(here, me, post_id)
    actions = docket_of(here, post, blog).actions
    shown = as_it_would_be(here, post, blog)
    when = time_in_words(shown.post.goes_out, shown.post.zone, here.clock())
    sentence = f"Showing the page as it stands on the sheet, going out {when}."
    frame = links.preview_site(post.id, shown.post.path)
    title = post.title or "No title yet"
    return page(PreviewPage(bar_for(here, me, blog, "write"), post.id, title, sentence, frame, actions.main_action, actions.can_place))


@router.get("/posts/{post_id}/preview/site{path:path}")
def preview_site(here: Here, me: Me, post_id: int, path: str) -> Response:
    """Any page of the blog's site; the post's own page as it stands on the sheet."""
    post, blog = post_for(here, me, post_id)
    shown = as_it_would_be(here, post, blog)
    if path == shown.post.path:
        snapshot = SiteSnapshot(here.db, blog.id, here.clock())
        return _rendered(Renderer(snapshot.house, snapshot.item), shown.page)
    return _asset(path) or _picture(here, blog, path) or _published(here, me, blog, post_id, path)


def _rendered(renderer: Renderer, shown: Page, status: int = 200) -> Response:
    rendered = renderer.render(shown)
    return Response(rendered.body, status_code=status, media_type=rendered.type, headers=PREVIEW_HEADERS)


def _asset(path: str) -> Response | None:
    asset = next((asset for asset in ASSETS if asset.path == path), None)
    return Response(asset.body, media_type=asset.type, headers={"Cache-Control": "private, max-age=86400"}) if asset else None


def _picture(here: Workshop, blog: Blog, path: str) -> Response | None:
    """A file of the library, also one that no reader gets yet."""
    name = re.fullmatch(r"/media/([0-9a-f]{24})-[\w-]+\.\w+", path)
    file = media.file_of_blog(here.db, blog.id, name[1]) if name else None
    body = here.media.read(file.hash) if file else None
    return Response(body, media_type=file.type, headers={"Cache-Control": "private, max-age=86400"}) if body is not None else None


def _published(here: Workshop, me: Person, blog: Blog, post_id: int, path: str) -> Response:
    """A page of the current edition, so that one can walk on from the preview."""
    row = editions.page_at(here.db, blog.id, path)
    if row and may_read(row.audience, me.id):
        if row.leads_to:
            return Response(status_code=307, headers={"Location": links.preview_site(post_id, row.leads_to)})
        shelf = here.media if row.shelf == "media" else here.pages
        return Response(shelf.read(row.hash), media_type=row.type, headers=PREVIEW_HEADERS)
    snapshot = SiteSnapshot(here.db, blog.id, here.clock())
    renderer = Renderer(snapshot.house, snapshot.item, root=links.preview_site(post_id))
    return _rendered(renderer, Page("missing/", "/404.html", "missing", None, None), 404)


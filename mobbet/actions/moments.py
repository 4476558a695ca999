"""The whole site at a moment, past or to come, for any reader, and as it was in an edition."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER, Reader, may_read
from mobbet.core.facts import ORIGINAL
from mobbet.core.permalinks import one_form
from mobbet.publish.design import assets
from mobbet.publish.pages import missing
from mobbet.publish.pages.kinds import key_at, page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.store import editions, media
from mobbet.store.blogs import Blog
from mobbet.store.snapshot import SiteSnapshot

_MEDIA = re.compile(r"/media/([0-9a-f]{24})-[\w-]+\.\w+")


@dataclass(frozen=True)
class Answer:
    """What stands at an address at a moment: a page's bytes and type, or where it leads; neither where there is nothing.

    A download is a file as somebody brought it in, which no browser may show by itself.
    """

    body: bytes = b""
    type: str = ""
    leads_to: str = ""
    is_there: bool = True
    is_download: bool = False


def look(
    workshop: Workshop,
    blog: Blog,
    path: str,
    instant: int,
    reader: Reader = STRANGER,
    root: str | None = None,
    tried: Mapping[str, str] | None = None,
) -> Answer:
    """What a reader gets at a path of the site as it stands at an instant, made from the facts of now. `root` is for the not-found page; with
    `tried`, with these parts of its house ({part: JSON})."""
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, instant, reader, tried)
        plan, renderer = Plan(snapshot), Renderer(snapshot.house, snapshot.item)
        if path.startswith(("/assets/", "/media/")):
            return _file(workshop, blog, snapshot, renderer, path)
        key = key_at(plan, one_form(path) if path.endswith("/") else path)
        page = page_at(plan, key) if key else None
        if page is not None and page.leads_to is None and page.path != path:
            return Answer(leads_to=page.path)
        if page is None or not may_read(page.audience, reader):
            not_found = Renderer(snapshot.house, snapshot.item, root=root).template(missing.page())
            return Answer(not_found.body, not_found.type, is_there=False)
        if page.leads_to is not None:
            return Answer(leads_to=page.leads_to)
        return _looked(workshop, render(renderer, page))


def _looked(workshop: Workshop, rendered: Rendered) -> Answer:
    body = workshop.media.read(rendered.media_hash) if rendered.media_hash else rendered.body
    return (
        Answer(body, rendered.type, is_download=rendered.is_download)
        if body is not None
        else Answer(is_there=False)
    )


def _file(workshop: Workshop, blog: Blog, snapshot: SiteSnapshot, renderer: Renderer, path: str) -> Answer:
    asset = next((asset for asset in assets() if asset.path == path), None)
    if asset is not None:
        return Answer(asset.body, asset.type)
    name = _MEDIA.fullmatch(path)
    file = media.file_of_blog(workshop.db, blog.id, name[1]) if name else None
    body = workshop.media.read(file.hash) if file else None
    return (
        Answer(body, file.type, is_download=file.use == ORIGINAL)
        if file is not None and body is not None
        else Answer(is_there=False)
    )


def look_in_edition(workshop: Workshop, blog: Blog, path: str, number: int, reader: Reader) -> Answer:
    """What stood at a path in an edition, byte for byte; nothing for a reader who may not have it."""
    is_known = editions.by_number(workshop.db, blog.id, number) is not None
    row = editions.page_at_edition(workshop.db, blog.id, path, number) if is_known else None
    if row is None and is_known and path.startswith("/assets/"):
        row = editions.last_page_at(workshop.db, blog.id, path)
    if row is None or not may_read(row.audience, reader):
        return Answer(
            b"There was nothing at this address in that edition.", "text/plain; charset=utf-8", is_there=False
        )
    if row.leads_to:
        return Answer(leads_to=row.leads_to)
    body = (workshop.media if row.shelf == "media" else workshop.pages).read(row.hash)
    return Answer(body, row.type, is_download=row.is_download) if body is not None else Answer(is_there=False)

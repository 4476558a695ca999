"""The site as one reader sees it: lists, neighbours and feeds with what they may read beside what everyone may."""

from __future__ import annotations

import re
from dataclasses import replace

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import Reader, list_audiences, may_read
from mobbet.core.facts import item_at
from mobbet.publish.list_pages import FEEDS
from mobbet.publish.pages import Renderer
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.store import editions, filing, media, readers
from mobbet.store.blogs import Blog
from mobbet.store.readers import Group
from mobbet.store.snapshot import SiteSnapshot

_KINDS = ("list", "post", "subjects", "archive")
"""The kinds of pages that differ from reader to reader."""
_PAGED = re.compile(r"(?P<base>/(?:.*/)?)(?:page/(?P<number>[1-9]\d{0,6})/)?")


def has_more(workshop: Workshop, blog: Blog, reader: Reader) -> bool:
    """Whether lists hold more for this reader than for everyone."""
    audiences = list_audiences(reader)[1:]
    return bool(audiences) and readers.has_more(workshop.db, blog.id, audiences)


def page_for(workshop: Workshop, blog: Blog, reader: Reader, path: str) -> Rendered | None:
    """A page as this reader sees it; None where it is the one that everyone gets, or there is none."""
    with workshop.db.reading():
        key = _key_at(workshop, blog, path)
        if key is None:
            return None
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader)
        page = Plan(snapshot).page(key)
        if page is None or page.path != path or not may_read(page.audience, reader):
            return None
        rendered = Renderer(snapshot.house, snapshot.item).render(page)
    if not rendered.media_hash:
        return rendered
    body = workshop.media.read(rendered.media_hash)
    return rendered._replace(body=body) if body is not None else None


def _key_at(workshop: Workshop, blog: Blog, path: str) -> str | None:
    """The key in the plan of a page that differs from reader to reader, or of a picture that only such a page shows: one newer than the edition."""
    row = editions.page_at(workshop.db, blog.id, path)
    if row is not None and row.leads_to is None:
        return row.key if row.key.partition("/")[0] in _KINDS else None
    number = item_at(path)
    if number is not None:
        return next(
            (
                file.key
                for file in media.files(workshop.db, number)
                if file.path == path and file.type.startswith("image/")
            ),
            None,
        )
    match = _PAGED.fullmatch(path)
    name = list_at(workshop, blog, match["base"]) if match else None
    return f"list/{name}/{match['number'] or 0}" if name else None


def list_at(workshop: Workshop, blog: Blog, base: str) -> str | None:
    """The list whose newest page stands at an address, whoever may see it."""
    if base == "/":
        return "front"
    month = re.fullmatch(r"/(\d{4})/(\d\d)/", base)
    if month:
        return f"month:{month[1]}-{month[2]}"
    parts = base.strip("/").split("/")
    if len(parts) == 2 and parts[0] == "tag":
        number = filing.tag_with_slug(workshop.db, blog.id, parts[1])
        return f"tag:{number}" if number else None
    number = filing.category_with_slug(workshop.db, blog.id, parts[0]) if len(parts) == 1 else None
    return f"category:{number}" if number else None


def group_feed(workshop: Workshop, blog: Blog, feed_key: str, format: str) -> Rendered | None:
    """The feed of a group: everything its readers may read. None for a secret that is none, or is old.

    Pictures are asked for below the feed's own address, since a feed reader has no session.
    """
    group = readers.group_of_feed(workshop.db, blog.id, feed_key)
    if group is None or format not in FEEDS:
        return None
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader_in(group))
        page = Plan(snapshot).page(f"feed/all/{format}")
        base = f"/~/feed/{feed_key}"
        context = replace(page.context, title=f"{page.context.title}: {group.name}", path=base)
        private = page._replace(path=f"{base}.{format}", context=context)
        return _WithPrivateFiles(snapshot, base).render(private)


def reader_in(group: Group) -> Reader:
    """A reader who is in that group and nothing else."""
    return Reader(None, True, frozenset({group.id}))


class _WithPrivateFiles(Renderer):
    """Writes the addresses of library files below a group's feed."""

    def __init__(self, snapshot: SiteSnapshot, base: str) -> None:
        super().__init__(snapshot.house, snapshot.item)
        self._base = base

    def absolute(self, path: str) -> str:
        return super().absolute(f"{self._base}{path}" if path.startswith("/media/") else path)


def group_file(workshop: Workshop, blog: Blog, feed_key: str, path: str) -> tuple[str, str, bool] | None:
    """(hash, type, is a download) of a file of the library that a group's readers may have, for feed readers; None for any other."""
    group = readers.group_of_feed(workshop.db, blog.id, feed_key)
    row = editions.page_at(workshop.db, blog.id, path) if group else None
    if row is None or row.shelf != "media" or not may_read(row.audience, reader_in(group)):
        return None
    return row.hash, row.type, row.is_download

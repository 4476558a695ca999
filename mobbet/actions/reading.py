"""The site as one reader sees it: lists, neighbours and feeds with what they may read besides what everyone may."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER, Reader, list_audiences, may_read
from mobbet.core.keys import ALL, PageKey
from mobbet.core.values import existing
from mobbet.publish.pages import feed
from mobbet.publish.pages.kinds import KINDS, key_at, page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.store import editions, readers
from mobbet.store.blogs import Blog
from mobbet.store.readers import Group
from mobbet.store.snapshot import SiteSnapshot


def has_more(workshop: Workshop, blog: Blog, reader: Reader) -> bool:
    """Whether lists hold more for this reader than for everyone."""
    audiences = tuple(one for one in list_audiences(reader) if one not in list_audiences(STRANGER))
    return bool(audiences) and readers.has_more(workshop.db, blog.id, audiences)


def page_for(workshop: Workshop, blog: Blog, reader: Reader, path: str) -> Rendered | None:
    """A page as this reader sees it; None where it is the one that everyone gets, or there is none."""
    with workshop.db.reading():
        row = editions.page_at(workshop.db, blog.id, path)
        if row is not None and row.leads_to is None and not KINDS[row.key.kind].differs_by_reader:
            return None
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader)
        plan = Plan(snapshot)
        key = row.key if row is not None and row.leads_to is None else key_at(plan, path)
        if key is None or not (KINDS[key.kind].differs_by_reader or _is_picture(key)):
            return None
        page = page_at(plan, key)
        if page is None or page.path != path or not may_read(page.audience, reader):
            return None
        rendered = render(Renderer(snapshot.house, snapshot.item), page)
    if not rendered.media_hash:
        return rendered
    body = workshop.media.read(rendered.media_hash)
    return rendered._replace(body=body) if body is not None else None


def _is_picture(key: PageKey) -> bool:
    """Whether it is the key of a picture: only a page that is newer than the edition shows one that stands in no edition."""
    return key.kind == "media" and key.parts[2] == "image"


def group_feed(workshop: Workshop, blog: Blog, feed_key: str, format: str) -> Rendered | None:
    """The feed of a group: everything its readers may read. None for a secret that is none, or is old.

    Pictures are asked for below the feed's own address, since a feed reader has no session.
    """
    group = readers.group_of_feed(workshop.db, blog.id, feed_key)
    if group is None or format not in feed.FORMATS:
        return None
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader_in(group))
        page = existing(page_at(Plan(snapshot), feed.key(ALL, format)))
        base = f"/~/feed/{feed_key}"
        context = replace(page.context, title=f"{page.context.title}: {group.name}", path=base)
        private = page._replace(path=f"{base}.{format}", context=context)
        return render(_WithPrivateFiles(snapshot, base), private)


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
    if group is None or row is None or row.shelf != "media" or not may_read(row.audience, reader_in(group)):
        return None
    return row.hash, row.type, row.is_download

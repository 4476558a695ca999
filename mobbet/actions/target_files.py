"""The files that a place outside gets, in the order in which they are sent."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, STATIC_HOST
from mobbet.core.canonical import digest
from mobbet.core.errors import Broken
from mobbet.core.keys import PageKey
from mobbet.core.static_search import FOLDER as INDEX
from mobbet.publish import on_request
from mobbet.publish.house_parts import HouseDigest
from mobbet.publish.pages.kinds import KINDS, all_keys, fingerprint, page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer, version
from mobbet.publish.sealed import sealed_page
from mobbet.publish.static_copy import FORM, static_copy
from mobbet.publish.targets.folder import file_of
from mobbet.publish.targets.host import A_MINUTE, FOR_EVER, File
from mobbet.publish.values import Page
from mobbet.store import editions, placements, static_search
from mobbet.store.blogs import Blog
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot

_OVERVIEWS = tuple(name for name, kind in KINDS.items() if kind.groups and not kind.is_of_post)
"""The kinds that are sent after the posts they name."""
_NAMING = frozenset(
    name for name, kind in KINDS.items() if kind.differs_by_reader or name in ("feed", "sitemap")
)
"""The kinds of pages that name posts."""


def stage_of(file: File) -> int:
    """What pages need comes first, then posts, then what leads to them."""
    return 0 if file.keep == FOR_EVER else 2 if file.is_list else 1


def files_of(workshop: Workshop, blog: Blog) -> Iterator[tuple[str, str, File]]:
    """(name, hash, file) of everything a static host gets: what everyone may read, and sealed pages where the owner chose so."""
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
        renderer = Renderer(snapshot.house, snapshot.item)
        rows = list(editions.pages(workshop.db, blog.id))
        index = static_search.files(workshop.db, blog.id)
        others = {} if blog.seals else _without_locked(workshop, blog, rows, bool(index))
        locked = (
            {
                row.post_id: row.password_key
                for row in placements.behind_passwords(workshop.db, blog.id, workshop.clock())
            }
            if blog.seals
            else {}
        )
    yield from filter(None, others.values())
    yield from _index_files(workshop, index)
    for row in rows:
        if row.key in others:
            continue
        if row.audience == EVERYONE:
            yield _file(workshop, snapshot, renderer, row, bool(index))
        elif row.key.kind == "post" and row.key.number in locked:
            password = locked[row.key.number]
            hash = digest([row.hash, password, FORM, version()])
            yield (
                file_of(row.path),
                hash,
                File(
                    file_of(row.path),
                    row.type,
                    A_MINUTE,
                    "",
                    _sealing(workshop, renderer, snapshot, row, password, blog.salt),
                ),
            )


def _without_locked(
    workshop: Workshop, blog: Blog, rows: list[PageRow], has_index: bool
) -> dict[PageKey, tuple[str, str, File] | None]:
    """The pages that a host gets otherwise than readers here, since they lead to posts behind a password, which it does not get.

    None for a page that there is not without them. A blog without such posts has none.
    """
    if not placements.behind_passwords(workshop.db, blog.id, workshop.clock()):
        return {}
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock(), STATIC_HOST)
    plan, house = Plan(snapshot), HouseDigest.made_of(snapshot.house, version())
    renderer = Renderer(snapshot.house, snapshot.item)
    known = {row.key: row for row in rows if row.audience == EVERYONE}
    found: dict[PageKey, tuple[str, str, File] | None] = {}
    for key in {*all_keys(plan), *known}:
        if key.kind not in _NAMING:
            continue
        page = page_at(plan, key)
        if page is None or page.audience != EVERYONE:
            found[key] = None
        elif key not in known or fingerprint(page, house) != known[key].fingerprint:
            found[key] = _written(renderer, page, fingerprint(page, house), has_index)
    return found


def _written(renderer: Renderer, page: Page, fingerprint: str, has_index: bool) -> tuple[str, str, File]:
    rendered = render(renderer, page)
    body = _copied(rendered.body, rendered.type, page.key, has_index)
    name = file_of(page.path)
    is_list = page.key.kind in _OVERVIEWS
    return (
        name,
        digest([fingerprint, FORM, has_index]),
        File(name, rendered.type, A_MINUTE, "", lambda: body, is_list),
    )


def _copied(body: bytes, type: str, key: PageKey, has_index: bool) -> bytes:
    return static_copy(body, key.kind, has_index) if type.startswith("text/html") else body


def _index_files(workshop: Workshop, index: dict[str, str]) -> Iterator[tuple[str, str, File]]:
    """The files of the index for readers' search: those that it begins from stay under their names, the others never change."""
    for name, hash in index.items():
        keep = FOR_EVER if "/" in name or name.endswith(".pf_meta") else A_MINUTE
        type = "text/javascript; charset=utf-8" if name.endswith(".js") else "application/octet-stream"
        read = partial(_bytes_of_index, workshop, hash)
        yield INDEX + name, hash, File(INDEX + name, type, keep, "", read)


def _bytes_of_index(workshop: Workshop, hash: str) -> bytes:
    body = workshop.pages.read(hash)
    if body is None:
        raise Broken(
            "A file of the index for readers’ search is missing; at Site, Where it goes, choose “not at all” and then the index again."
        )
    return body


def _sealing(
    workshop: Workshop, renderer: Renderer, snapshot: SiteSnapshot, row: PageRow, key: str, salt: str
) -> Callable[[], bytes]:
    return lambda: sealed_page(
        renderer, row.path, _read(workshop, row), key, salt, lambda path: _picture(workshop, snapshot, path)
    )


def _picture(workshop: Workshop, snapshot: SiteSnapshot, path: str) -> tuple[str, bytes] | None:
    """(type, bytes) of a picture that a sealed page shows."""
    row = editions.page_at(workshop.db, snapshot.blog_id, path)
    body = workshop.media.read(row.hash) if row is not None and row.shelf == "media" else None
    return (row.type, body) if row is not None and body is not None else None


def _file(
    workshop: Workshop, snapshot: SiteSnapshot, renderer: Renderer, row: PageRow, has_index: bool
) -> tuple[str, str, File]:
    keep = FOR_EVER if row.path.startswith(("/assets/", "/media/")) else A_MINUTE
    read = (
        (lambda: _drawn(snapshot, renderer, row))
        if row.is_made_on_request
        else (lambda: _read(workshop, row, has_index))
    )
    name = file_of(row.path)
    return (
        name,
        _hash_of(row, has_index),
        File(name, row.type, keep, _target_of(snapshot, row), read, row.key.kind in _OVERVIEWS),
    )


def _hash_of(row: PageRow, has_index: bool) -> str:
    """What a copy of a page is known by: of what it is made, and how."""
    if row.key.kind == "search":
        return digest([row.hash, FORM, has_index])
    return digest([row.hash, FORM]) if row.key.kind == "post" else row.hash


def _drawn(snapshot: SiteSnapshot, renderer: Renderer, row: PageRow) -> bytes:
    """A page that is made now that it is sent."""
    body = on_request.bytes_of(snapshot, renderer, row)
    if body is None:
        raise Broken(f"{row.path} is being published anew; it is sent with the next edition.")
    return body


def _target_of(snapshot: SiteSnapshot, row: PageRow) -> str:
    """Where an address leads, as a store wants it: from its root, or whole."""
    if not row.leads_to:
        return ""
    return row.leads_to if "://" in row.leads_to else snapshot.house.home + row.leads_to[1:]


def _read(workshop: Workshop, row: PageRow, has_index: bool = False) -> bytes:
    body = (workshop.media if row.shelf == "media" else workshop.pages).read(row.hash)
    if body is None:
        raise Broken(f"The file of {row.path} is missing; run mobbet check.")
    return _copied(body, row.type, row.key, has_index)

"""Computes the rows of an edition: compares each page with the current edition, and renders it if it differs."""

from __future__ import annotations

import pickle
from contextlib import nullcontext
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, BinaryIO

from mobbet.core.canonical import digest as digest_of
from mobbet.core.keys import PageKey
from mobbet.publish.gc_tuning import rare_collections
from mobbet.publish.house_parts import HouseDigest
from mobbet.publish.pages.kinds import KINDS, fingerprint, page_at, render
from mobbet.publish.parallel import stretches
from mobbet.publish.plan import Plan
from mobbet.publish.render_cache import RenderCache
from mobbet.publish.renderer import Renderer, version
from mobbet.publish.spool import Spool
from mobbet.publish.values import Page
from mobbet.store import cached, editions
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot

SOME = 200
"""The number of pages from which garbage collection is made rare: hardly any object becomes garbage meanwhile."""


@dataclass
class Rows:
    """The rows by which an edition differs from the one before, what was computed for the cache, and the states of posts, {post: its state}.

    `same` are (key, new fingerprint) of pages whose bytes stay as they are.
    """

    new: list[PageRow] = field(default_factory=list)
    ended: list[PageKey] = field(default_factory=list)
    files: list[Path] = field(default_factory=list)
    cached: list[Spool] = field(default_factory=list)
    same: list[tuple[PageKey, str]] = field(default_factory=list)
    states: dict[int, dict[str, Any] | None] = field(default_factory=dict)
    added: int = 0
    removed: int = 0

    @classmethod
    def of(cls, parts: list[Rows]) -> Rows:
        """Those of all parts together."""
        rows = cls()
        for part in parts:
            for name in ("new", "ended", "files", "cached", "same"):
                getattr(rows, name).extend(getattr(part, name))
            rows.states.update(part.states)
            rows.added += part.added
            rows.removed += part.removed
        return rows


@dataclass(frozen=True)
class RowsJob:
    """A job: compute the rows of pages of one blog at an instant, for an edition with this house; with `full`, render all of them.

    With `is_whole`, the states of all posts are asked for as well.
    """

    database: Path
    shelf: Path
    blog_id: int
    instant: int
    house: HouseDigest
    full: bool
    is_whole: bool

    def answer(self, keys: list[PageKey], posts: list[int], out: BinaryIO) -> None:
        """The rows of these keys and the states of these posts; after them the new cache rows, as a stream."""
        db, shelf = Database(self.database), Shelf(self.shelf)
        with db.reading():
            snapshot = SiteSnapshot(db, self.blog_id, self.instant)
            memo = memo_of(db, snapshot)
            rows = worked(db, shelf, Plan(snapshot, memo), self, keys, posts, memo)
        spools, rows.cached = rows.cached, []
        pickle.dump(rows, out)
        for spool in spools:
            spool.give(out)

    def read(self, source: BinaryIO) -> Rows:
        rows: Rows = pickle.load(source)
        spool = Spool(self.shelf)
        spool.take(source)
        rows.cached = [spool]
        return rows


def memo_of(db: Database, snapshot: SiteSnapshot) -> RenderCache:
    """The render cache for a plan and a renderer over this snapshot."""
    return RenderCache(lambda posts: cached.of_posts(db, posts), snapshot.item, version())


def rows_of(
    db: Database, shelf: Shelf, plan: Plan, order: RowsJob, keys: list[PageKey], memo: RenderCache
) -> Rows:
    """Computes the rows of these keys."""
    renderer = Renderer(plan.snapshot.house, plan.snapshot.item, memo=memo)
    spool = Spool(shelf.folder)
    rows = Rows(cached=[spool])
    known = editions.pages_of(db, order.blog_id, keys)
    with rare_collections() if len(keys) >= SOME else nullcontext():
        for some, posts in stretches(keys):
            memo.read_ahead(posts)
            for key in some:
                _take(shelf, renderer, order, rows, key, page_at(plan, key), known.pop(key, None))
            spool.add(memo.given_up())
    return rows


def _take(
    shelf: Shelf,
    renderer: Renderer,
    order: RowsJob,
    rows: Rows,
    key: PageKey,
    page: Page | None,
    old: PageRow | None,
) -> None:
    """Compares a page of the plan with the current edition's, and renders it if it may differ."""
    if page is None:
        if old:
            rows.ended.append(key)
            rows.removed += 1
        return
    print_now = fingerprint(page, order.house)
    if (
        old and old.fingerprint == print_now and (old.is_made_on_request or not order.full)
    ):  # what is made on request has no bytes to render anew
        return
    row = _laid_down(shelf, renderer, rows, page, print_now)
    if old and old._replace(fingerprint=row.fingerprint) == row:
        if old != row:
            rows.same.append((key, row.fingerprint))
        return
    if old:
        rows.ended.append(key)
    else:
        rows.added += 1
    rows.new.append(row)


def _laid_down(shelf: Shelf, renderer: Renderer, rows: Rows, page: Page, print_now: str) -> PageRow:
    requested_type = KINDS[page.key.kind].requested_type
    if requested_type:
        return PageRow(
            page.key,
            page.path,
            requested_type,
            "pages",
            digest_of(page.reads),
            print_now,
            page.audience,
            page.leads_to,
        )
    rendered = render(renderer, page)
    name, digest = "media", rendered.media_hash
    if not digest:
        name = "pages"
        digest, new = shelf.put(rendered.body)
        rows.files += new
    return PageRow(page.key, page.path, rendered.type, name, digest, print_now, page.audience, page.leads_to)


def worked(
    db: Database,
    shelf: Shelf,
    plan: Plan,
    order: RowsJob,
    keys: list[PageKey],
    posts: list[int],
    memo: RenderCache,
) -> Rows:
    """The rows of these keys, with the states of these posts where they are asked for."""
    rows = rows_of(db, shelf, plan, order, keys, memo)
    rows.states = {post_id: plan.state(post_id) for post_id in posts} if order.is_whole else {}
    return rows

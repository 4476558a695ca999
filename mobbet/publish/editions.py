"""Editions: renders what changed, lays it down, and commits one numbered state of the site.

Readers get the edition before or the one after, never a mixture: every row of an edition is
committed in one transaction, after its files are safe on the disk.
"""

from __future__ import annotations

import gzip
import time
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

import brotli

from mobbet.core.canonical import canonical
from mobbet.core.canonical import digest as digest_of
from mobbet.publish.pages import Renderer, house_digest
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.touched import touched
from mobbet.publish.values import Page
from mobbet.services.contracts import Clock
from mobbet.store import editions, placements
from mobbet.store.database import Database
from mobbet.store.editions import Edition, PageRow
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot

TRIES = 20
LATE = {"card": "image/png"}
"""Recipes whose bytes are made when they are first asked for, with their type: many of them never are."""
COMPRESSED = ("text/", "application/", "image/svg")


@dataclass(frozen=True)
class Published:
    """What a publication came to. `seconds` is its own time; `edition` is the one readers get now."""

    edition: int
    written: int
    removed: int
    pages: int
    seconds: float


@dataclass(frozen=True)
class Altered:
    """One page that a publication would change: its key in the plan, its path, and 'added', 'altered' or 'removed'.

    A page that moves has both its paths: `was` is the one it had.
    """

    key: str
    path: str
    what: str
    leads_to: str | None = None
    was: str = ""


@dataclass(frozen=True)
class _Draft:
    """An edition worked out but not yet committed."""

    instant: int
    house: str
    base: Edition | None
    read_up_to: int
    lists_up_to: int
    states: dict[int, str | None]
    new: list[PageRow]
    ended: list[str]
    added: int
    removed: int
    files: list[Path]


class Press:
    """Makes the editions of the blogs of one data folder."""

    def __init__(self, db: Database, pages: Shelf, clock: Clock) -> None:
        self._db = db
        self._pages = pages
        self._clock = clock

    def publish(self, blog_id: int, instant: int, full: bool = False, since: int | None = None) -> Published:
        """Brings what readers get up to date with the facts at that instant.

        Renders the pages whose fingerprint changed; with `full`, every page. When another process
        publishes meanwhile, its edition is taken as the new beginning. The site never goes back in
        time: a clock that was set back is taken to stand at the last edition's instant. Where the
        scheduler or another process has published already what changed after edition `since`, the
        answer tells what those editions came to.
        """
        started = time.perf_counter()
        for _ in range(TRIES):
            draft = self._draft(blog_id, instant, full)
            self._pages.sync(draft.files)
            edition = self._commit(blog_id, draft)
            if edition is not None:
                break
        else:
            raise RuntimeError("other processes kept publishing the same blog")
        first = draft.base.number if draft.base else 0
        made = editions.after(self._db, blog_id, first if since is None else min(first, since))
        written, removed = sum(one.written for one in made), sum(one.removed for one in made)
        return Published(edition.number, written, removed, edition.pages, time.perf_counter() - started)

    def footprint(self, blog_id: int, instant: int) -> list[Altered]:
        """Every page that a publication now would change, by path; nothing is written."""
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            snapshot = SiteSnapshot(self._db, blog_id, max(instant, base.instant) if base else instant)
            plan = Plan(snapshot)
            house = house_digest(snapshot.house)
            is_whole = base is None or base.house != house
            states = self._changed_states(plan, blog_id, base, editions.last_unsettled(self._db, blog_id), snapshot.instant, is_whole)
            keys, _ = self._keys(plan, blog_id, states, is_whole)
            found = []
            for key in keys:
                page, old = plan.page(key), editions.page_of(self._db, blog_id, key)
                if page is None and old:
                    found.append(Altered(key, old.path, "removed"))
                elif page and old is None:
                    found.append(Altered(key, page.path, "added", page.leads_to))
                elif page and old.fingerprint != fingerprint(page, house):
                    found.append(Altered(key, page.path, "altered", page.leads_to, old.path if old.path != page.path else ""))
            return sorted(found, key=lambda one: (one.path, one.key))

    def _keys(self, plan: Plan, blog_id: int, states: dict[int, tuple[dict | None, dict | None]], is_whole: bool) -> tuple[Iterable[str], int]:
        """The keys that an edition must look at, and the last note about a list among what they follow from."""
        lists = editions.unsettled_lists(self._db, blog_id)
        up_to = lists[-1][0] if lists else 0
        if is_whole:
            return dict.fromkeys([*plan.all_keys(), *editions.keys(self._db, blog_id)]), up_to
        keys = touched(plan, states, [name for _, name in lists])
        for _, name in lists:
            if name.startswith(("category:", "tag:")):
                keys.update(editions.keys(self._db, blog_id, f"list/{name}/"))
        return sorted(keys), up_to

    def _draft(self, blog_id: int, instant: int, full: bool) -> _Draft:
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            instant = max(instant, base.instant) if base else instant
            read_up_to = editions.last_unsettled(self._db, blog_id)
            snapshot = SiteSnapshot(self._db, blog_id, instant)
            plan = Plan(snapshot)
            house = house_digest(snapshot.house)
            is_whole = full or base is None or base.house != house
            states = self._changed_states(plan, blog_id, base, read_up_to, instant, is_whole)
            keys, lists_up_to = self._keys(plan, blog_id, states, is_whole)
            rows = _Rows(self._db, self._pages, Renderer(snapshot.house, snapshot.item), blog_id, house, full)
            for key in keys:
                rows.take(key, plan.page(key))
            kept = {post_id: canonical(now) if now else None for post_id, (before, now) in states.items() if before != now}
            return _Draft(instant, house, base, read_up_to, lists_up_to, kept, rows.new, rows.ended, rows.added, rows.removed, rows.files)

    def _changed_states(
        self, plan: Plan, blog_id: int, base: Edition | None, read_up_to: int, instant: int, is_whole: bool
    ) -> dict[int, tuple[dict | None, dict | None]]:
        """{post: (state in the current edition, state now)} of every post that may have changed."""
        if is_whole:
            posts = {*plan.snapshot.post_ids(), *editions.shown_posts(self._db, blog_id)}
        else:
            turned = placements.turned_between(self._db, blog_id, base.instant, instant)
            posts = {*editions.unsettled(self._db, blog_id, read_up_to), *turned}
        return {post_id: (editions.shown(self._db, blog_id, post_id), plan.state(post_id)) for post_id in sorted(posts)}

    def _commit(self, blog_id: int, draft: _Draft) -> Edition | None:
        """The edition that stands now; None when another process was quicker."""
        with self._db.transaction():
            current = editions.current(self._db, blog_id)
            if current != draft.base:
                return None
            editions.forget_unsettled(self._db, blog_id, draft.read_up_to)
            editions.forget_unsettled_lists(self._db, blog_id, draft.lists_up_to)
            editions.set_shown(self._db, blog_id, draft.states)
            if current and not draft.new and not draft.ended and current.house == draft.house:
                return current
            number = (current.number if current else 0) + 1
            pages = (current.pages if current else 0) + draft.added - draft.removed
            edition = Edition(blog_id, number, draft.instant, self._clock(), draft.house, len(draft.new), draft.removed, pages)
            editions.add(self._db, edition, draft.new, draft.ended)
            return edition


class _Rows:
    """Collects the rows by which an edition differs from the one before."""

    def __init__(self, db: Database, shelf: Shelf, renderer: Renderer, blog_id: int, house: str, full: bool) -> None:
        self._db, self._shelf, self._renderer = db, shelf, renderer
        self._blog_id, self._house, self._full = blog_id, house, full
        self.new: list[PageRow] = []
        self.ended: list[str] = []
        self.files: list[Path] = []
        self.added = 0
        self.removed = 0

    def take(self, key: str, page: Page | None) -> None:
        """Compares a page of the plan with the current edition's, and renders it if it may differ."""
        old = editions.page_of(self._db, self._blog_id, key)
        if page is None:
            if old:
                self.ended.append(key)
                self.removed += 1
            return
        print_now = fingerprint(page, self._house)
        if old and old.fingerprint == print_now and not self._full:
            return
        row = self._lay_down(page, print_now)
        if old == row:
            return
        if old:
            self.ended.append(key)
        else:
            self.added += 1
        self.new.append(row)

    def _lay_down(self, page: Page, print_now: str) -> PageRow:
        if page.recipe in LATE:
            return PageRow(page.key, page.path, LATE[page.recipe], "pages", digest_of(page.reads), print_now, page.audience, page.leads_to)
        rendered = self._renderer.render(page)
        shelf, digest = "media", rendered.media_hash
        if not digest:
            shelf = "pages"
            digest, new = self._shelf.put(rendered.body, compressed(rendered.type, rendered.body))
            self.files += new
        return PageRow(page.key, page.path, rendered.type, shelf, digest, print_now, page.audience, page.leads_to)


def compressed(type: str, body: bytes) -> dict[str, bytes]:
    """The gzip and brotli forms of a text, made ahead; none for what is compressed already."""
    if not type.startswith(COMPRESSED) or len(body) < 200:
        return {}
    return {".gz": gzip.compress(body, 6, mtime=0), ".br": brotli.compress(body, quality=5)}

"""Editions: renders what changed, lays it down, and commits one numbered state of the site.

Readers get the edition before or the one after, never a mixture: every row of an edition is
committed in one transaction, after its files are safe on the disk.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import chain
from typing import NamedTuple

from mobbet.core.canonical import canonical
from mobbet.publish.design import ASSETS
from mobbet.publish.laying import Order, Rows, memo_of, rows_of, worked
from mobbet.publish.list_pages import pages
from mobbet.publish.pages import house_digest
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.sharing import MANY, in_processes
from mobbet.publish.touched import Changes, certain, touched
from mobbet.services.contracts import Clock
from mobbet.store import editions, placements, worked_out
from mobbet.store.database import Database
from mobbet.store.editions import Edition, PageRow
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot

TRIES, MANY_POSTS = 20, 500
LARGE = 30
"""From so many pages of the front list on, the pages of a list tell how many posts stand on each."""
EXACT = {
    "subjects/",
    "archive/",
    "missing/",
    "robots/",
    "sitemap/index",
    *(f"asset/{asset.name}" for asset in ASSETS),
}
"""The keys whose pages are compared even where a new house alters all of them: their addresses may follow from a new version of Mobbet."""


@dataclass(frozen=True)
class Published:
    """What a publication came to. `seconds` is its own time; `edition` is the one readers get now."""

    edition: int
    written: int
    removed: int
    pages: int
    seconds: float


class Altered(NamedTuple):
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
    """An edition worked out but not yet committed; `is_shared` says that several processes did the work."""

    instant: int
    house: str
    base: Edition | None
    read_up_to: int
    lists_up_to: int
    states: dict[int, str | None]
    rows: Rows
    is_shared: bool


class Press:
    """Makes the editions of the blogs of one data folder. `on_edition` is called after each."""

    def __init__(self, db: Database, pages: Shelf, clock: Clock) -> None:
        self._db = db
        self._pages = pages
        self._clock = clock
        self.on_edition: Callable[[], None] = lambda: None

    def publish(
        self,
        blog_id: int,
        instant: int,
        full: bool = False,
        since: int | None = None,
        why: str = "",
        person_id: int | None = None,
    ) -> Published:
        """Brings what readers get up to date with the facts at that instant; the edition keeps why, and by whom.

        Renders the pages whose fingerprint changed; with `full`, every page. When another process
        publishes meanwhile, its edition is taken as the new beginning. The site never goes back in
        time: a clock that was set back is taken to stand at the last edition's instant. Where the
        scheduler or another process has published already what changed after edition `since`, the
        answer tells what those editions came to.
        """
        started = time.perf_counter()
        for _ in range(TRIES):
            version = self._db.version()
            draft = self._draft(blog_id, instant, full, True)
            if (
                draft.is_shared and self._db.version() != version
            ):  # the processes may have read other facts than this one
                draft = self._draft(blog_id, instant, full, False)
            self._pages.sync(draft.rows.files)
            edition = self._commit(blog_id, draft, why, person_id)
            if edition is not None:
                break
        else:
            raise RuntimeError("other processes kept publishing the same blog")
        self.on_edition()
        first = draft.base.number if draft.base else 0
        made = editions.after(self._db, blog_id, first if since is None else min(first, since))
        written, removed = sum(one.written for one in made), sum(one.removed for one in made)
        return Published(edition.number, written, removed, edition.pages, time.perf_counter() - started)

    def put_back(self, blog_id: int, number: int, person_id: int | None) -> Published:
        """Makes a new edition of an earlier one's pages. It has no house, so that the next publication looks at every page."""
        started = time.perf_counter()
        with self._db.transaction():
            current = editions.current(self._db, blog_id)
            old, now = (
                editions.differing(self._db, blog_id, number, current.number),
                editions.differing(self._db, blog_id, current.number, number),
            )
            removed = len(now.keys() - old.keys())
            pages = current.pages + len(old.keys() - now.keys()) - removed
            edition = Edition(
                blog_id,
                current.number + 1,
                current.instant,
                self._clock(),
                "",
                len(old),
                removed,
                pages,
                f"puts edition {number} back",
                person_id,
                number,
            )
            editions.add(self._db, edition, old.values(), now.keys())
        self.on_edition()
        return Published(edition.number, len(old), removed, pages, time.perf_counter() - started)

    def altered_by_house(self, blog_id: int) -> int:
        """How many pages readers get, where the house style or Mobbet itself is another than theirs, so that every one of them alters; 0 otherwise."""
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            if base is None or not base.house:  # one that was put back is compared page by page
                return 0
            return (
                base.pages
                if base.house != house_digest(SiteSnapshot(self._db, blog_id, base.instant).house)
                else 0
            )

    def footprint(self, blog_id: int, instant: int) -> list[Altered]:
        """Every page that a publication now would change, by path; nothing is written."""
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            snapshot = SiteSnapshot(self._db, blog_id, max(instant, base.instant) if base else instant)
            plan = Plan(snapshot, memo_of(self._db, snapshot))
            house = house_digest(snapshot.house)
            is_whole = base is None or not base.house
            states = self._changed_states(
                plan, blog_id, base, editions.last_unsettled(self._db, blog_id), snapshot.instant, is_whole
            )
            by_house: list[Altered] = []
            if not is_whole and base.house != house:
                is_whole = not self._has_same_lists(plan, blog_id, states)
                by_house = [] if is_whole else self._of_house(plan, blog_id)
            keys = set(self._keys(plan, blog_id, states, is_whole)[0]) | (EXACT if by_house else set())
            sure = {} if is_whole else certain(plan, states)
            known = editions.pages_of(self._db, blog_id, list(keys))
            found = [self._altered(plan, key, known.get(key), house, sure.get(key)) for key in keys]
            found += [one for one in by_house if one.key not in keys]
            return sorted(filter(None, found), key=lambda one: (one.path, one.key))

    def _has_same_lists(self, plan: Plan, blog_id: int, states: Changes) -> bool:
        """Whether the lists of a large blog have as many pages as by the house of the current edition; one number tells, since each list has a page of that many posts."""
        came = sum(
            ("front" in (now or {}).get("lists", ())) - ("front" in (before or {}).get("lists", ()))
            for before, now in states.values()
        )
        last = pages(plan.snapshot.count("front") - came, plan.snapshot.house.posts_on_page)
        return last >= LARGE and last == len(editions.keys(self._db, blog_id, "list/front/")) - 1

    def _of_house(self, plan: Plan, blog_id: int) -> list[Altered]:
        """Every page of the current edition, all of which another house alters; the addresses of share cards follow from it too."""
        cards = plan.card_paths()
        found = []
        for key, path, leads_to in editions.where(self._db, blog_id):
            new = cards.get(key, path)
            found.append(
                Altered(key, new, "altered", leads_to, path if path != new else "")
                if new
                else Altered(key, path, "removed")
            )
        return found

    def _altered(
        self, plan: Plan, key: str, old: PageRow | None, house: str, sure: str | None
    ) -> Altered | None:
        """What becomes of a page; None where it stays. One that surely differs is not looked at: `sure` is its path."""
        if sure and old:
            return Altered(key, sure, "altered", None, old.path if old.path != sure else "")
        page = plan.page(key)
        if page is None:
            return Altered(key, old.path, "removed") if old else None
        if old is None:
            return Altered(key, page.path, "added", page.leads_to)
        if old.fingerprint == fingerprint(page, house):
            return None
        return Altered(key, page.path, "altered", page.leads_to, old.path if old.path != page.path else "")

    def _keys(self, plan: Plan, blog_id: int, states: Changes, is_whole: bool) -> tuple[Iterable[str], int]:
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

    def _draft(self, blog_id: int, instant: int, full: bool, may_share: bool) -> _Draft:
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            instant = max(instant, base.instant) if base else instant
            read_up_to = editions.last_unsettled(self._db, blog_id)
            snapshot = SiteSnapshot(self._db, blog_id, instant)
            memo = memo_of(self._db, snapshot)
            plan = Plan(snapshot, memo)
            house = house_digest(snapshot.house)
            is_whole = (
                full or base is None or base.house != house or self._is_mostly_changed(snapshot, read_up_to)
            )
            order = Order(self._db.path, self._pages.folder, blog_id, instant, house, full, is_whole)
            states: Changes = (
                {} if is_whole else self._changed_states(plan, blog_id, base, read_up_to, instant, False)
            )
            wanted, lists_up_to = self._keys(plan, blog_id, states, is_whole)
            keys = list(wanted)
            by_hand = lambda some, posts: worked(self._db, self._pages, plan, order, some, posts, memo)  # noqa: E731
            shared = (
                in_processes(order, keys, list(snapshot.post_ids()), by_hand)
                if may_share and len(keys) >= MANY
                else None
            )
            rows = (
                Rows.of(shared)
                if shared is not None
                else rows_of(self._db, self._pages, plan, order, keys, memo)
            )
            if is_whole and shared is not None:
                before = editions.all_shown(self._db, blog_id)
                states = {
                    post_id: (before.get(post_id), rows.states.get(post_id))
                    for post_id in sorted(before.keys() | rows.states.keys())
                }
            elif is_whole:
                states = self._changed_states(plan, blog_id, base, read_up_to, instant, True)
            kept = {
                post_id: canonical(now) if now else None
                for post_id, (before, now) in states.items()
                if before != now
            }
            return _Draft(instant, house, base, read_up_to, lists_up_to, kept, rows, shared is not None)

    def _is_mostly_changed(self, snapshot: SiteSnapshot, read_up_to: int) -> bool:
        """Whether so many posts changed that looking at every page is less work, since that can be shared."""
        changed = len(editions.unsettled(self._db, snapshot.blog_id, read_up_to))
        return changed >= MANY_POSTS and 2 * changed > snapshot.count("all")

    def _changed_states(
        self, plan: Plan, blog_id: int, base: Edition | None, read_up_to: int, instant: int, is_whole: bool
    ) -> Changes:
        """{post: (state in the current edition, state now)} of every post that may have changed."""
        if is_whole:
            before = editions.all_shown(self._db, blog_id)
            return {
                post_id: (before.get(post_id), plan.state(post_id))
                for post_id in sorted({*plan.snapshot.post_ids(), *before})
            }
        turned = placements.turned_between(self._db, blog_id, base.instant, instant)
        posts = sorted({*editions.unsettled(self._db, blog_id, read_up_to), *turned})
        plan.cards.read_ahead(posts)
        return {
            post_id: (editions.shown(self._db, blog_id, post_id), plan.state(post_id)) for post_id in posts
        }

    def _commit(self, blog_id: int, draft: _Draft, why: str, person_id: int | None) -> Edition | None:
        """The edition that stands now; None when another process was quicker."""
        with self._db.transaction():
            current = editions.current(self._db, blog_id)
            if current != draft.base:
                return None
            editions.forget_unsettled(self._db, blog_id, draft.read_up_to)
            editions.forget_unsettled_lists(self._db, blog_id, draft.lists_up_to)
            editions.set_shown(self._db, blog_id, draft.states)
            worked_out.put(self._db, chain.from_iterable(draft.rows.worked_out))
            if current and not draft.rows.new and not draft.rows.ended and current.house == draft.house:
                return current
            number = (current.number if current else 0) + 1
            pages = (current.pages if current else 0) + draft.rows.added - draft.rows.removed
            edition = Edition(
                blog_id,
                number,
                draft.instant,
                self._clock(),
                draft.house,
                len(draft.rows.new),
                draft.rows.removed,
                pages,
                why,
                person_id,
            )
            editions.add(self._db, edition, draft.rows.new, draft.rows.ended)
            return edition

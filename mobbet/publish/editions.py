"""Editions: renders what changed, stores it, and commits one numbered state of the site.

Readers get the edition before or the one after, never a mixture: every row of an edition is
committed in one transaction, after its files are safe on the disk.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import chain

from mobbet.core.canonical import canonical
from mobbet.core.keys import ALL, PageKey
from mobbet.core.values import existing
from mobbet.publish.changes.change_set import Changes
from mobbet.publish.changes.pending import changed_states, keys_to_compare
from mobbet.publish.house_parts import HouseDigest
from mobbet.publish.page_count import PageCount
from mobbet.publish.page_rows import Rows, RowsJob, memo_of, rows_of, worked
from mobbet.publish.pages.kinds import count_of, restyled_keys
from mobbet.publish.parallel import MANY, in_processes
from mobbet.publish.plan import Plan
from mobbet.publish.published import Published
from mobbet.publish.renderer import house_digest
from mobbet.publish.restoration import Restoration, restoration
from mobbet.publish.site_index import read_few
from mobbet.services.contracts import Clock
from mobbet.store import cached, editions, holds, stale
from mobbet.store.database import Database
from mobbet.store.editions import Edition
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot
from mobbet.store.stale import Reason

TRIES, MANY_POSTS, MOST_REASONS = 20, 500, 3
"""How many pages are read into the search index with an edition; the others follow in the background, or when somebody searches."""


@dataclass(frozen=True)
class _Draft:
    """An edition that is computed but not yet committed; `is_shared` says that several processes did the work."""

    instant: int
    house: str
    base: Edition | None
    posts_up_to: int
    facts_up_to: int
    states: dict[int, str | None]
    rows: Rows
    is_shared: bool
    reasons: list[Reason]


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
        if holds.of_blog(self._db, blog_id):  # it stands at an edition that was put back
            return _published(existing(editions.current(self._db, blog_id)), [], started)
        for _ in range(TRIES):
            version = self._db.version()
            draft = self._draft(blog_id, instant, full, True)
            if (
                draft.is_shared and self._db.version() != version
            ):  # the processes may have read other facts than this one
                draft = self._draft(blog_id, instant, full, False)
            self._pages.sync(draft.rows.files)
            edition = self._commit(blog_id, draft, *_reason(draft.reasons, why, person_id))
            if edition is not None:
                break
        else:
            raise RuntimeError("other processes kept publishing the same blog")
        read_few(self._db, self._pages, blog_id)
        self.on_edition()
        first = draft.base.number if draft.base else 0
        made = editions.after(self._db, blog_id, first if since is None else min(first, since))
        return _published(edition, made, started)

    def restoration(self, blog_id: int, number: int) -> Restoration:
        """What putting an edition back would come to now."""
        read = lambda row: self._pages.read(row.hash)  # noqa: E731
        return restoration(self._db, blog_id, number, read, self._clock())

    def put_back(self, blog_id: int, number: int, person_id: int | None) -> Published:
        """Makes a new edition of an earlier one's pages, but for those that restrictions of now keep back. It has no house, so that the
        next publication looks at every page.
        """
        started = time.perf_counter()
        with self._db.transaction():
            current = existing(editions.current(self._db, blog_id))
            back = self.restoration(blog_id, number)
            added = {row.key for row in back.rows}
            removed = len(set(back.ended) - added)
            pages = current.pages + len(added - set(back.ended)) - removed
            edition = Edition(
                blog_id,
                current.number + 1,
                current.instant,
                self._clock(),
                "",
                len(back.rows),
                removed,
                pages,
                f"puts edition {number} back",
                person_id,
                number,
                *_beside(added, back.ended),
            )
            editions.add(self._db, edition, back.rows, back.ended)
        read_few(self._db, self._pages, blog_id)
        self.on_edition()
        return _published(edition, [edition], started)

    def _draft(self, blog_id: int, instant: int, full: bool, may_share: bool) -> _Draft:
        with self._db.reading():
            base = editions.current(self._db, blog_id)
            instant = max(instant, base.instant) if base else instant
            posts_up_to = stale.last_post(self._db, blog_id)
            snapshot = SiteSnapshot(self._db, blog_id, instant)
            memo = memo_of(self._db, snapshot)
            plan = Plan(snapshot, memo)
            house = house_digest(snapshot.house)
            restyled = restyled_keys(plan, HouseDigest(base.house), house) if base and base.house else None
            is_whole = (
                full or base is None or restyled is None or self._is_mostly_changed(snapshot, posts_up_to)
            )
            order = RowsJob(self._db.path, self._pages.folder, blog_id, instant, house, full, is_whole)
            states: Changes = {} if is_whole else changed_states(self._db, plan, blog_id, base, posts_up_to)
            wanted, facts_up_to = keys_to_compare(self._db, plan, blog_id, states, is_whole)
            keys = list(dict.fromkeys((*wanted, *(restyled or ()))))
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
                states = changed_states(self._db, plan, blog_id, None, posts_up_to)
            kept = {
                post_id: canonical(now) if now else None
                for post_id, (before, now) in states.items()
                if before != now
            }
            reasons = stale.reasons(self._db, blog_id)
            return _Draft(
                instant, house, base, posts_up_to, facts_up_to, kept, rows, shared is not None, reasons
            )

    def _is_mostly_changed(self, snapshot: SiteSnapshot, posts_up_to: int) -> bool:
        """Whether so many posts changed that looking at every page is less work, since that can be shared."""
        changed = len(stale.posts(self._db, snapshot.blog_id, posts_up_to))
        return changed >= MANY_POSTS and 2 * changed > snapshot.count(ALL)

    def _commit(self, blog_id: int, draft: _Draft, why: str, person_id: int | None) -> Edition | None:
        """The edition that stands now; None when another process committed one first."""
        with self._db.transaction():
            current = editions.current(self._db, blog_id)
            if current != draft.base:
                return None
            if current and holds.of_blog(self._db, blog_id):
                return current
            stale.forget(self._db, blog_id, draft.posts_up_to, draft.facts_up_to)
            stale.forget_reasons(self._db, blog_id, max((one.sequence for one in draft.reasons), default=0))
            editions.set_shown(self._db, blog_id, draft.states)
            cached.put(self._db, chain.from_iterable(draft.rows.cached))
            editions.refresh(self._db, blog_id, draft.rows.same)
            if current and not draft.rows.new and not draft.rows.ended:
                return (
                    current
                    if current.house == draft.house
                    else editions.set_house(self._db, current, draft.house)
                )
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
                None,
                *_beside([row.key for row in draft.rows.new], draft.rows.ended),
            )
            editions.add(self._db, edition, draft.rows.new, draft.rows.ended)
            return edition


def _reason(reasons: list[Reason], why: str, person_id: int | None) -> tuple[str, int | None]:
    """Why an edition is made, and by whom: as it is asked for, and for each change that it has. Several people are named with what each did."""
    people = {one.person_id for one in reasons} | ({person_id} if why or not reasons else set())
    names = {one.person_id: one.name for one in reasons}
    said = [f"{one.name}: {one.why}" if len(people) > 1 and one.name else one.why for one in reasons]
    if why and why not in (one.why for one in reasons):
        name = names.get(person_id)
        said.insert(0, f"{name}: {why}" if len(people) > 1 and name else why)
    said = list(dict.fromkeys(said))
    more = f"; and {len(said) - MOST_REASONS} more" if len(said) > MOST_REASONS else ""
    return "; ".join(said[:MOST_REASONS]) + more, people.pop() if len(people) == 1 else None


def _beside(new: Iterable[PageKey], ended: Iterable[PageKey]) -> tuple[int, int]:
    """(files, addresses) among the keys by which an edition differs from the one before."""
    count = count_of({*new, *ended})
    return count.files, count.addresses


def _published(edition: Edition, made: list[Edition], started: float) -> Published:
    """What these editions came to; `edition` is the one readers get now."""
    written, removed, files, addresses = (
        sum(getattr(one, name) for one in made) for name in ("written", "removed", "files", "addresses")
    )
    count = PageCount(written + removed - files - addresses, files, addresses)
    return Published(edition.number, written, removed, edition.pages, time.perf_counter() - started, count)

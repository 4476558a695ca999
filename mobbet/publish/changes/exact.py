"""Finds the pages that a change alters by comparing pages: with the current edition, or at a moment with and without the change."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, field
from typing import Any

from mobbet.core.keys import FRONT, ListName, PageKey
from mobbet.publish.changes.altered import Altered, moved_from
from mobbet.publish.changes.footprint import Footprint
from mobbet.publish.changes.pending import changed_states, keys_to_compare
from mobbet.publish.house_parts import ADDRESSES, CARD, NONE, HouseDigest
from mobbet.publish.page_kind import Head
from mobbet.publish.page_rows import memo_of
from mobbet.publish.pages import post_list, share_card
from mobbet.publish.pages.kinds import (
    KINDS,
    certain,
    fingerprint,
    fixed_keys,
    page_at,
    resectioned_keys,
    restyled_keys,
    touched,
)
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import house_digest
from mobbet.publish.values import Page
from mobbet.store import editions, stale
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot

LARGE = 30
"""The number of pages of the front list from which they tell how lists are divided."""


class AgainstEdition:
    """Compares what a publication at an instant would make with the current edition."""

    def __init__(self, db: Database, blog_id: int, instant: int, in_short: bool = False) -> None:
        self._db = db
        self._blog_id = blog_id
        self._instant = instant
        self._in_short = in_short
        self._found = Footprint([])

    def look_with_change(self) -> None:
        self._found = pending_footprint(self._db, self._blog_id, self._instant, self._in_short)

    def footprint(self) -> Footprint:
        return self._found


def pending_footprint(db: Database, blog_id: int, instant: int, in_short: bool = False) -> Footprint:
    """Every page that a publication now would change, by path; nothing is written.

    With `in_short`, the pages that differ by the house style alone are counted rather than named.
    """
    with db.reading():
        base = editions.current(db, blog_id)
        snapshot = SiteSnapshot(db, blog_id, max(instant, base.instant) if base else instant)
        plan = Plan(snapshot, memo_of(db, snapshot))
        house = house_digest(snapshot.house)
        is_whole = base is None or not base.house
        states = changed_states(db, plan, blog_id, None if is_whole else base, stale.last_post(db, blog_id))
        keys = set(keys_to_compare(db, plan, blog_id, states, is_whole)[0])
        restyled = restyled_keys(plan, HouseDigest(base.house), house) if base and not is_whole else []
        keys |= set(restyled or ())
        is_restyled = restyled is None
        if is_restyled and not _has_same_lists(db, plan, blog_id, keys):
            is_whole, is_restyled = True, False
            keys = set(keys_to_compare(db, plan, blog_id, states, is_whole)[0])
        if is_restyled and base:
            keys |= set(resectioned_keys(HouseDigest(base.house), house))
        if is_restyled:  # what shows little of the house style is compared; addresses of fixed pages may follow from a new version of Mobbet
            keys |= _compared_one_by_one(db, blog_id)
        sure = {} if is_whole else certain(plan, states)
        known = editions.pages_of(db, blog_id, list(keys))
        found = [_compared_with_row(plan, key, known.get(key), house, sure.get(key)) for key in keys]
        pages = list(filter(None, found))
        if not (is_restyled and base):
            return Footprint(_sorted(pages))
        before = HouseDigest(base.house)
        if in_short and not before.differs_in(CARD, house):
            return Footprint(_sorted(pages), _restyled_count(db, blog_id, before, house, known))
        others = _restyled(db, plan, blog_id, before, house, keys)
        return Footprint(_sorted([*pages, *others]))


def _sorted(pages: list[Altered]) -> list[Altered]:
    return sorted(pages, key=lambda one: (one.path, one.key))


def _compared_one_by_one(db: Database, blog_id: int) -> set[PageKey]:
    """The pages that show little of the house style, and are few."""
    names = (name for name, kind in KINDS.items() if kind.shows_of_house == ADDRESSES)
    fixed = (key for key in fixed_keys() if KINDS[key.kind].shows_of_house == NONE)
    return {*fixed, *(key for name in names for key in editions.keys(db, blog_id, f"{name}/"))}


def _has_same_lists(db: Database, plan: Plan, blog_id: int, compared: set[PageKey]) -> bool:
    """Whether the front list of a large blog is divided as in the current edition, but for pages that are compared anyway; so are all other lists then."""
    before = set(editions.keys(db, blog_id, f"list/{FRONT}/"))
    now = {post_list.key(FRONT), *(post_list.key(FRONT, first) for first in plan.lists.pages(FRONT))}
    return len(now) > LARGE and before ^ now <= compared


def _restyled(
    db: Database, plan: Plan, blog_id: int, before: HouseDigest, house: HouseDigest, but: Collection[PageKey]
) -> list[Altered]:
    """The pages of the current edition that another house style alters, but for some; the addresses of share cards follow from it too."""
    cards = share_card.paths(plan) if before.differs_in(CARD, house) else {}
    found = []
    for key, path, leads_to in editions.where(db, blog_id):
        if key in but or not before.differs_in(KINDS[key.kind].shows_of_house, house):
            continue
        new = cards.get(key, path)
        if new is None:
            found.append(Altered(key, path, "removed"))
        else:
            found.append(Altered(key, new, "altered", leads_to, moved_from(path, new)))
    return found


def _restyled_count(
    db: Database, blog_id: int, before: HouseDigest, house: HouseDigest, but: Collection[PageKey]
) -> int:
    """How many pages of the current edition another house style alters, but for some of them."""
    differing = {name for name, kind in KINDS.items() if before.differs_in(kind.shows_of_house, house)}
    counts = editions.counts(db, blog_id)
    named = sum(key.kind in differing for key in but)
    return sum(count for kind, count in counts.items() if kind in differing) - named


def _compared_with_row(
    plan: Plan, key: PageKey, old: PageRow | None, house: HouseDigest, sure: str | None
) -> Altered | None:
    """What becomes of a page; None where it stays. One that surely differs is not looked at: `sure` is its path."""
    if sure and old:
        return Altered(key, sure, "altered", None, moved_from(old.path, sure))
    page = page_at(plan, key)
    if page is None:
        return Altered(key, old.path, "removed") if old else None
    if old is None:
        return Altered(key, page.path, "added", page.leads_to)
    if old.fingerprint == fingerprint(page, house):
        return None
    return Altered(key, page.path, "altered", page.leads_to, moved_from(old.path, page.path))


@dataclass(frozen=True)
class PageState:
    """A page as the plan has it: its path, its fingerprint, and the address it redirects to."""

    path: str
    fingerprint: str
    leads_to: str | None


PageStates = dict[PageKey, PageState | None]
"""{key: print of the page}; None where there is no page."""


@dataclass
class AtMoment:
    """Compares the site at a moment with a changed post and without the change. `post_id` and `moment` are set before the first look.

    Pages in `_shifted` show other posts than without the change: their print is only whether they are there.
    """

    db: Database
    blog_id: int
    state: dict[str, Any] | None
    """What the site shows of the post at that moment without the change; None for one that is new."""
    post_id: int = 0
    moment: int = 0
    in_short: bool = False
    heads: dict[ListName, Head] = field(default_factory=dict)
    """Where the post comes to stand on the newest pages that it alters."""

    def look_with_change(self) -> None:
        with self.db.reading():
            self._plan = plan = self._plan_now()
            changes = {self.post_id: (self.state, plan.state(self.post_id))}
            self._shifted = {key for key in certain(plan, changes) if key.kind == "list"}
            beside = (fact for _, fact in stale.facts(self.db, self.blog_id) if fact.kind == "alike")
            self._with = self._prints(plan, sorted(touched(plan, changes, beside)), "with it")
            self._house = house_digest(plan.snapshot.house)
            self.heads = self._heads(plan)

    def footprint(self) -> Footprint:
        with self.db.reading():
            plan = self._plan_now()
            plan.cards.take_over(self._plan.cards, self.post_id)
            before = house_digest(plan.snapshot.house)
            pages = compared(self._prints(plan, list(self._with), "without it"), self._with)
            if before == self._house:
                return Footprint(pages)
            named = editions.pages_of(self.db, self.blog_id, list(self._with))
            if self.in_short:
                return Footprint(pages, _restyled_count(self.db, self.blog_id, before, self._house, named))
            others = _restyled(self.db, plan, self.blog_id, before, self._house, named)
            return Footprint(_sorted([*pages, *others]))

    def _plan_now(self) -> Plan:
        snapshot = SiteSnapshot(self.db, self.blog_id, self.moment)
        return Plan(snapshot, memo_of(self.db, snapshot))

    def _prints(self, plan: Plan, keys: list[PageKey], side: str) -> PageStates:
        house = house_digest(plan.snapshot.house)
        return {
            key: _presence(plan, key, side) if key in self._shifted else _print(page_at(plan, key), house)
            for key in keys
        }

    def _heads(self, plan: Plan) -> dict[ListName, Head]:
        found = {}
        for key in (key for key in self._with if key.kind == "list" and key.first_post == 0):
            page = page_at(plan, key)
            shown = [card.id for card in page.context.posts] if page else []
            if self.post_id in shown:
                found[key.list_name] = self._head(plan, key.list_name, shown)
        return found

    def _head(self, plan: Plan, name: ListName, shown: list[int]) -> Head:
        on_top = {post.id for post in post_list.on_top(plan, name)}
        next_one = plan.snapshot.newest(name, plan.lists.size + 1)[plan.lists.size :]
        is_new = self.state is None and self.post_id not in on_top
        leaves = next((post.title for post in next_one if is_new and post.id not in shown), "")
        return Head(shown.index(self.post_id) + 1, len(shown), leaves, self.post_id in on_top)


def state_at(db: Database, blog_id: int, instant: int, post_id: int) -> dict[str, Any] | None:
    """What the site shows of a post at an instant, by the facts of now."""
    with db.reading():
        return Plan(SiteSnapshot(db, blog_id, instant)).state(post_id)


def prints_of(plan: Plan, keys: list[PageKey]) -> PageStates:
    """The prints of pages by one plan."""
    house = house_digest(plan.snapshot.house)
    return {key: _print(page_at(plan, key), house) for key in keys}


def _presence(plan: Plan, key: PageKey, side: str) -> PageState | None:
    path = plan.lists.path(key.list_name, key.first_post)
    return PageState(path, side, None) if path else None


def _print(page: Page | None, house: HouseDigest) -> PageState | None:
    return PageState(page.path, fingerprint(page, house), page.leads_to) if page else None


def compared(before: PageStates, after: PageStates) -> list[Altered]:
    """The pages that a change adds, alters or removes, by path."""
    found = []
    for key, new in after.items():
        old = before.get(key)
        if new is None and old is not None:
            found.append(Altered(key, old.path, "removed"))
        elif new is not None and old is None:
            found.append(Altered(key, new.path, "added", new.leads_to))
        elif new is not None and old is not None and old.fingerprint != new.fingerprint:
            found.append(Altered(key, new.path, "altered", new.leads_to, moved_from(old.path, new.path)))
    return _sorted(found)

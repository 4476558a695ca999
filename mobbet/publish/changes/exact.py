"""Finds the pages that a change alters by comparing pages: with the current edition, or at a moment with and without the change."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from mobbet.core.keys import FRONT, ListName, PageKey
from mobbet.publish.changes.altered import Altered, moved_from
from mobbet.publish.changes.footprint import Footprint
from mobbet.publish.changes.pending import changed_states, keys_to_compare
from mobbet.publish.page_kind import Head
from mobbet.publish.page_rows import memo_of
from mobbet.publish.pages import post_list, share_card
from mobbet.publish.pages.kinds import certain, fixed_keys, page_at, touched
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.renderer import house_digest
from mobbet.publish.values import Page
from mobbet.store import editions, stale
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot

LARGE = 30
"""The number of pages of the front list from which they tell how lists are divided."""


class AgainstEdition:
    """Compares what a publication at an instant would make with the current edition.

    With `in_short`, pages are counted rather than named where the house style or Mobbet itself alters all of them.
    """

    def __init__(self, db: Database, blog_id: int, instant: int, in_short: bool = False) -> None:
        self._db = db
        self._blog_id = blog_id
        self._instant = instant
        self._in_short = in_short
        self._found = Footprint([])

    def look_with_change(self) -> None:
        every = altered_by_house(self._db, self._blog_id) if self._in_short else 0
        pages = [] if every else pending_footprint(self._db, self._blog_id, self._instant)
        self._found = Footprint(pages, every)

    def footprint(self) -> Footprint:
        return self._found


def altered_by_house(db: Database, blog_id: int) -> int:
    """How many pages readers get, where the house style or Mobbet itself is another than theirs, so that every one of them alters; 0 otherwise."""
    with db.reading():
        base = editions.current(db, blog_id)
        if base is None or not base.house:  # one that was put back is compared page by page
            return 0
        house = house_digest(SiteSnapshot(db, blog_id, base.instant).house)
        return base.pages if base.house != house else 0


def pending_footprint(db: Database, blog_id: int, instant: int) -> list[Altered]:
    """Every page that a publication now would change, by path; nothing is written."""
    with db.reading():
        base = editions.current(db, blog_id)
        snapshot = SiteSnapshot(db, blog_id, max(instant, base.instant) if base else instant)
        plan = Plan(snapshot, memo_of(db, snapshot))
        house = house_digest(snapshot.house)
        is_whole = base is None or not base.house
        states = changed_states(db, plan, blog_id, None if is_whole else base, stale.last_post(db, blog_id))
        keys = set(keys_to_compare(db, plan, blog_id, states, is_whole)[0])
        by_house: list[Altered] = []
        if base is not None and not is_whole and base.house != house:
            if _has_same_lists(db, plan, blog_id, keys):
                by_house = _altered_house(db, plan, blog_id)
                keys |= set(fixed_keys())  # their addresses may follow from a new version of Mobbet
            else:
                is_whole = True
                keys = set(keys_to_compare(db, plan, blog_id, states, is_whole)[0])
        sure = {} if is_whole else certain(plan, states)
        known = editions.pages_of(db, blog_id, list(keys))
        found = [_compared_with_row(plan, key, known.get(key), house, sure.get(key)) for key in keys]
        found += [one for one in by_house if one.key not in keys]
        return sorted(filter(None, found), key=lambda one: (one.path, one.key))


def _has_same_lists(db: Database, plan: Plan, blog_id: int, compared: set[PageKey]) -> bool:
    """Whether the front list of a large blog is divided as in the current edition, but for pages that are compared anyway; so are all other lists then."""
    before = set(editions.keys(db, blog_id, f"list/{FRONT}/"))
    now = {post_list.key(FRONT), *(post_list.key(FRONT, first) for first in plan.lists.pages(FRONT))}
    return len(now) > LARGE and before ^ now <= compared


def _altered_house(db: Database, plan: Plan, blog_id: int) -> list[Altered]:
    """Every page of the current edition, all of which another house alters; the addresses of share cards follow from it too."""
    cards = share_card.paths(plan)
    found = []
    for key, path, leads_to in editions.where(db, blog_id):
        new = cards.get(key, path)
        if new is None:
            found.append(Altered(key, path, "removed"))
        else:
            found.append(Altered(key, new, "altered", leads_to, moved_from(path, new)))
    return found


def _compared_with_row(
    plan: Plan, key: PageKey, old: PageRow | None, house: str, sure: str | None
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
    heads: dict[ListName, Head] = field(default_factory=dict)
    """Where the post comes to stand on the newest pages that it alters."""

    def look_with_change(self) -> None:
        with self.db.reading():
            self._plan = plan = self._plan_now()
            changes = {self.post_id: (self.state, plan.state(self.post_id))}
            self._shifted = {key for key in certain(plan, changes) if key.kind == "list"}
            self._with = self._prints(plan, sorted(touched(plan, changes)), "with it")
            self.heads = self._heads(plan)

    def footprint(self) -> Footprint:
        with self.db.reading():
            plan = self._plan_now()
            plan.cards.take_over(self._plan.cards, self.post_id)
            return Footprint(compared(self._prints(plan, list(self._with), "without it"), self._with))

    def _plan_now(self) -> Plan:
        snapshot = SiteSnapshot(self.db, self.blog_id, self.moment)
        return Plan(snapshot, memo_of(self.db, snapshot))

    def _prints(self, plan: Plan, keys: list[PageKey], side: str) -> PageStates:
        return {
            key: _presence(plan, key, side) if key in self._shifted else _print(page_at(plan, key))
            for key in keys
        }

    def _heads(self, plan: Plan) -> dict[ListName, Head]:
        size = plan.snapshot.house.posts_on_page
        found = {}
        for name in (
            key.list_name for key in self._with if key.kind == "list" and key.last == post_list.NEWEST
        ):
            newest = plan.snapshot.newest(name, size + 1)
            place = next((at for at, post in enumerate(newest[:size], 1) if post.id == self.post_id), 0)
            if place:
                leaves = newest[size].title if self.state is None and len(newest) > size else ""
                found[name] = Head(place, min(size, len(newest)), leaves)
        return found


def state_at(db: Database, blog_id: int, instant: int, post_id: int) -> dict[str, Any] | None:
    """What the site shows of a post at an instant, by the facts of now."""
    with db.reading():
        return Plan(SiteSnapshot(db, blog_id, instant)).state(post_id)


def prints_of(plan: Plan, keys: list[PageKey]) -> PageStates:
    """The prints of pages by one plan."""
    return {key: _print(page_at(plan, key)) for key in keys}


def _presence(plan: Plan, key: PageKey, side: str) -> PageState | None:
    path = plan.lists.path(key.list_name, post_list.first_of(key))
    return PageState(path, side, None) if path else None


def _print(page: Page | None) -> PageState | None:
    return PageState(page.path, fingerprint(page, ""), page.leads_to) if page else None


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
    return sorted(found, key=lambda one: (one.path, one.key))

"""What a change does to the pages at one moment: the plan before it and after it, compared page by page."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from mobbet.publish.editions import Altered
from mobbet.publish.laying import memo_of
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.touched import certain, touched
from mobbet.publish.values import Page
from mobbet.store.database import Database
from mobbet.store.snapshot import SiteSnapshot


@dataclass(frozen=True)
class Print:
    """A page as the plan has it: its path, its fingerprint, and where it leads."""

    path: str
    fingerprint: str
    leads_to: str | None


def state_at(db: Database, blog_id: int, instant: int, post_id: int) -> dict[str, Any] | None:
    """What the site shows of a post at an instant, by the facts of now."""
    with db.reading():
        return Plan(SiteSnapshot(db, blog_id, instant)).state(post_id)


@dataclass(frozen=True)
class Around:
    """The pages that a changed post touches, as they stand with the change; `plan` is what made them.

    Those in `shifted` show other posts than without the change: their print is only whether they are there.
    """

    plan: Plan
    post_id: int
    prints: dict[str, Print | None]
    shifted: set[str]


def prints_around(
    db: Database, blog_id: int, instant: int, post_id: int, before: dict[str, Any] | None
) -> Around:
    """The prints of every page that may differ since the post was as `before` says; None where there is no page."""
    with db.reading():
        snapshot = SiteSnapshot(db, blog_id, instant)
        plan = Plan(snapshot, memo_of(db, snapshot))
        changes = {post_id: (before, plan.state(post_id))}
        moved = {key for key in certain(plan, changes) if key.startswith("list/")}
        return Around(plan, post_id, _prints(plan, sorted(touched(plan, changes)), moved, "with it"), moved)


def prints_without(db: Database, blog_id: int, instant: int, around: Around) -> dict[str, Print | None]:
    """The same pages by the facts as they are without the change."""
    with db.reading():
        snapshot = SiteSnapshot(db, blog_id, instant)
        plan = Plan(snapshot, memo_of(db, snapshot))
        plan.cards.take_over(around.plan.cards, around.post_id)
        return _prints(plan, around.prints, around.shifted, "without it")


def prints_of(plan: Plan, keys: Iterable[str]) -> dict[str, Print | None]:
    """The prints of pages by one plan; None where there is no page."""
    return {key: _print(plan.page(key)) for key in keys}


def _prints(plan: Plan, keys: Iterable[str], shifted: set[str], side: str) -> dict[str, Print | None]:
    return {key: _there(plan, key, side) if key in shifted else _print(plan.page(key)) for key in keys}


def _there(plan: Plan, key: str, side: str) -> Print | None:
    path = plan.lists.path_of(key)
    return Print(path, side, None) if path else None


def _print(page: Page | None) -> Print | None:
    return Print(page.path, fingerprint(page, ""), page.leads_to) if page else None


def compared(before: dict[str, Print | None], after: dict[str, Print | None]) -> list[Altered]:
    """The pages that a change adds, alters or removes, by path."""
    found = []
    for key, new in after.items():
        old = before.get(key)
        if new is None and old is not None:
            found.append(Altered(key, old.path, "removed"))
        elif new is not None and old is None:
            found.append(Altered(key, new.path, "added", new.leads_to))
        elif new is not None and old is not None and old.fingerprint != new.fingerprint:
            found.append(
                Altered(key, new.path, "altered", new.leads_to, old.path if old.path != new.path else "")
            )
    return sorted(found, key=lambda one: (one.path, one.key))

"""What a change does to the pages at one moment: the plan before it and after it, compared page by page."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from mobbet.publish.editions import Altered
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.touched import touched
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
    """The pages that a changed post touches, as they stand with the change; `plan` is what made them."""

    plan: Plan
    post_id: int
    prints: dict[str, Print | None]


def prints_around(db: Database, blog_id: int, instant: int, post_id: int, before: dict[str, Any] | None) -> Around:
    """The prints of every page that may differ since the post was as `before` says; None where there is no page."""
    with db.reading():
        plan = Plan(SiteSnapshot(db, blog_id, instant))
        return Around(plan, post_id, _prints(plan, sorted(touched(plan, {post_id: (before, plan.state(post_id))}))))


def prints_without(db: Database, blog_id: int, instant: int, around: Around) -> dict[str, Print | None]:
    """The same pages by the facts as they are without the change."""
    with db.reading():
        plan = Plan(SiteSnapshot(db, blog_id, instant))
        plan.cards.take_over(around.plan.cards, around.post_id)
        return _prints(plan, around.prints)


def _prints(plan: Plan, keys: Iterable[str]) -> dict[str, Print | None]:
    pages = ((key, plan.page(key)) for key in keys)
    return {key: Print(page.path, fingerprint(page, ""), page.leads_to) if page else None for key, page in pages}


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
            found.append(Altered(key, new.path, "altered", new.leads_to, old.path if old.path != new.path else ""))
    return sorted(found, key=lambda one: (one.path, one.key))

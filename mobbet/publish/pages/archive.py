"""The page of all months with posts, the newest first."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.keys import PageKey
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data
from mobbet.publish.page_kind import PageKind
from mobbet.publish.pages.subjects import OVERVIEWS
from mobbet.publish.plan import Plan
from mobbet.publish.values import Page

KEY, PATH = PageKey("archive/"), "/archive/"


def page(plan: Plan, key: PageKey) -> Page:
    months = tuple(plan.lists.step(name) for name in reversed(plan.snapshot.lists("month:")))
    return Page(key, PATH, "archive", data(months), months)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if any(one.name.kind == "month" and one.begins_or_ends for one in changed.lists):
        yield KEY


KIND = PageKind(
    name="archive",
    page=page,
    recipes={"archive": lambda renderer, page: renderer.template(page)},
    fixed=lambda: (KEY,),
    touched=_touched,
    at=lambda plan, path: KEY if path == PATH else None,
    groups=(OVERVIEWS,),
    differs_by_reader=True,
)

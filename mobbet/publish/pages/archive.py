"""The page of all months with posts, the newest first: how many went out in each, and the titles of the newest posts."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.keys import ALL, PageKey
from mobbet.core.numbers import MOST_COUNTED
from mobbet.core.timing import month_of
from mobbet.core.values import existing
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data
from mobbet.publish.page_kind import PageKind
from mobbet.publish.pages.subjects import OVERVIEWS
from mobbet.publish.plan import Plan
from mobbet.publish.values import Month, Page, Step

KEY, PATH = PageKey("archive/"), "/archive/"
MOST_TITLES = 100
"""So many posts are named, so that the page costs the same to render on a blog of any size; older months are counted."""


def page(plan: Plan, key: PageKey) -> Page:
    titles: dict[str, list[Step]] = {}
    for post in plan.snapshot.newest_titles(ALL, MOST_TITLES):
        titles.setdefault(month_of(post.goes_out, post.zone), []).append(Step(post.title, post.path))
    months = tuple(
        Month(existing(plan.lists.step(name)), count, tuple(titles.get(name.which, ())))
        for name, count in reversed(plan.snapshot.counts("month:", MOST_COUNTED + 1).items())
    )
    reads = [[*data([step]), count, data(named)] for step, count, named in months]
    return Page(key, PATH, "archive", reads, months)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if any(one.name.kind == "month" for one in changed.lists):
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

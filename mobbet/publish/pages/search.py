"""The page of the site's search. As it stands in an edition it has the field and the categories; what a
search finds is rendered when somebody asks (`results_page`)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from mobbet.core.filing import tree
from mobbet.core.keys import ListName, PageKey
from mobbet.core.menu import SEARCH_PATH
from mobbet.core.values import existing
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data
from mobbet.publish.page_kind import FootprintGroup, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.values import Page, Step

KEY = PageKey("search/")


@dataclass(frozen=True)
class SearchPage:
    """What the page shows: the categories of the first level, and what was found (`actions/site_search.Found`), None where nobody searched."""

    subjects: tuple[Step, ...]
    found: Any = None


def page(plan: Plan, key: PageKey) -> Page:
    subjects = _subjects(plan)
    return Page(key, SEARCH_PATH, "search", data(list(subjects)), SearchPage(subjects))


def _subjects(plan: Plan) -> tuple[Step, ...]:
    """The categories with posts in them or below them, those of the first level."""
    snapshot = plan.snapshot
    numbers = {name.number for start in ("category:", "under:") for name in snapshot.lists(start)}
    return tuple(
        existing(plan.lists.step(ListName.of("category", subject.id)))
        for depth, subject in tree(snapshot.categories.values())
        if depth == 0 and subject.id in numbers
    )


def results_page(plan: Plan, found: Any) -> Page:
    """The page with what a search found."""
    return Page(KEY, SEARCH_PATH, "search", None, SearchPage(_subjects(plan), found))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if any(changed.subjects) or any(
        one.begins_or_ends for one in changed.lists if one.name.kind in ("category", "under")
    ):
        yield KEY


KIND = PageKind(
    name="search",
    page=page,
    recipes={"search": lambda renderer, page: renderer.template(page)},
    fixed=lambda: (KEY,),
    touched=_touched,
    at=lambda plan, path: KEY if path == SEARCH_PATH else None,
    groups=(FootprintGroup(lambda key, post_id: True, lambda pages, names: "the page “Search”"),),
    differs_by_reader=True,
    shows_of_house=house_parts.AROUND,
)

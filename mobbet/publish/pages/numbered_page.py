"""An address that a page of a list had when those had numbers, counted from the oldest post: it redirects to where that page's oldest post stands."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.keys import ListName, PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import page_path
from mobbet.publish.page_kind import ADDRESS, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.redirects import redirect
from mobbet.publish.renderer import HTML
from mobbet.publish.values import Page


def key(name: ListName, number: int) -> PageKey:
    return PageKey.of("numbered", name, number)


def page(plan: Plan, key: PageKey) -> Page | None:
    """The redirect; None where the list has no page, and for a number that none of its pages had."""
    name, number = key.list_name, int(key.last)
    place, base = plan.snapshot.former_page(name, number), plan.lists.path(name)
    if place is None or base is None:
        return None
    target = page_path(base, plan.lists.page_holding(name, place))
    return redirect(plan.snapshot.house, key, f"{base}page/{number}/", target)


def _keys_of_list(plan: Plan, name: ListName) -> Iterator[PageKey]:
    yield from (key(name, number) for number in plan.snapshot.former_pages(name))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    numbers = changed.plan.snapshot.former_pages
    for one in changed.lists:
        if one.begins_or_ends:
            yield from _keys_of_list(changed.plan, one.name.shown_on)
        elif one.name.has_pages:
            for first, last in one.redivided.stretches:
                yield from (key(one.name, number) for number in numbers(one.name, first, last))
    for name in changed.subjects:
        yield from _keys_of_list(changed.plan, name)


def _at(plan: Plan, path: str) -> PageKey | None:
    at = plan.lists.parsed(path)
    name = plan.lists.at(at.base) if at.number else None
    return key(name, at.number) if name else None


KIND = PageKind(
    name="numbered",
    page=page,
    recipes={},
    keys=lambda plan: (),
    keys_of_list=_keys_of_list,
    touched=_touched,
    at=_at,
    requested_type=HTML,
    shows_of_house=house_parts.REDIRECT,
    counts_as=ADDRESS,
)

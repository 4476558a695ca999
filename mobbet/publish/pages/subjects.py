"""The page of all categories and tags with posts."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import takewhile

from mobbet.core.filing import tree
from mobbet.core.keys import ListName, PageKey
from mobbet.core.numbers import MOST_COUNTED
from mobbet.core.values import existing
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.values import Family, Page, Step, SubjectsPage

KEY, PATH = PageKey("subjects/"), "/subjects/"


def page(plan: Plan, key: PageKey) -> Page:
    """Every category with posts, as families, and every tag, by name; each with how many posts its page lists."""
    snapshot = plan.snapshot
    counts = snapshot.counts("category:", MOST_COUNTED + 1)
    numbers = {name.number for name in (*counts, *snapshot.lists("under:"))}
    found = [
        (depth, (existing(plan.lists.step(name)), counts.get(name, 0)))
        for depth, subject in tree(snapshot.categories.values())
        if subject.id in numbers
        for name in (ListName.of("category", subject.id),)
    ]
    tagged = snapshot.counts("tag:", MOST_COUNTED + 1)
    snapshot.tags(tuple(name.number for name in tagged))  # read together
    known = [(existing(plan.lists.step(name)), count) for name, count in tagged.items()]
    tags = tuple(sorted(known, key=lambda one: (one[0].name.casefold(), one[0].name)))
    reads = [
        [(depth, *data([step]), count) for depth, (step, count) in found],
        [(*data([step]), count) for step, count in tags],
    ]
    return Page(key, PATH, "subjects", reads, SubjectsPage(_families(found), tags))


def _families(found: list[tuple[int, tuple[Step, int]]]) -> tuple[Family, ...]:
    """(depth, category) in the order of the tree as what stands below what."""
    families = []
    for at, (depth, (step, count)) in enumerate(found):
        if depth == found[0][0]:
            below = takewhile(lambda one, top=depth: one[0] > top, found[at + 1 :])  # type: ignore[misc]
            families.append(Family(step, count, _families(list(below))))
    return tuple(families)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if any(changed.subjects) or any(
        one.begins_or_ends or (one.name.kind != "under" and one.count != one.count_before)
        for one in changed.lists
        if one.name.kind in ("category", "tag", "under")
    ):
        yield KEY


def _words(pages: list[Altered], names: FootprintNames) -> str:
    if len(pages) > 1:
        return "subjects and archive"
    return "the page “Subjects”" if pages[0].key == KEY else "the page “Archive”"


OVERVIEWS = FootprintGroup(lambda key, post_id: True, _words)
"""The line of a footprint that tells of this page and of the archive."""

KIND = PageKind(
    name="subjects",
    page=page,
    recipes={"subjects": lambda renderer, page: renderer.template(page)},
    fixed=lambda: (KEY,),
    touched=_touched,
    at=lambda plan, path: KEY if path == PATH else None,
    groups=(OVERVIEWS,),
    differs_by_reader=True,
)

"""The page of all categories and tags with posts."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.filing import tree
from mobbet.core.keys import PageKey
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.values import Page, Step, SubjectsPage

KEY, PATH = PageKey("subjects/"), "/subjects/"


def page(plan: Plan, key: PageKey) -> Page:
    """Every category with posts, as a tree, and every tag, by name."""
    snapshot = plan.snapshot
    numbers = {name.number for kind in ("category:", "under:") for name in snapshot.lists(kind)}
    steps = tuple(
        (depth, Step(subject.name, f"/{subject.slug}/"))
        for depth, subject in tree(snapshot.categories.values())
        if subject.id in numbers
    )
    found = (plan.lists.step(name) for name in snapshot.lists("tag:"))
    tags = tuple(sorted(filter(None, found), key=lambda tag: (tag.name.casefold(), tag.name)))
    reads = [[(depth, *data([step])) for depth, step in steps], data(tags)]
    return Page(key, PATH, "subjects", reads, SubjectsPage(steps, tags))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    if any(changed.subjects) or any(
        one.begins_or_ends and one.name.kind in ("category", "tag", "under") for one in changed.lists
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

"""The rows of the desk that match the filter."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.post_search import below
from mobbet.actions.workshop import Workshop
from mobbet.core.pages import counted
from mobbet.store import desk as desk_store
from mobbet.store import finding
from mobbet.store.blogs import Blog
from mobbet.store.finding import Wanted
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import DeskRows, Group, MoreRows
from mobbet.web.desk.filter import Filter
from mobbet.web.desk.rows import row_of

PAGE = 40


def rows(workshop: Workshop, blog: Blog, chosen: Filter) -> DeskRows:
    """The posts that are as the sentence says."""
    first, total = _page(workshop, blog, chosen, None)
    pages = finding.count(
        workshop.db, blog.id, replace(_wanted(workshop, blog, chosen), is_page=True), workshop.clock()
    )
    group = Group(counted(total - pages, pages), first.rows, first.more)
    return DeskRows(
        [group] if first.rows else [],
        "",
        False,
        False,
        blog,
        "" if first.rows else "No post is as the sentence says; change one of its words.",
    )


def more(workshop: Workshop, blog: Blog, chosen: Filter, after: tuple[int, int]) -> MoreRows:
    """A page of them, after (place in the order, number)."""
    return _page(workshop, blog, chosen, after)[0]


def _page(
    workshop: Workshop, blog: Blog, chosen: Filter, after: tuple[int, int] | None
) -> tuple[MoreRows, int]:
    found, total = finding.page(
        workshop.db, blog.id, _wanted(workshop, blog, chosen), workshop.clock(), chosen.order, after, PAGE + 1
    )
    shown = [
        row_of(workshop, blog, row)
        for row in desk_store.by_ids(workshop.db, [number for number, _ in found[:PAGE]])
    ]
    follows = (
        f"{to_desk.desk_rows(blog.slug)}?{chosen.query}&before={found[PAGE - 1][1]}-{found[PAGE - 1][0]}"
        if len(found) > PAGE
        else ""
    )
    return MoreRows(shown, follows), total


def _wanted(workshop: Workshop, blog: Blog, chosen: Filter) -> Wanted:
    subjects = category_subjects(workshop, blog) if chosen.category else {}
    return Wanted(
        categories=(below(subjects, {chosen.category}),) if chosen.category else (),
        authors=(frozenset({chosen.author}),) if chosen.author else (),
        states=(chosen.state,) if chosen.state else (),
        marks=chosen.marks,
    )

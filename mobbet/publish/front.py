"""The sections of the front page: what each of them shows to the plan's reader."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from mobbet.core import front
from mobbet.core.facts import OutPost
from mobbet.core.filing import tree
from mobbet.core.front import KINDS, Section
from mobbet.core.keys import ListName
from mobbet.core.numbers import MOST_COUNTED
from mobbet.publish.lists import data
from mobbet.publish.plan import Plan
from mobbet.publish.saved_blocks import shown_block
from mobbet.publish.values import FrontSection, SectionAuthor, SectionSubject, Step


def sections_of(plan: Plan) -> tuple[FrontSection, ...]:
    """The sections that show something, in order; none where the front page is the newest posts alone."""
    made = (section_of(plan, section) for section in plan.snapshot.house.front_sections)
    return tuple(section for section in made if section is not None)


def section_of(plan: Plan, section: Section) -> FrontSection | None:
    """What a section shows; None where that is nothing, so that it is left out."""
    return _MADE[section.kind](plan, section)


def reads_of(section: FrontSection, shows_categories: bool) -> list[Any]:
    """What a section shows, as data for a fingerprint."""
    return [
        section.kind,
        section.heading,
        data([section.more]),
        [[card.list_digest, card.categories if shows_categories else ()] for card in section.cards],
        [
            [*data([one.step]), one.size, one.picture and [one.picture.id, one.picture.version]]
            for one in section.subjects
        ],
        [
            [one.author, data([one.newest]), one.portrait and [one.portrait.id, one.portrait.version]]
            for one in section.authors
        ],
        section.block and section.block.reads,
    ]


def _heading(section: Section, usual: str = "") -> str:
    return section.words or usual or KINDS[section.kind].heading


def _cards(
    plan: Plan, section: Section, posts: list[OutPost], more: Step | None = None
) -> FrontSection | None:
    if not posts:
        return None
    heading = _heading(section, more.name if more else "")
    return FrontSection(section.kind, heading, tuple(plan.cards.in_lists(post) for post in posts), more)


def _newest(plan: Plan, section: Section) -> FrontSection:
    return FrontSection(section.kind, section.words)


def _chosen(plan: Plan, section: Section) -> FrontSection | None:
    found = (plan.snapshot.post(number) for number in section.of)
    return _cards(plan, section, [post for post in found if post and plan.lists_of(post)])


def _of_list(plan: Plan, section: Section) -> FrontSection | None:
    name = section.list_name
    step = plan.lists.step(name) if name and plan.lists.has_page(name) else None
    return _cards(plan, section, plan.snapshot.newest(name, section.most), step) if name and step else None


def _most_read(plan: Plan, section: Section) -> FrontSection | None:
    return _cards(plan, section, plan.snapshot.most_read(section.most))


def _pages(plan: Plan, section: Section) -> FrontSection | None:
    shown = plan.snapshot.pages()
    by_number = {page.id: page for page in shown}
    first = [page for page in shown if page.below is None][: front.MOST_CHOSEN]
    chosen = [by_number[number] for number in section.of if number in by_number]
    return _cards(plan, section, chosen if section.of else first)


def _categories(plan: Plan, section: Section) -> FrontSection | None:
    snapshot, found = plan.snapshot, []
    counts = snapshot.counts("category:", MOST_COUNTED + 1)
    for depth, subject in tree(snapshot.categories.values()):
        name = ListName.of("category", subject.id)
        step = plan.lists.step(name) if depth == 0 and plan.lists.has_page(name) else None
        if step:
            picture = snapshot.category_page(subject.id).picture if section.pictures else None
            item = snapshot.item(picture) if picture else None
            found.append(SectionSubject(step, counts.get(name, 0), item))
    return FrontSection(section.kind, _heading(section), subjects=tuple(found)) if found else None


def _authors(plan: Plan, section: Section) -> FrontSection | None:
    snapshot, found = plan.snapshot, []
    for number in section.of or snapshot.authors_by_newest(section.most):
        author, newest = snapshot.author(number), snapshot.newest(ListName.of("author", number), 1)
        if author and newest:
            portrait = snapshot.item(author.picture) if author.picture else None
            found.append(SectionAuthor(author, portrait, Step(newest[0].title, newest[0].path)))
    return FrontSection(section.kind, _heading(section), authors=tuple(found)) if found else None


def _block(plan: Plan, section: Section) -> FrontSection | None:
    block = shown_block(plan.snapshot, plan.may_read, section.of[0]) if section.of else None
    return FrontSection(section.kind, section.words, block=block) if block else None


_MADE: dict[str, Callable[[Plan, Section], FrontSection | None]] = {
    front.NEWEST: _newest,
    front.CHOSEN: _chosen,
    front.CATEGORY: _of_list,
    front.TAG: _of_list,
    front.CATEGORIES: _categories,
    front.MOST_READ: _most_read,
    front.AUTHORS: _authors,
    front.BLOCKS: _block,
    front.PAGES: _pages,
}
"""{kind of section: what makes it}."""

"""Refiles posts: what readers get, and will get, changes at once, with lists and addresses."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import asdict, dataclass, field
from typing import Any

from mobbet.actions.access import blog_for
from mobbet.actions.filing_writer import Pair
from mobbet.actions.permalinks import category_slugs, category_subjects, free_paths
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotFound, Refused
from mobbet.core.filing import below, category_lists, replaced
from mobbet.core.keys import Name
from mobbet.core.permalinks import PermalinkFacts as Where
from mobbet.core.permalinks import has_date, path_of
from mobbet.core.rights import Action
from mobbet.core.subscriptions import CATEGORY
from mobbet.core.values import existing
from mobbet.store import addresses, blogs, changes, filed, filing, stale, subscribers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.subscribers import PassedOn

SLUG = "{slug}"
Change = Callable[[tuple[int, ...], tuple[int, ...]], tuple[tuple[int, ...], tuple[int, ...]]]
"""Makes new categories and tags of a post's present ones."""


@dataclass
class Before:
    """What stood before a change of the filing, gathered as it is made."""

    categories: dict[int, dict[str, Any]] = field(default_factory=dict)
    tags: dict[int, dict[str, Any]] = field(default_factory=dict)
    posts: dict[int, tuple[tuple[int, ...], tuple[int, ...]]] = field(default_factory=dict)
    placements: dict[int, tuple[tuple[int, ...], tuple[int, ...]]] = field(default_factory=dict)
    addresses: list[dict[str, Any]] = field(default_factory=list)
    subscriptions: list[dict[str, Any]] = field(default_factory=list)
    catch_all: int | None = None

    def category(self, workshop: Workshop, blog: Blog, number: int) -> None:
        if number not in self.categories:
            self.categories[number] = asdict(existing(filing.category(workshop.db, blog.id, number)))

    def tag(self, workshop: Workshop, blog: Blog, number: int) -> None:
        if number not in self.tags:
            self.tags[number] = asdict(existing(filing.tag(workshop.db, blog.id, number)))

    def owner(self, workshop: Workshop, kind: str, number: int) -> None:
        """The addresses of a category or tag that is going to pass them on."""
        self.addresses += [asdict(row) for row in addresses.rows_of(workshop.db, kind, number)]

    def subscribers(self, workshop: Workshop, number: int, heir: int | None) -> None:
        """Has those who get letters about a category that goes get them about the one that takes its place, if any."""
        name = "" if heir is None else Name.of(CATEGORY, heir)
        passed = subscribers.pass_on(workshop.db, Name.of(CATEGORY, number), name)
        self.subscriptions += map(asdict, passed)


def refile(
    workshop: Workshop,
    blog: Blog,
    post_ids: Iterable[int],
    change: Change,
    before: Before | None = None,
    is_past_too: bool = False,
) -> list[int]:
    """Files posts anew, in their dockets and for readers; answers which of them changed.

    Placements that have ended keep what they were filed under, unless `is_past_too` (a category that is no
    more must stand nowhere).
    """
    post_ids, now, before, writer = (
        list(post_ids),
        workshop.clock(),
        before or Before(),
        workshop.filing_writer,
    )
    mine = writer.dockets(post_ids)
    dockets = {post_id: new for post_id, pair in mine.items() if (new := change(*pair)) != pair}
    writer.set_dockets(mine, dockets, now)
    rows = [row for row in writer.rows(post_ids) if not row.kind and (is_past_too or row.is_for_readers(now))]
    pairs = [(row, row.filed_under(*change(row.categories, row.tags))) for row in rows]
    pairs = [(row, new) for row, new in pairs if row != new]
    for post_id in dockets:
        before.posts.setdefault(post_id, mine[post_id])
    for row, _ in pairs:
        before.placements.setdefault(row.id, (row.categories, row.tags))
    _settle(workshop, blog, pairs)
    changed = list(dict.fromkeys([*dockets, *(row.post_id for row, _ in pairs)]))
    writer.mark(blog.id, changed)
    return changed


def settle_posts(
    workshop: Workshop, blog: Blog, post_ids: Iterable[int], has_same_lists: bool = False
) -> int:
    """Writes lists and addresses of posts anew, after the tree or the pattern changed; with `has_same_lists`, their addresses alone. Answers how many moved."""
    post_ids = list(post_ids)
    pairs = _settle(
        workshop, blog, [(row, row) for row in workshop.filing_writer.rows(post_ids)], has_same_lists
    )
    workshop.filing_writer.mark(blog.id, post_ids)
    return sum(old.path != new.path for old, new in pairs)


def _settle(workshop: Workshop, blog: Blog, pairs: list[Pair], has_same_lists: bool = False) -> list[Pair]:
    """Writes what placements are filed under, with their addresses as they follow from that and the blog's pattern now, and their lists."""
    now, subjects = workshop.clock(), category_subjects(workshop, blog)
    filings = {new.categories for _, new in pairs}
    pairs = _addressed(
        workshop,
        blog,
        pairs,
        {categories: category_slugs(subjects, categories) for categories in filings},
        now,
    )
    lists = (
        None
        if has_same_lists
        else {categories: category_lists(subjects, categories) for categories in filings}
    )
    workshop.filing_writer.put(pairs, lists, now)
    return pairs


def _addressed(
    workshop: Workshop,
    blog: Blog,
    pairs: list[Pair],
    slugs: Mapping[tuple[int, ...], tuple[str, ...]],
    now: int,
) -> list[Pair]:
    """Placements for readers with the addresses that follow from their categories; what lives where its slug says stays."""
    ways = {
        categories: path_of(blog.pattern, SLUG, Where(0, blog.zone, steps))
        for categories, steps in slugs.items()
    }
    is_dated = has_date(blog.pattern)
    moving = [
        at for at, (_, new) in enumerate(pairs)
        if not new.kind and (is_dated or new.path != ways[new.categories].replace(SLUG, new.slug)) and new.is_for_readers(now)
    ]  # fmt: skip
    wanted = [
        (new.post_id, new.slug, Where(new.goes_out, new.zone, slugs[new.categories]))
        for _, new in map(pairs.__getitem__, moving)
    ]
    moved = [*pairs]
    for at, (path, slug) in zip(moving, free_paths(workshop, blog, wanted), strict=True):
        old, new = pairs[at]
        moved[at] = old, new.living_at(path, slug)
    return moved


def catch(workshop: Workshop, blog: Blog, before: Before) -> None:
    """Posts for readers that a change left without any category fall under the catch-all."""
    if blog.catch_all:
        left = [
            post_id
            for post_id, (categories, _) in workshop.filing_writer.dockets(before.posts).items()
            if not categories
        ]
        refile(workshop, blog, left, adding([blog.catch_all]), before)


def replacing(kind: str, instead: Mapping[int, int | None]) -> Change:
    """The change that puts other categories, or tags, in the place of some, or leaves them out."""
    if kind == "category":
        return lambda categories, tags: (replaced(categories, instead), tags)
    return lambda categories, tags: (categories, replaced(tags, instead))


def adding(
    categories: Iterable[int] = (),
    tags: Iterable[int] = (),
    without: Iterable[int] = (),
    main: int | None = None,
    without_tags: Iterable[int] = (),
) -> Change:
    """The change that adds categories and tags and takes some out; `main` comes first."""
    categories, tags, without, without_tags = (
        tuple(categories),
        tuple(tags),
        frozenset(without),
        frozenset(without_tags),
    )

    def change(mine: tuple[int, ...], my_tags: tuple[int, ...]) -> tuple[tuple[int, ...], tuple[int, ...]]:
        kept = [number for number in mine if number not in without or number == main]
        first = [main] if main is not None else []
        return tuple(dict.fromkeys([*first, *kept, *categories])), tuple(
            dict.fromkeys([*(tag for tag in my_tags if tag not in without_tags), *tags])
        )

    return change


def keep(workshop: Workshop, person: Person, blog: Blog, words: str, before: Before) -> int:
    """Keeps what stood before a change, so that it can be undone; answers its number."""
    with changing(workshop, person, "the filing changed") as unit:
        return unit.can_be_undone(blog, person, words, json.dumps(before.__dict__))


def undo(workshop: Workshop, person: Person, blog: Blog, number: int) -> str:
    """Puts back what stood before the last change of the filing; answers its words.

    Raises NotFound for a change of another blog, Refused when others were made since. Addresses that came with
    the change lead on to where things are again.
    """
    blog_for(workshop, person, blog.slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        change = changes.by_id(workshop.db, blog.id, number)
        if change is None:
            raise NotFound("There is no such change of the filing on this blog.")
        if change.undone_at is not None:
            raise Refused("This change is undone already.")
        if changes.newest(workshop.db, blog.id) != number:
            raise Refused("The filing was changed again since; undo the later change first.")
        _put_back(workshop, blog, json.loads(change.before))
        changes.set_undone(workshop.db, number, workshop.clock())
    return change.words


def _put_back(workshop: Workshop, blog: Blog, before: dict[str, Any]) -> None:
    db, now = workshop.db, workshop.clock()
    for row in _parents_first(list(before["categories"].values())):
        filing.put_category(db, row)
    for row in before["tags"].values():
        filing.put_tag(db, row)
        stale.mark_fact(db, blog.id, "tag", row["id"])
    if before["catch_all"]:
        blogs.settle(db, blog.id, catch_all=before["catch_all"])
    for row in before["addresses"]:
        addresses.put(db, addresses.Address(**row))
    subscribers.take_back(db, [PassedOn(**row) for row in reversed(before.get("subscriptions", []))])
    blog = existing(blogs.by_id(db, blog.id))
    dockets = {
        int(post_id): (tuple(categories), tuple(tags))
        for post_id, (categories, tags) in before["posts"].items()
    }
    workshop.filing_writer.set_dockets(workshop.filing_writer.dockets(dockets), dockets, now)
    placed = {int(number): tuple(map(tuple, pair)) for number, pair in before["placements"].items()}
    pairs = [(row, row.filed_under(*placed[row.id])) for row in filed.of_numbers(db, placed)]
    _settle(workshop, blog, pairs)
    subjects, touched = (
        category_subjects(workshop, blog),
        {*map(int, before["posts"]), *(row.post_id for row, _ in pairs)},
    )
    reached = {one for number in before["categories"] for one in below(subjects, int(number))}
    for number in sorted(reached):
        stale.mark_fact(db, blog.id, "category", number)
    touched.update(filing.posts_in(db, sorted(reached)))
    touched.update(filing.posts_tagged(db, [int(number) for number in before["tags"]]))
    settle_posts(workshop, blog, sorted(touched))


def _parents_first(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Rows of categories so that none comes before the one it stands below."""
    waiting, done, ordered = {row["id"]: row for row in rows}, set(), []

    def put(row: dict[str, Any]) -> None:
        if row["id"] in done:
            return
        done.add(row["id"])
        if row["parent_id"] in waiting:
            put(waiting[row["parent_id"]])
        ordered.append(row)

    for row in rows:
        put(row)
    return ordered

"""Filing posts anew: what readers get, and will get, of them changes at once, with their lists and addresses."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from mobbet.actions.permalinks import category_subjects, filed, free_path
from mobbet.actions.workshop import Workshop, keeper_of
from mobbet.core.errors import NotFound, Refused
from mobbet.core.facts import Subject
from mobbet.core.filing import below, category_lists, replaced
from mobbet.store import addresses, blogs, changes, filing, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement

Change = Callable[[tuple[int, ...], tuple[int, ...]], tuple[tuple[int, ...], tuple[int, ...]]]
"""Makes new categories and tags of a post's present ones."""


@dataclass
class Before:
    """What stood before a change of the filing, gathered as it is made."""

    categories: dict[int, dict[str, Any]] = field(default_factory=dict)
    tags: dict[int, dict[str, Any]] = field(default_factory=dict)
    posts: dict[int, tuple[list[int], list[int]]] = field(default_factory=dict)
    placements: dict[int, tuple[tuple[int, ...], tuple[int, ...]]] = field(default_factory=dict)
    addresses: list[dict[str, Any]] = field(default_factory=list)
    catch_all: int | None = None

    def category(self, workshop: Workshop, blog: Blog, number: int) -> None:
        if number not in self.categories:
            self.categories[number] = asdict(filing.category(workshop.db, blog.id, number))

    def tag(self, workshop: Workshop, blog: Blog, number: int) -> None:
        if number not in self.tags:
            self.tags[number] = asdict(filing.tag(workshop.db, blog.id, number))

    def owner(self, workshop: Workshop, kind: str, number: int) -> None:
        """The addresses of a category or tag that is going to pass them on."""
        self.addresses += [asdict(row) for row in addresses.rows_of(workshop.db, kind, number)]


def refile(workshop: Workshop, blog: Blog, post_ids: Iterable[int], change: Change, before: Before | None = None, is_past_too: bool = False) -> int:
    """Files posts anew, in their dockets and for readers; answers how many changed.

    Placements that have ended keep what they were filed under, unless `is_past_too` (a category that is no
    more must stand nowhere).
    """
    subjects, now, changed = category_subjects(workshop, blog), workshop.clock(), 0
    for post_id in post_ids:
        mine = posts.categories(workshop.db, post_id), posts.tags(workshop.db, post_id)
        new = change(*map(tuple, mine))
        is_changed = _write_docket(workshop, post_id, mine, new, now, before)
        for row in placements.of_post(workshop.db, post_id):
            if is_past_too or (row.shows_until > now and row.shows_from < row.shows_until):
                categories, tags = change(row.categories, row.tags)
                if (categories, tags) != (row.categories, row.tags):
                    is_changed = True
                    if before is not None:
                        before.placements.setdefault(row.id, (row.categories, row.tags))
                    settle_placement(workshop, blog, subjects, replace(row, categories=categories, tags=tags))
        if is_changed:
            changed += 1
            placements.mark_unsettled(workshop.db, blog.id, post_id)
    return changed


def _write_docket(workshop: Workshop, post_id: int, old: tuple[list[int], list[int]], new: tuple, now: int, before: Before | None) -> bool:
    if (tuple(old[0]), tuple(old[1])) == new:
        return False
    if before is not None:
        before.posts.setdefault(post_id, old)
    posts.set_categories(workshop.db, post_id, list(new[0]), now)
    posts.set_tags(workshop.db, post_id, list(new[1]), now)
    return True


def settle_placement(workshop: Workshop, blog: Blog, subjects: Mapping[int, Subject], row: Placement) -> None:
    """Writes the lists and the address of a placement as they follow from its filing and the blog's pattern now."""
    now = workshop.clock()
    if row.shows_until > now and row.shows_from < row.shows_until:
        path, slug = free_path(workshop, blog, row.post_id, row.slug, filed(subjects, row.categories, row.goes_out, row.zone))
        row = replace(row, path=path, slug=slug)
    placements.refile(workshop.db, row, category_lists(subjects, row.categories), now)


def catch(workshop: Workshop, blog: Blog, before: Before) -> None:
    """Posts for readers that a change left without any category fall under the catch-all."""
    if blog.catch_all:
        left = [post_id for post_id in before.posts if not filing.has_category(workshop.db, post_id)]
        refile(workshop, blog, left, adding([blog.catch_all]), before)


def settle_posts(workshop: Workshop, blog: Blog, post_ids: Iterable[int]) -> None:
    """Writes lists and addresses of posts anew, after the tree or the pattern changed."""
    subjects = category_subjects(workshop, blog)
    for post_id in post_ids:
        for row in placements.of_post(workshop.db, post_id):
            settle_placement(workshop, blog, subjects, row)
        placements.mark_unsettled(workshop.db, blog.id, post_id)


def replacing(kind: str, instead: Mapping[int, int | None]) -> Change:
    """The change that puts other categories, or tags, in the place of some, or leaves them out."""
    if kind == "category":
        return lambda categories, tags: (replaced(categories, instead), tags)
    return lambda categories, tags: (categories, replaced(tags, instead))


def adding(categories: Iterable[int] = (), tags: Iterable[int] = (), without: Iterable[int] = (), main: int | None = None, without_tags: Iterable[int] = ()) -> Change:
    """The change that adds categories and tags and takes some out; `main` comes first."""
    categories, tags, without, without_tags = tuple(categories), tuple(tags), frozenset(without), frozenset(without_tags)

    def change(mine: tuple[int, ...], my_tags: tuple[int, ...]) -> tuple[tuple[int, ...], tuple[int, ...]]:
        kept = [number for number in mine if number not in without or number == main]
        first = [main] if main is not None else []
        return tuple(dict.fromkeys([*first, *kept, *categories])), tuple(dict.fromkeys([*(tag for tag in my_tags if tag not in without_tags), *tags]))

    return change


def keep(workshop: Workshop, person: Person, blog: Blog, words: str, before: Before) -> int:
    """Keeps what stood before a change, so that it can be undone; answers its number."""
    return changes.add(workshop.db, blog.id, person.id, words, json.dumps(asdict(before)), workshop.clock())


def undo(workshop: Workshop, person: Person, blog: Blog, number: int) -> str:
    """Puts back what stood before the last change of the filing; answers its words.

    Raises NotFound for a change of another blog, Refused when others were made since. Addresses that came with
    the change lead on to where things are again.
    """
    keeper_of(workshop, person, blog.slug)
    with workshop.db.transaction():
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
        filing.mark_list(db, blog.id, f"tag:{row['id']}")
    if before["catch_all"]:
        blogs.settle(db, blog.id, catch_all=before["catch_all"])
    for row in before["addresses"]:
        addresses.put(db, addresses.Address(**row))
    blog = blogs.by_id(db, blog.id)
    for post_id, (categories, tags) in before["posts"].items():
        posts.set_categories(db, int(post_id), categories, now)
        posts.set_tags(db, int(post_id), tags, now)
    subjects, touched = category_subjects(workshop, blog), {int(post_id) for post_id in before["posts"]}
    for placement_id, (categories, tags) in before["placements"].items():
        row = placements.by_id(db, int(placement_id))
        touched.add(row.post_id)
        settle_placement(workshop, blog, subjects, replace(row, categories=tuple(categories), tags=tuple(tags)))
    reached = {one for number in before["categories"] for one in below(subjects, int(number))}
    for number in sorted(reached):
        filing.mark_list(db, blog.id, f"category:{number}")
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

"""Finds the pages that a change of the filing alters by counting: compares two outlines of the site.

Every page that shows a post under another name or address, or other posts than before, is another page. A property test holds
this footprint against `exact.AgainstEdition`, which looks at each page.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterable, Iterator
from functools import cached_property
from itertools import compress, count
from typing import NamedTuple

from mobbet.core.audience import covers
from mobbet.core.division import Place, has_address
from mobbet.core.division import pages as divided
from mobbet.core.document.mentions import linked_posts
from mobbet.core.filing import tree
from mobbet.core.front import AUTHORS, BLOCKS, CATEGORIES, CHOSEN, MOST_READ, Section
from mobbet.core.keys import ALL, FRONT, TOP, ChangedFact, ListName
from mobbet.core.menu import SEARCH_PATH
from mobbet.core.numbers import MOST_COUNTED
from mobbet.core.permalinks import short_path
from mobbet.core.values import existing
from mobbet.publish.changes.altered import Altered, moved_from
from mobbet.publish.changes.exact import compared
from mobbet.publish.changes.footprint import Footprint
from mobbet.publish.changes.menu_change import MenuSide, differs
from mobbet.publish.changes.outline import (
    ListHead,
    Names,
    Outline,
    Rows,
    changed_facts,
    in_feeds,
    in_lists,
    on_page,
)
from mobbet.publish.house_parts import AROUND, LISTS, POSTS, SUBJECTS
from mobbet.publish.lists import has_feed, page_path
from mobbet.publish.pages import (
    archive,
    feed,
    former_address,
    numbered_page,
    post,
    post_list,
    search,
    short_address,
    sitemap,
    style,
    subjects,
)
from mobbet.publish.pages.kinds import KINDS
from mobbet.publish.pages.post_list import MOST_ON_TOP
from mobbet.store import editions, numbered_pages, outlines
from mobbet.store.database import Database
from mobbet.store.filed import FiledPlacement


class ListOutline(NamedTuple):
    """One page of a list: its posts, and what its links to the pages beside it follow from."""

    path: str
    posts: tuple[int, ...]
    head: ListHead
    beside: tuple[int, ...]


class ShownCategory(NamedTuple):
    """What is shown of a category outside of its own page."""

    number: int
    name: str
    path: str
    size: int
    picture: int | None


class Counted:
    """Compares where posts and lists stand with a change of the filing and without it; `rows` answers with what shows of the posts concerned.

    The facts before the change are those of the current edition, which is up to date.
    """

    def __init__(
        self, db: Database, blog_id: int, instant: int, rows: Callable[[], tuple[Rows, Rows]]
    ) -> None:
        self._db = db
        self._blog_id = blog_id
        self._instant = instant
        self._rows = rows

    def look_with_change(self) -> None:
        facts = changed_facts(self._db, self._blog_id)
        self._after = Outline(self._db, self._blog_id, self._instant, self._rows()[1], facts)

    def footprint(self) -> Footprint:
        with self._db.reading():
            before = Outline(self._db, self._blog_id, self._instant, self._rows()[0], self._after.own)
            difference = _Difference(self._db, before, self._after)
            pages = list({one.key: one for one in difference.pages()}.values())
            if not difference.alters_menu():
                return Footprint(pages)
            shown = {
                name
                for name, kind in KINDS.items()
                if kind.shows_of_house in (AROUND, POSTS, LISTS, SUBJECTS)
            }
            counts = editions.counts(self._db, self._blog_id)
            named = sum(one.key.kind in shown and one.what != "added" for one in pages)
            return Footprint(pages, sum(counts.get(name, 0) for name in shown) - named)


def _under(name: ListName) -> ListName:
    """The list of the posts below a category whose page does not show them."""
    return ListName.of("under", name.which)


def _places(order: list[int], posts: set[int]) -> Iterator[int]:
    """The places of a list, from 0, at which one of these posts stands."""
    return compress(count(), map(posts.__contains__, order))


class _Difference:
    """The pages that differ between two outlines of one blog. Orders of lists are read as they were before, and followed from there."""

    def __init__(self, db: Database, before: Outline, after: Outline) -> None:
        self._db = db
        self._before = before
        self._after = after
        self._snapshot = before.snapshot
        self._moved = {
            post_id for post_id, row in after.rows.items() if row.path != before.rows[post_id].path
        }
        rows = after.rows.items()
        self._renamed = self._moved | {number for number, row in rows if self._shows(number, row, on_page)}
        self._renamed_in_feeds = self._moved | {
            number for number, row in rows if self._shows(number, row, in_feeds)
        }
        self._relinked = self._find_relinked()
        self._shown_otherwise = set(self._moved)
        if self._snapshot.house.categories_in_lists:
            self._shown_otherwise |= {number for number, row in rows if self._shows(number, row, in_lists)}
        if self._snapshot.house.full_in_lists:
            self._shown_otherwise |= self._relinked.keys()
        self._left: dict[ListName, set[int]] = {}
        self._came: dict[ListName, list[int]] = {}
        self._find_relisted()
        self._orders: dict[ListName, tuple[list[int], list[int]]] = {}

    def pages(self) -> Iterator[Altered]:
        yield from compared(self._before.looked_at, self._after.looked_at)
        yield from self._posts()
        yield from self._old_addresses()
        rows = [
            *self._relinked.values(),
            *outlines.shown(self._db, self._naming_in_feeds, self._snapshot.instant).values(),
        ]
        lists = self._after.lists().union(self._left, *map(self._before.lists_of, rows))
        names = {name.shown_on for name in lists} | self._after.subjects
        for name in sorted(names):
            if name != ALL:
                yield from self._list(name)
                yield from self._numbered(name)
            if has_feed(name):
                yield from self._feeds(name)
            if name.kind == "month":
                yield from self._sitemap(name)
        others = [name for name in sorted(names) if self._is_other_subject(name)]
        yield from self._subject_addresses({*others, *self._after.addresses})
        if others or self._tree(0) != self._tree(1):
            yield Altered(subjects.KEY, subjects.PATH, "altered")
        if self._first_named(0) != self._first_named(1):
            yield Altered(search.KEY, SEARCH_PATH, "altered")
        if self._alters_counts():
            yield Altered(style.COUNTS, style.COUNTS_PATH, "altered")
        yield from self._front()
        if not self._moved.isdisjoint(self._order(ALL)[0][-archive.MOST_TITLES :] if self._moved else ()):
            yield Altered(archive.KEY, archive.PATH, "altered")

    def alters_menu(self) -> bool:
        """Whether the menu shows something else, which stands on every page: a category's name, one with its first post or without its last, or where a post is."""
        before, after = (
            MenuSide(
                outline,
                self._before,
                lambda name, side=side: self._has_page(name, side),  # type: ignore[misc]
                lambda name, side=side: self._head(name, side),  # type: ignore[misc]
            )
            for side, outline in enumerate((self._before, self._after))
        )
        return differs(self._snapshot.menu, before, after) or self._alters_foot()

    def _front(self) -> Iterator[Altered]:
        """The front page, where one of its sections shows something else."""
        if any(map(self._alters_section, self._snapshot.house.front_sections)):
            yield Altered(post_list.key(FRONT), "/", "altered")

    def _alters_section(self, section: Section) -> bool:
        name = section.list_name
        if name:
            pages = [
                (existing(self._head(name, side))[:2], self._order(name)[side][-section.most :])
                if self._has_page(name, side)
                else None
                for side in (0, 1)
            ]
            return pages[0] != pages[1] or bool(
                pages[0] and not self._shown_otherwise.isdisjoint(pages[0][1])
            )
        if section.kind == CATEGORIES:
            return self._first_level(0) != self._first_level(1)
        return not self._shown_otherwise.isdisjoint(self._in_section(section))

    def _in_section(self, section: Section) -> set[int]:
        """The posts that a section shows, or leads to, whatever lists they stand on."""
        snapshot = self._snapshot
        if section.kind == MOST_READ:
            return {post.id for post in snapshot.most_read(section.most)}
        if section.kind == AUTHORS:
            numbers = section.of or snapshot.authors_by_newest(section.most)
            newest = (snapshot.newest(ListName.of("author", number), 1) for number in numbers)
            return {post.id for posts in newest for post in posts}
        if section.kind == BLOCKS and section.of:
            block = snapshot.saved_block(section.of[0])
            return self._found_by_strangers(linked_posts(block.document)) if block else set()
        return self._found_by_strangers(section.of) if section.kind == CHOSEN else set()

    def _found_by_strangers(self, numbers: Iterable[int]) -> set[int]:
        """Those of some posts of the change that strangers may find."""
        rows, audiences = self._before.rows, self._before.audiences
        return {number for number in numbers if number in rows and rows[number].audience in audiences}

    def _alters_counts(self) -> bool:
        """Whether the foot says other counts of its categories."""
        house = self._snapshot.house
        return house.foot_counts and self._counts(0) != self._counts(1)

    def _counts(self, side: int) -> list[tuple[int, int]]:
        return [(one.number, one.size) for one in self._first_level(side)]

    def _alters_foot(self) -> bool:
        """Whether the foot names other categories, or names them otherwise."""
        if not self._snapshot.menu.foot_categories:
            return False
        return self._first_named(0) != self._first_named(1)

    def _first_named(self, side: int) -> list[ShownCategory]:
        """The categories of the first level by name and place alone."""
        return [one._replace(size=0, picture=None) for one in self._first_level(side)]

    def _first_level(self, side: int) -> list[ShownCategory]:
        """The categories of the first level that have a page, in the order of the tree."""
        names = [ListName.of("category", number) for depth, number in self._tree(side) if depth == 0]
        return [self._category(name, existing(self._head(name, side)), side) for name in names]

    def _category(self, name: ListName, head: ListHead, side: int) -> ShownCategory:
        count = min(len(self._order(name)[side]), MOST_COUNTED + 1)
        return ShownCategory(name.number, head.name, head.path, count, head.own.picture if head.own else None)

    def _shows(
        self, post_id: int, row: FiledPlacement, names: Callable[[Outline, FiledPlacement], Names]
    ) -> bool:
        """Whether something names a post's categories and tags otherwise than before."""
        return names(self._before, self._before.rows[post_id]) != names(self._after, row)

    def _find_relisted(self) -> None:
        """The posts that leave lists, and those that come to them."""
        others = {
            row.categories
            for row in self._after.rows.values()
            if self._before.lists_by(row.categories) != self._after.lists_by(row.categories)
        }
        for post_id, row in self._after.rows.items():
            was = self._before.rows[post_id]
            if row.categories in others or not row.is_filed_as(was):
                old, new = {*self._before.lists_of(was)}, {*self._after.lists_of(row)}
                for name in old - new:
                    self._left.setdefault(name, set()).add(post_id)
                for name in new - old:
                    self._came.setdefault(name, []).append(post_id)

    def _find_relinked(self) -> dict[int, FiledPlacement]:
        """The posts whose texts lead to one that moved, so that their readers follow another link."""
        pairs = outlines.linking_to(self._db, self._moved, self._snapshot.instant)
        rows = outlines.shown(self._db, {post_id for post_id, _ in pairs}, self._snapshot.instant)
        return {
            post_id: rows[post_id]
            for post_id, target in pairs
            if covers(self._before.rows[target].audience, rows[post_id].audience)
        }

    @cached_property
    def _showing_alike(self) -> dict[int, bool]:
        """{post below which one that moved stands as one on the same matter: whether its entry in feeds, which names older ones only, does so as well}."""
        found = {}
        if self._snapshot.house.names_alike:
            for post_id in {one for moved in self._moved for one in self._snapshot.showing_alike(moved)}:
                shown = self._snapshot.post(post_id)
                if shown and not shown.is_page:
                    alike = [one for one in self._snapshot.alike(shown) if one.id in self._moved]
                    if alike:
                        is_locked = shown.audience.startswith("password:")
                        found[post_id] = not is_locked and any(one.goes_out < shown.goes_out for one in alike)
        return found

    @cached_property
    def _otherwise_in_feeds(self) -> set[int]:
        """The posts of whose entries in feeds something differs."""
        return {*self._renamed_in_feeds, *self._relinked, *self._naming_in_feeds}

    @property
    def _naming_in_feeds(self) -> set[int]:
        return {post_id for post_id, is_in_feeds in self._showing_alike.items() if is_in_feeds}

    def _posts(self) -> Iterator[Altered]:
        for post_id in self._renamed:
            was, path = self._before.rows[post_id].path, self._after.rows[post_id].path
            yield Altered(post.key(post_id), path, "altered", None, moved_from(was, path))
        for post_id in self._moved:
            path = self._after.rows[post_id].path
            yield Altered(short_address.key(post_id), short_path(post_id), "altered", path)
        for post_id, path in outlines.paths(self._db, self._beside() - self._renamed, self._snapshot.instant):
            yield Altered(post.key(post_id), path, "altered")

    def _beside(self) -> set[int]:
        """The posts whose pages lead to one that moved: its neighbours, the parts of its series, and those whose texts do."""
        found = {*self._relinked, *self._with_relinked_blocks(), *self._showing_alike}
        everything = self._order(ALL)[0] if self._moved else []
        for at in _places(everything, self._moved):
            found.update(everything[max(0, at - 1) : at + 2])
        for series in outlines.series(self._db, (self._before.rows[post_id].id for post_id in self._moved)):
            parts = {part.id for part in self._snapshot.series_parts(series)}
            found |= parts if parts & self._moved else set()
        return found

    def _with_relinked_blocks(self) -> Iterator[int]:
        """The posts below which a block stands that leads to a post which moved."""
        snapshot = self._snapshot
        moved = self._found_by_strangers(self._moved)
        blocks = map(snapshot.saved_block, {rule.block for rule in snapshot.house.promos} if moved else ())
        relinked = {
            block.id for block in blocks if block and not moved.isdisjoint(linked_posts(block.document))
        }
        for post_id in snapshot.post_ids() if relinked else ():
            row = self._after.rows.get(post_id)
            shown = self._after.promos_below(row) if row else self._before.promos_of(post_id)
            if not relinked.isdisjoint(shown):
                yield post_id

    def _old_addresses(self) -> Iterator[Altered]:
        """The addresses that led to posts which moved, and those they moved from; the new one is a page, even where it redirected before."""
        known = outlines.addresses(self._db, self._moved, self._snapshot.instant)
        for path, post_id in (
            *((path, post_id) for post_id, path in known),
            *self._before.redirecting_here(self._moved),
        ):
            old, new = self._before.rows[post_id].path, self._after.rows[post_id].path
            if "?" not in path:  # an address with a question mark is no file
                what = "added" if path == old else "removed" if path == new else "altered"
                yield Altered(former_address.key(path), path, what, new if what != "removed" else None)

    def _subject_addresses(self, names: set[ListName]) -> Iterator[Altered]:
        """The addresses that led, or lead, to categories and tags."""
        before, after = (
            {path: goal for name in names for path, goal in self._leading_to(name, side)} for side in (0, 1)
        )
        for path in before.keys() | after.keys():
            old, new = before.get(path, path), after.get(path, path)
            if old != new and "?" not in path and ChangedFact.of("away", path) not in self._after.own:
                what = "added" if old == path else "removed" if new == path else "altered"
                yield Altered(former_address.key(path), path, what, new if new != path else None)

    def _leading_to(self, name: ListName, side: int) -> Iterator[tuple[str, str]]:
        """(address, where it leads: itself where the list lives) of a category or a tag."""
        head = self._head(name, side)
        goal = head.path if head and self._has_page(name, side) else subjects.PATH
        paths = (
            self._after.addresses[name]
            if side and name in self._after.addresses
            else self._before.addresses_of(name)
        )
        return ((path, goal) for path in paths)

    def _head(self, name: ListName, side: int) -> ListHead | None:
        """What stands above a list, before (0) and after (1): the same, where nothing of the change concerns the list."""
        return self._after.heads[name] if side and name in self._after.heads else self._before.head(name)

    def _order(self, name: ListName) -> tuple[list[int], list[int]]:
        """The posts of a list from the oldest on, before and after; the very same list where none came or left."""
        if name not in self._orders:
            before = outlines.order(
                self._db, self._snapshot.blog_id, name, self._snapshot.instant, self._before.audiences
            )
            self._orders[name] = (before, self._follow(name, before))
        return self._orders[name]

    def _follow(self, name: ListName, before: list[int]) -> list[int]:
        left, came = self._left.get(name, set()), self._came.get(name, [])
        if not left and not came:
            return before
        after = [post_id for post_id in before if post_id not in left] + came
        times = outlines.times(self._db, after, self._snapshot.instant) if came else {}
        return sorted(after, key=lambda post_id: (times[post_id], post_id)) if came else after

    def _has_page(self, name: ListName, side: int) -> bool:
        """Whether a list is known and has a post, or a category one below it."""
        order = self._order(name)[side] or (name.is_of_category and self._order(_under(name))[side])
        return bool(self._head(name, side) and order)

    def _is_other_subject(self, name: ListName) -> bool:
        """Whether the page of all categories and tags names one that it did not name before, names it otherwise or with another count, or no longer."""
        if not name.is_subject:
            return False
        shown = [
            self._category(name, existing(self._head(name, side)), side)
            if self._has_page(name, side)
            else None
            for side in (0, 1)
        ]
        if not self._snapshot.house.subject_pictures:
            shown = [one and one._replace(picture=None) for one in shown]
        return shown[0] != shown[1]

    def _tree(self, side: int) -> list[tuple[int, int]]:
        """(depth, category) of the categories with a page, in the order in which that page names them."""
        categories = (self._before, self._after)[side].snapshot.categories
        return [
            (depth, category.id)
            for depth, category in tree(categories.values())
            if self._has_page(ListName.of("category", category.id), side)
        ]

    def _list(self, name: ListName) -> Iterator[Altered]:
        """The pages of one list: where it is as it was, those that show one of the posts; else they are compared one by one."""
        size, marked = self._snapshot.house.posts_on_page, self._shown_otherwise
        if self._is_alike(name):
            yield from self._marked(name, size, marked)
            return
        before, after = (self._pages(name, side, size) for side in (0, 1))
        for first in before.keys() | after.keys():
            old, new = before.get(first), after.get(first)
            key = post_list.key(name, first)
            if old is None and new is not None:
                yield Altered(key, new.path, "added")
            elif old is not None and new is None:
                yield Altered(key, old.path, "removed")
            elif old is not None and new is not None and (old != new or not marked.isdisjoint(new.posts)):
                yield Altered(key, new.path, "altered", None, moved_from(old.path, new.path))

    def _is_alike(self, name: ListName) -> bool:
        """Whether a list has the same posts and the same head before and after."""
        members = (FRONT, TOP) if name == FRONT else (name, _under(name)) if name.is_of_category else (name,)
        return self._head(name, 0) == self._head(name, 1) and not any(
            one in self._left or one in self._came for one in members
        )

    def _marked(self, name: ListName, size: int, marked: set[int]) -> Iterator[Altered]:
        """The pages of a list on which some posts stand."""
        if not marked.isdisjoint(self._newest(name, 0, size)):
            yield Altered(post_list.key(name), existing(self._head(name, 0)).path, "altered")
        for first, page in self._pages(name, 0, size).items():
            if first and not marked.isdisjoint(page.posts):
                yield Altered(post_list.key(name, first), page.path, "altered")

    def _newest(self, name: ListName, side: int, size: int) -> tuple[int, ...]:
        """The posts of a list's first page; those at the top of the front page are among them."""
        newest = tuple(self._order(name)[side][-size:])
        return (*newest, *self._order(TOP)[side][-MOST_ON_TOP:]) if name == FRONT else newest

    def _pages(self, name: ListName, side: int, size: int) -> dict[int, ListOutline]:
        """The pages of a list, by their first posts, the newest by 0; none where the list has no page."""
        head, order = self._head(name, side), self._order(name)[side]
        if head is None or (name != FRONT and not self._has_page(name, side)):
            return {}
        own = head._replace(own=None)
        parts = [part for part in divided(order, size) if has_address(part, len(order), size)]
        firsts = [0, *(order[start] for start, _ in parts), 0]
        unseen = (firsts[-2], order[-size - 1]) if parts else ()
        found = {0: ListOutline(head.path, self._newest(name, side, size), head, unseen)}
        for at, (start, end) in enumerate(parts, 1):
            path = page_path(head.path, firsts[at])
            found[firsts[at]] = ListOutline(
                path, tuple(order[start:end]), own, (firsts[at - 1], firsts[at + 1])
            )
        return found

    def _numbered(self, name: ListName) -> Iterator[Altered]:
        """The addresses that pages of a list had when those had numbers."""
        numbers = numbered_pages.of_list(self._db, self._snapshot.blog_id, name)
        if not numbers or self._is_alike(name):
            return
        before, after = (self._redirects(name, side, numbers) for side in (0, 1))
        for number in before.keys() | after.keys():
            old, new = before.get(number), after.get(number)
            if old != new:
                path, target = new or existing(old)
                what = "removed" if new is None else "added" if old is None else "altered"
                was = moved_from(old[0], path) if old and new else ""
                yield Altered(numbered_page.key(name, number), path, what, target if new else None, was)

    def _redirects(
        self, name: ListName, side: int, numbers: list[tuple[int, Place]]
    ) -> dict[int, tuple[str, str]]:
        """{number: (former address of the page, where it redirects)}."""
        pages = self._pages(name, side, self._snapshot.house.posts_on_page)
        if not pages:
            return {}
        base, order = pages[0].path, self._order(name)[side]
        times = outlines.times(self._db, order, self._snapshot.instant)
        places = [(times[post_id], post_id) for post_id in order]
        holding = {post_id: page.path for first, page in pages.items() if first for post_id in page.posts}
        ranks = {number: bisect_left(places, place) for number, place in numbers}
        return {
            number: (f"{base}page/{number}/", holding.get(order[at], base) if at < len(order) else base)
            for number, at in ranks.items()
        }

    def _feeds(self, name: ListName) -> Iterator[Altered]:
        """The feeds of a list, in each of their formats."""
        found = []
        for side in (0, 1):
            head, newest = self._head(name, side), self._order(name)[side][-feed.LENGTH :]
            found.append(
                (head.path, head.name, head.own and head.own.description, newest)
                if head and (newest or name == ALL)
                else None
            )
        old, new = found
        if old == new and (new is None or self._otherwise_in_feeds.isdisjoint(new[3])):
            return
        for format in feed.FORMATS:
            was, path = (f"{one[0]}feed.{format}" if one else "" for one in (old, new))
            what = "removed" if new is None else "added" if old is None else "altered"
            moved = moved_from(was, path) if what == "altered" else ""
            yield Altered(feed.key(name, format), path or was, what, None, moved)

    def _sitemap(self, name: ListName) -> Iterator[Altered]:
        """The parts of a month's site map that name a post which moved."""
        places = _places(self._order(name)[0], self._moved)
        for part in sorted({place // sitemap.LENGTH + 1 for place in places}):
            yield Altered(sitemap.key(name.which, part), sitemap.path(name.which, part), "altered")

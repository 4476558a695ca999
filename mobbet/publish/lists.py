"""Lists of posts: where each is, how many pages it has, and which list is at an address."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import cached_property
from typing import NamedTuple

from mobbet.core.division import Division, Part, Place, has_address
from mobbet.core.division import pages as divided
from mobbet.core.facts import OutPost
from mobbet.core.filing import trail as trail_of
from mobbet.core.keys import ALL, FRONT, ListName
from mobbet.publish.cards import Cards
from mobbet.publish.snapshot import Snapshot
from mobbet.publish.values import FeedPost, Step

_PAGE = re.compile(r"(?P<base>/(?:.*/)?)page/(?:from-(?P<first>[1-9]\d{0,18})|(?P<number>[1-9]\d{0,6}))/")
_BY = re.compile(r"/by/([^/]+)/")
_MONTH = re.compile(r"/(\d{4})/(\d\d)/")


class ListPath(NamedTuple):
    """The address of a list, with the first post of one of its older pages, or the number that such a page had formerly; 0 without."""

    base: str
    first: int = 0
    number: int = 0


class Lists:
    """The lists over one snapshot."""

    def __init__(self, snapshot: Snapshot, cards: Cards) -> None:
        self._snapshot = snapshot
        self._cards = cards
        self._feed: tuple[str, tuple[FeedPost, ...]] = ("", ())
        self._divisions: dict[ListName, Division] = {}
        self._trails: dict[int, tuple[Step, ...]] = {}

    def path(self, name: ListName, first: int = 0) -> str | None:
        """Where a page of a list is: the newest, or with `first` the older one that begins with that post. None for a list without a page,
        and where no page with an address of its own begins with that post.
        """
        step = self.step(name) if name != ALL else None
        if step is None or (first and self.part(name, first) is None):
            return None
        if self._snapshot.count(name) == 0 and not self.has_page(name):
            return None
        return page_path(step.path, first)

    def part(self, name: ListName, first: int) -> Part | None:
        """The places of the posts on the page that begins with a post; None where there is no page with an address that does."""
        post, count = self._snapshot.post(first), self._snapshot.count(name)
        place = self._snapshot.rank(name, post.goes_out, first) if post else count
        if not has_address((place, place), count, self.size):
            return None
        part = self.holding(name, place)
        return part if part[0] == place and self.first_of(name, part) == first else None

    def holding(self, name: ListName, place: int) -> Part:
        """The page on which the post at a place of a list stands, by the places of its posts."""
        return self._division(name).holding(place)

    def first_of(self, name: ListName, part: Part) -> int:
        """The oldest post of a page, which its address names."""
        return self._snapshot.places(name, part[0], 1)[0][1]

    def page_holding(self, name: ListName, place: Place) -> int:
        """The first post of the page with an address on which a post stands, or would stand, at a place; 0 where there is none."""
        rank, count = self._snapshot.rank(name, *place), self._snapshot.count(name)
        if rank >= count:
            return 0
        part = self.holding(name, rank)
        return self.first_of(name, part) if has_address(part, count, self.size) else 0

    def pages(self, name: ListName) -> list[int]:
        """The first posts of all pages of a list that have an address of their own."""
        count = self._snapshot.count(name)
        ids = [post_id for _, post_id in self._snapshot.places(name, 0, count)]
        return [ids[part[0]] for part in divided(ids, self.size) if has_address(part, count, self.size)]

    @property
    def size(self) -> int:
        """How many posts the newest page of a list shows, and about as many each other one."""
        return self._snapshot.house.posts_on_page

    def _division(self, name: ListName) -> Division:
        if name not in self._divisions:
            ids = lambda start, most: [one[1] for one in self._snapshot.places(name, start, most)]  # noqa: E731
            self._divisions[name] = Division(self.size, self._snapshot.count(name), ids)
        return self._divisions[name]

    def has_page(self, name: ListName) -> bool:
        """Whether a list has a page: one of its own posts, or one below it, is out. The front page is always there."""
        return (
            name == FRONT
            or self._snapshot.has_any(name)
            or (name.is_of_category and self._snapshot.has_any(ListName.of("under", name.which)))
        )

    @cached_property
    def label(self) -> Step:
        """The blog's section, as its owner calls it."""
        return Step(self._snapshot.house.label, self._snapshot.house.newest_path)

    def below_label(self, steps: tuple[Step, ...]) -> tuple[Step, ...]:
        """Steps with the blog's section before them, but where the first has the very same name."""
        if steps and steps[0].name.casefold() == self.label.name.casefold():
            return steps
        return (self.label, *steps)

    def step(self, name: ListName) -> Step | None:
        """A list by its name and path; None for a category or a tag that is unknown, and for a list without pages of its own."""
        kind, which = name.kind, name.which
        if kind in ("all", "front"):
            path = "/" if name == ALL else self._snapshot.house.newest_path
            return Step(self._snapshot.house.name, path)
        if kind == "month":
            return Step(which, f"/{which.replace('-', '/')}/")
        if kind == "category":
            category = self._snapshot.categories.get(int(which))
            return Step(category.name, f"/{category.slug}/") if category else None
        if kind == "tag":
            tag = next(iter(self._snapshot.tags((int(which),))), None)
            return Step(tag.name, f"/tag/{tag.slug}/") if tag else None
        if kind == "author":
            author = self._snapshot.author(int(which))
            return Step(author.name, author.path) if author else None
        return None

    def parsed(self, path: str) -> ListPath:
        """What a path of a page of a list spells."""
        found = _PAGE.fullmatch(path)
        return (
            ListPath(found["base"], int(found["first"] or 0), int(found["number"] or 0))
            if found
            else ListPath(path)
        )

    def at(self, base: str) -> ListName | None:
        """The list whose newest page stands at an address, whoever may see it."""
        if base == self._snapshot.house.newest_path:
            return FRONT
        month = _MONTH.fullmatch(base)
        if month:
            return ListName.of("month", f"{month[1]}-{month[2]}")
        if by := _BY.fullmatch(base):
            author = self._snapshot.author_at(by[1])
            return ListName.of("author", author) if author else None
        found = self._snapshot.subject_at(base)
        return ListName.of(found.kind, found.number) if found else None

    def trail(self, category_id: int) -> tuple[Step, ...]:
        """The steps from the top down to a category."""
        if category_id not in self._trails:
            self._trails[category_id] = tuple(
                Step(subject.name, f"/{subject.slug}/")
                for subject in trail_of(self._snapshot.categories, category_id)
            )
        return self._trails[category_id]

    def feed_posts(self, name: ListName, length: int) -> tuple[FeedPost, ...]:
        """The newest posts of a list with their texts; read once for all formats of its feed. A locked one names none on the same matter: they would tell
        what it is about."""
        if name != self._feed[0]:
            posts = self._snapshot.newest(name, length)
            texts = tuple(self._in_feed(post) for post in posts)
            self._feed = (name, texts)
        return self._feed[1]

    def _in_feed(self, post: OutPost) -> FeedPost:
        cards, is_locked = self._cards, post.audience.startswith("password:")
        older = () if is_locked else tuple(Step(one.title, one.path) for one in self.older_alike(post))
        return FeedPost(cards.in_lists(post), cards.body_in_lists(post), cards.links_in_lists(post), older)

    def older_alike(self, post: OutPost) -> list[OutPost]:
        """The posts on the same matter that went out before a post, where the blog names such below posts."""
        alike = self._snapshot.alike(post) if self._snapshot.house.names_alike else []
        return [one for one in alike if one.goes_out < post.goes_out]

    def is_in_feed(self, name: ListName, post: OutPost, length: int) -> bool:
        """Whether a post of a list is among its newest `length`."""
        oldest = self._snapshot.places(name, max(0, self._snapshot.count(name) - length), 1)
        return bool(oldest) and (post.goes_out, post.id) >= oldest[0]


def page_path(base: str, first: int) -> str:
    """The address of a page of the list at `base`: the newest, or with `first` the one that begins with that post."""
    return f"{base}page/from-{first}/" if first else base


def data(steps: Iterable[Step | None]) -> list[list[str] | None]:
    """Steps as data, for a fingerprint."""
    return [[step.name, step.path] if step else None for step in steps]


def has_feed(name: ListName) -> bool:
    """Whether a list has feeds: the whole blog, a category, an author."""
    return name == ALL or name.kind in ("category", "author")

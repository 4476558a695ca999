"""Lists of posts: where each is, how many pages it has, and which list is at an address."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import cached_property
from typing import Any

from mobbet.core.filing import trail as trail_of
from mobbet.core.keys import ALL, FRONT, ListName
from mobbet.publish.cards import Card, Cards
from mobbet.publish.snapshot import Snapshot
from mobbet.publish.values import Step

_NUMBERED = re.compile(r"(?P<base>/(?:.*/)?)page/(?P<number>[1-9]\d{0,6})/")
_MONTH = re.compile(r"/(\d{4})/(\d\d)/")
FeedPosts = tuple[tuple[Card, dict[str, Any], dict[int, str]], ...]
"""(card, text, paths of the posts it links to) of each."""


class Lists:
    """The lists over one snapshot."""

    def __init__(self, snapshot: Snapshot, cards: Cards) -> None:
        self._snapshot = snapshot
        self._cards = cards
        self._feed: tuple[str, FeedPosts] = ("", ())
        self._trails: dict[int, tuple[Step, ...]] = {}

    def path(self, name: ListName, number: int) -> str | None:
        """Where a page of a list is; None for a list without a page, and a number it does not reach."""
        step = self.step(name) if name != ALL else None
        if step is None or number > self.last(name):
            return None
        if self._snapshot.count(name) == 0 and not self.has_page(name):
            return None
        return f"{step.path}page/{number}/" if number else step.path

    def last(self, name: ListName) -> int:
        """The number of the newest of a list's numbered pages; 0 without any."""
        return full_pages(self._snapshot.count(name), self._snapshot.house.posts_on_page)

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
        return Step(self._snapshot.house.label, "/")

    def step(self, name: ListName) -> Step | None:
        """A list by its name and path; None for a category or a tag that is unknown, and for a list without pages of its own."""
        kind, which = name.kind, name.which
        if kind in ("all", "front"):
            return Step(self._snapshot.house.name, "/")
        if kind == "month":
            return Step(which, f"/{which.replace('-', '/')}/")
        if kind == "category":
            category = self._snapshot.categories.get(int(which))
            return Step(category.name, f"/{category.slug}/") if category else None
        if kind == "tag":
            tag = next(iter(self._snapshot.tags((int(which),))), None)
            return Step(tag.name, f"/tag/{tag.slug}/") if tag else None
        return None

    def numbered(self, path: str) -> tuple[str, int]:
        """(the address of a list, the number of the page) that a path spells; number 0 for the newest page."""
        found = _NUMBERED.fullmatch(path)
        return (found["base"], int(found["number"])) if found else (path, 0)

    def at(self, base: str) -> ListName | None:
        """The list whose newest page stands at an address, whoever may see it."""
        if base == "/":
            return FRONT
        month = _MONTH.fullmatch(base)
        if month:
            return ListName.of("month", f"{month[1]}-{month[2]}")
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

    def feed_posts(self, name: ListName, length: int) -> FeedPosts:
        """The newest posts of a list with their texts; read once for all formats of its feed."""
        if name != self._feed[0]:
            posts = self._snapshot.newest(name, length)
            cards = self._cards
            texts = tuple(
                (cards.in_lists(post), cards.body_in_lists(post), cards.links(post)) for post in posts
            )
            self._feed = (name, texts)
        return self._feed[1]


def full_pages(count: int, size: int) -> int:
    """How many numbered pages a list has beside its newest one; each is full and never changes its posts."""
    return -(-(count - size) // size) if count > size else 0


def data(steps: Iterable[Step | None]) -> list[list[str] | None]:
    """Steps as data, for a fingerprint."""
    return [[step.name, step.path] if step else None for step in steps]

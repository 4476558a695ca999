"""What the plan asks, and the values it answers with."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any, NamedTuple, Protocol

from mobbet.core.audience import EVERYONE, Reader
from mobbet.core.facts import CategoryPage, Comment, Home, House, Item, OutPost, Subject
from mobbet.publish.cards import Card


class Snapshot(Protocol):
    """The facts of one blog at one instant. `store.snapshot.SiteSnapshot` answers from the database."""

    instant: int
    house: House
    categories: dict[int, Subject]
    reader: Reader

    def post(self, post_id: int) -> OutPost | None: ...
    def body(self, post: OutPost) -> dict[str, Any]: ...
    def post_ids(self) -> Iterable[int]: ...
    def count(self, key: str) -> int: ...
    def has_any(self, key: str) -> bool: ...
    def rank(self, key: str, goes_out: int, post_id: int) -> int: ...
    def window(self, key: str, start: int, most: int) -> list[OutPost]: ...
    def newest(self, key: str, most: int) -> list[OutPost]: ...
    def older(self, goes_out: int, post_id: int) -> OutPost | None: ...
    def newer(self, goes_out: int, post_id: int) -> OutPost | None: ...
    def lists(self, start: str = "") -> list[str]: ...
    def tags(self, numbers: tuple[int, ...]) -> list[Subject]: ...
    def item(self, media_id: int) -> Item | None: ...
    def media_audiences(self, media_id: int) -> list[str]: ...
    def tag_numbers(self) -> list[int]: ...
    def category_page(self, number: int) -> CategoryPage: ...
    def addresses_of(self, kind: str, number: int) -> list[str]: ...
    def media_shown(self) -> Iterable[int]: ...
    def addresses_of_posts(self) -> dict[int, list[str]]: ...
    def addresses_away(self) -> list[str]: ...
    def home_of(self, path: str) -> Home | None: ...
    def leads_on_to(self, post_id: int) -> int | None: ...
    def led_on(self) -> list[int]: ...
    def leading_on_to(self, post_id: int) -> list[int]: ...
    def linking_to(self, post_id: int) -> Iterable[int]: ...
    def comments(self, post_id: int) -> list[Comment]: ...
    def series_name(self, series_id: int) -> str: ...
    def series_parts(self, series_id: int) -> list[OutPost]: ...


class Page(NamedTuple):
    """One page of the plan.

    `recipe` names what makes its bytes out of `context`; `reads` are the facts it depends on, as
    plain data. A page with `leads_to` is an address that leads to another.
    """

    key: str
    path: str
    recipe: str
    reads: Any
    context: Any
    audience: str = EVERYONE
    leads_to: str | None = None


class Step(NamedTuple):
    """A named link of a page: a category in a trail, a neighbour, a subject in a list."""

    name: str
    path: str


@dataclass(frozen=True)
class ListPage:
    """What a list page shows, newest post first. `number` is 0 on the newest page.

    `about` is the description of a category as a document, `picture` its picture, `feed` the path of its feeds
    without their ending; `bodies` and `links` are the whole texts of the posts by number, where lists show those.
    """

    title: str
    kind: str
    path: str
    posts: tuple[Card, ...]
    number: int
    older: str | None
    newer: str | None
    trail: tuple[Step, ...] = ()
    about: dict[str, Any] | None = None
    picture: Item | None = None
    feed: str = "/feed"
    bodies: dict[int, dict[str, Any]] = field(default_factory=dict)
    links: dict[int, dict[int, str]] = field(default_factory=dict)


@dataclass(frozen=True)
class FeedPage:
    """What a feed shows: its title, its path without ending, the page it belongs to, and posts with their texts, newest first."""

    title: str
    about: str
    path: str
    home: str
    posts: tuple[tuple[Card, dict[str, Any], dict[int, str]], ...]


@dataclass(frozen=True)
class PostPage:
    """What the page of a post shows. `body` reads its text; `links` are the paths of the posts it leads to that its readers may see; `may_comment` says
    that comments are open, to some at least."""

    card: Card
    body: Callable[[], dict[str, Any]]
    trail: tuple[Step, ...]
    tags: tuple[Step, ...]
    older: Step | None
    newer: Step | None
    links: dict[int, str] = field(default_factory=dict)
    series: SeriesBox | None = None
    comments: tuple[Comment, ...] = ()
    may_comment: bool = False


@dataclass(frozen=True)
class SeriesBox:
    """The series a post is part of: its name, the parts that are out, and which of them (from 1) this one is."""

    name: str
    number: int
    parts: tuple[Step, ...]


@dataclass(frozen=True)
class SubjectsPage:
    """Every category (with its depth in the tree) and every tag that has posts."""

    categories: tuple[tuple[int, Step], ...]
    tags: tuple[Step, ...]

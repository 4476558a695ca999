"""Pages, and what each kind of page shows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from mobbet.core.audience import EVERYONE
from mobbet.core.facts import Author, Comment, Item, SavedBlock
from mobbet.core.keys import PageKey
from mobbet.publish.cards import Card


class Page(NamedTuple):
    """One page of the plan.

    `recipe` names what makes its bytes out of `context`; `reads` are the facts it depends on, as
    plain data. A page with `leads_to` is an address that redirects there.
    """

    key: PageKey
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


class SectionSubject(NamedTuple):
    """A category in a section of the front page: how many posts its page lists, and its picture."""

    step: Step
    size: int
    picture: Item | None


class SectionAuthor(NamedTuple):
    """Who writes, in a section of the front page: their picture and their newest post."""

    author: Author
    portrait: Item | None
    newest: Step


@dataclass(frozen=True)
class ShownBlock:
    """A saved block with what it shows beside its own text: the paths of posts it leads to, the versions of its media, the values of its fill-ins."""

    block: SavedBlock
    links: dict[int, str]
    media: tuple[tuple[int, int], ...]
    fill: tuple[tuple[str, str], ...]
    has_media: bool

    @property
    def reads(self) -> list[Any]:
        """What it shows, as data for a fingerprint."""
        return [self.block.id, self.block.version, sorted(self.links.items()), self.media, self.fill]


@dataclass(frozen=True)
class FrontSection:
    """A section of the front page: its kind (`core/front.py`), its heading ('' for none), posts, the page that it leads to, categories, people, or a saved block."""

    kind: str
    heading: str
    cards: tuple[Card, ...] = ()
    more: Step | None = None
    subjects: tuple[SectionSubject, ...] = ()
    authors: tuple[SectionAuthor, ...] = ()
    block: ShownBlock | None = None


@dataclass(frozen=True)
class ListPage:
    """What a list page shows, newest post first. `is_newest` on its newest page.

    `about` is the description of a category as a document, `picture` its picture, `feed` the path of its feeds
    without their ending; `author` whose posts an author's page lists; `bodies` and `links` are the whole texts of the posts by number, where lists show those;
    `sections` those of the front page, where it has more than the newest posts.
    """

    title: str
    kind: str
    path: str
    posts: tuple[Card, ...]
    is_newest: bool
    older: str | None
    newer: str | None
    trail: tuple[Step, ...] = ()
    about: dict[str, Any] | None = None
    picture: Item | None = None
    feed: str = "/feed"
    author: Author | None = None
    bodies: dict[int, dict[str, Any]] = field(default_factory=dict)
    links: dict[int, dict[int, str]] = field(default_factory=dict)
    sections: tuple[FrontSection, ...] = ()


@dataclass(frozen=True)
class FeedPost:
    """A post in a feed: its card, its text, the paths of the posts that the text leads to, and the older posts on the same matter."""

    card: Card
    body: dict[str, Any]
    links: dict[int, str]
    older: tuple[Step, ...] = ()

    @property
    def cached_by(self) -> tuple[Any, ...]:
        """What its text in feeds follows from."""
        return (self.card.digest, tuple(sorted(self.links.items())), self.older)


@dataclass(frozen=True)
class FeedPage:
    """What a feed shows: its title, its path without ending, the page it belongs to, and posts with their texts, newest first."""

    title: str
    about: str
    path: str
    home: str
    posts: tuple[FeedPost, ...]


@dataclass(frozen=True)
class PostPage:
    """What the page of a post shows. `body` reads its text; `links` are the paths of the posts it leads to that its readers may see; `may_comment` says
    that comments are open, to some at least. The trail of a page beside posts are the pages that it stands below; `below` are those below it."""

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
    below: tuple[Step, ...] = ()
    author: Author | None = None
    portrait: Item | None = None
    """Who wrote it, where it stands on lists, and their picture."""
    promos: tuple[ShownBlock, ...] = ()
    """The saved blocks below it."""
    may_share: bool = True
    alike: tuple[Step, ...] = ()
    """Posts on the same matter."""
    home_address: str = ""
    """Where it is in the blog in which it lives; '' where that is this one."""
    own_style: str = ""
    """The path of its own style sheet; '' where it has the colours of the site."""
    top: Item | None = None
    """Its picture on top."""
    comment_count: int = 0
    """How many comments there are, answers left out; the first of them stand below the post."""


@dataclass(frozen=True)
class SeriesBox:
    """The series a post is part of: its name, the parts that are out, and which of them (from 1) this one is."""

    name: str
    number: int
    parts: tuple[Step, ...]


class Month(NamedTuple):
    """A month of the archive: how many posts went out in it, and the titles of those that are named, newest first."""

    step: Step
    size: int
    titles: tuple[Step, ...]


class Family(NamedTuple):
    """A category with how many posts its page lists, and the categories below it."""

    step: Step
    size: int
    below: tuple[Family, ...]


@dataclass(frozen=True)
class SubjectsPage:
    """Every category that has posts, as families, and every tag with how many posts it has."""

    families: tuple[Family, ...]
    tags: tuple[tuple[Step, int], ...]
    pictures: dict[str, Item] = field(default_factory=dict)
    """{path of a category: its picture}, where the owner wants them shown."""

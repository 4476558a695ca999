"""What the templates of the Filing screen show."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from mobbet.web.shell.contexts import Bar, Choice, FootprintWords


@dataclass(frozen=True)
class TreeRow:
    """A category in the tree: how deep, its counts, and whether it can be opened or is."""

    id: int
    name: str
    depth: int
    own: int
    whole: int
    to_come: int
    is_chosen: bool
    has_parts: bool
    is_open: bool
    parent: int | None
    is_catch_all: bool = False


@dataclass(frozen=True)
class MapBox:
    """A rectangle of the map: its category, its place in drawing units, its words, and how recent it is (0 nothing to 5 this month)."""

    id: int
    x: float
    y: float
    width: float
    height: float
    words: str
    note: str
    shade: int
    is_chosen: bool
    is_frame: bool
    name: str


@dataclass(frozen=True)
class FiledPost:
    """A post in a list of the Filing screen."""

    id: int
    title: str
    state: str
    filed: str
    tags: str = ""


@dataclass(frozen=True)
class Chosen:
    """The category that is looked at, in words and as what its forms hold."""

    id: int
    name: str
    path: str
    slug: str
    place: str
    parent: int | None
    description: str
    description_words: str
    picture: int | None
    picture_words: str
    shows_below: bool
    is_catch_all: bool
    public: str
    tags: list[str]
    has_parts: bool
    has_posts: bool


@dataclass(frozen=True)
class Tried:
    """A change that was tried: what it would do, and how it is made."""

    question: str
    footprint: FootprintWords
    action: str
    fields: list[tuple[str, str]]
    yes: str


@dataclass(frozen=True)
class ChangeMessage:
    """What a change came to, and the number by which it is undone (0 for none)."""

    words: str
    number: int = 0


@dataclass(frozen=True)
class FilingPosts:
    TEMPLATE: ClassVar = "filing_posts.html"
    posts: list[FiledPost]
    more: str
    heading: str
    blog_slug: str


@dataclass(frozen=True)
class PictureChoice:
    """A picture that can be chosen by sight: its number, its words, the address of a small copy."""

    id: int
    words: str
    small: str
    is_chosen: bool


@dataclass(frozen=True)
class Pictures:
    """Pictures of the library to choose from; `found` tells how many, in words."""

    choices: list[PictureChoice]
    found: str


@dataclass(frozen=True)
class FilingPictures:
    TEMPLATE: ClassVar = "filing_pictures.html"
    pictures: Pictures


@dataclass(frozen=True)
class FilingPage:
    TEMPLATE: ClassVar = "filing.html"
    bar: Bar
    can_keep: bool
    tabs: list[tuple[str, str, bool]]
    catch_all: str
    rule: str
    rule_numbers: tuple[int, int, str]
    needs_category: bool
    tree: list[TreeRow]
    total: int
    boxes: list[MapBox]
    narrow_boxes: list[MapBox]
    chosen: Chosen | None
    paths: list[str]
    pictures: Pictures | None
    posts: FilingPosts | None
    waiting: list[tuple[str, str]]
    tried: Tried | None = None
    told: ChangeMessage | None = None
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class TagRow:
    id: int
    name: str
    slug: str
    posts: int


@dataclass(frozen=True)
class RemedyRow:
    """What wants attention among the tags: a sentence, and the one step that mends it."""

    words: str
    tag: int
    into: int
    step: str


@dataclass(frozen=True)
class RemediesPart:
    """What wants attention among the tags, loaded after the page: near-doubles of very many tags take a second."""

    TEMPLATE: ClassVar = "filing_remedies.html"
    groups: list[tuple[str, list[RemedyRow]]]
    can_keep: bool
    blog_slug: str


@dataclass(frozen=True)
class TagsPage:
    TEMPLATE: ClassVar = "filing_tags.html"
    bar: Bar
    can_keep: bool
    tabs: list[tuple[str, str, bool]]
    rows: list[TagRow]
    total: int
    words: str
    more: str
    chosen: TagRow | None
    names: list[str]
    posts: FilingPosts | None
    tried: Tried | None = None
    told: ChangeMessage | None = None
    problem: str = ""


@dataclass(frozen=True)
class AddressLine:
    """An address in the table: its kind in words, where it leads, how often and when it was asked for last."""

    path: str
    kind: str
    leads_to: str
    hits: int
    last: str
    is_by_hand: bool
    short: str = ""
    short_hits: int = 0


@dataclass(frozen=True)
class MissedLine:
    path: str
    hits: int
    last: str
    likely: str
    likely_title: str


@dataclass(frozen=True)
class AddressesPage:
    TEMPLATE: ClassVar = "filing_addresses.html"
    bar: Bar
    can_keep: bool
    tabs: list[tuple[str, str, bool]]
    pattern: str
    example: str
    example_title: str
    tokens: list[tuple[str, str]]
    script: str
    scripts: list[Choice]
    rows: list[AddressLine]
    total: int
    words: str
    more: str
    missed: list[MissedLine]
    tried: Tried | None = None
    told: ChangeMessage | None = None
    problem: str = ""
    typed: dict[str, str] = field(default_factory=dict)
    refused: list[tuple[int, str]] = field(default_factory=list)


@dataclass(frozen=True)
class WorklistPage:
    """One post after the other: what it says, and the choices for it, each with a key."""

    TEMPLATE: ClassVar = "filing_worklist.html"
    bar: Bar
    tabs: list[tuple[str, str, bool]]
    kind: str
    heading: str
    left: int
    post: FiledPost | None
    beginning: str
    choices: list[Choice]
    all_choices: list[Choice]
    next: str
    told: ChangeMessage | None = None
    problem: str = ""


@dataclass(frozen=True)
class SeveralPage:
    TEMPLATE: ClassVar = "filing_several.html"
    bar: Bar
    posts: list[FiledPost]
    categories: list[Choice]
    typed: dict[str, list[str]]
    tags: str
    tried: Tried | None = None
    problem: str = ""


@dataclass(frozen=True)
class TriedFiling:
    """The footprint of filing a post, as one chooses."""

    TEMPLATE: ClassVar = "filing_tried.html"
    footprint: FootprintWords | None
    problem: str = ""

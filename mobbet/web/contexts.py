"""What each template shows. Every class names its template; a test holds the two against each other."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.store.blogs import Blog
from mobbet.store.people import Person


@dataclass(frozen=True)
class Bar:
    """The bar on top: whose it is, the blog one is in (None outside of any), and the screen one is on."""

    person: Person
    blogs: list[Blog]
    blog: Blog | None
    screen: str
    is_owner: bool = False


@dataclass(frozen=True)
class Choice:
    """One thing to choose: the value that is sent, its words, and whether it is chosen now."""

    value: str
    words: str
    is_chosen: bool = False
    hint: str = ""


@dataclass(frozen=True)
class FootprintLine:
    """One line of a footprint: what changes, and 'added', 'altered' or 'removed'."""

    words: str
    kind: str


@dataclass(frozen=True)
class FootprintWords:
    """A footprint in words: how many pages, line by line, and a sentence about addresses."""

    count: int
    lines: list[FootprintLine]
    addresses: str = ""


@dataclass(frozen=True)
class FirstRunPage:
    TEMPLATE: ClassVar = "first_run.html"
    values: dict[str, str]
    zones: tuple[str, ...]
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class SignInPage:
    TEMPLATE: ClassVar = "sign_in.html"
    email: str
    then: str
    demo_account: tuple[str, str] | None
    problem: str = ""


@dataclass(frozen=True)
class ErrorPage:
    TEMPLATE: ClassVar = "error.html"
    heading: str
    sentence: str
    back: str


@dataclass(frozen=True)
class Row:
    """One post in a list of the desk, in words. `mark` is '' or 'bad' or 'good'."""

    id: int
    title: str
    author: str
    categories: str
    state: str
    mark: str
    note: str


@dataclass(frozen=True)
class Group:
    heading: str
    rows: list[Row]
    more: str = ""


@dataclass(frozen=True)
class DeskRows:
    TEMPLATE: ClassVar = "desk_rows.html"
    groups: list[Group]
    query: str
    is_search: bool
    is_empty: bool
    blog: Blog


@dataclass(frozen=True)
class MoreRows:
    TEMPLATE: ClassVar = "desk_more.html"
    rows: list[Row]
    more: str


@dataclass(frozen=True)
class StripBlock:
    """One post on the strip: its place in drawing units, its kind, and where it leads."""

    x: float
    kind: str
    title: str
    href: str


@dataclass(frozen=True)
class StripGap:
    x1: float
    x2: float
    words: str
    is_quiet: bool


@dataclass(frozen=True)
class Strip:
    """Twelve weeks as a drawing of 1232 by 118 units."""

    weeks: list[tuple[float, str]]
    today: float
    blocks: list[StripBlock]
    gaps: list[StripGap]
    summary: str


@dataclass(frozen=True)
class DeskPage:
    TEMPLATE: ClassVar = "desk.html"
    bar: Bar
    headline: str
    subline: str
    strip: Strip | None
    total: str
    rows: DeskRows
    templates: list[tuple[int, str]]


@dataclass(frozen=True)
class Setting:
    """One changeable word of the docket: its sheet, its words, what is missing, and its accessible name."""

    sheet: str
    words: str
    name: str
    is_missing: bool = False


@dataclass(frozen=True)
class Measure:
    """A text as results show it: what is left of it, its width and the most that is shown in pixels, and that in words."""

    shown: str
    pixels: int
    most: int
    words: str

    @property
    def is_cut(self) -> bool:
        return self.pixels > self.most


@dataclass(frozen=True)
class SearchSample:
    """A search result as it would stand there, and the proposals for what was left empty."""

    TEMPLATE: ClassVar = "search_sample.html"
    title: Measure
    description: Measure
    address: str
    usual_title: str
    proposed: str
    own_title: str
    own_description: str


@dataclass(frozen=True)
class Check:
    """What is to be said of something while it is typed: sentences, and choices to take instead."""

    TEMPLATE: ClassVar = "check.html"
    good: str = ""
    bad: str = ""
    notes: list[str] = field(default_factory=list)
    choices: list[tuple[str, list[Choice]]] = field(default_factory=list)


@dataclass(frozen=True)
class WherePart:
    """Where readers find a post, and why it is not elsewhere: (whether it is there, sentence, public address, sheet that mends it)."""

    TEMPLATE: ClassVar = "where.html"
    places: list[tuple[bool, str, str, str]]


@dataclass(frozen=True)
class MonthDay:
    """A day of a month: its date, its number, and the titles of what goes out on it."""

    day: str
    number: str
    is_inside: bool
    is_today: bool
    is_chosen: bool
    titles: list[str]
    is_past: bool


@dataclass(frozen=True)
class MonthPart:
    """A month as weeks of days, and where its neighbours are."""

    TEMPLATE: ClassVar = "month.html"
    name: str
    weeks: list[list[MonthDay]]
    before: str
    after: str


@dataclass(frozen=True)
class CoastMap:
    """A piece of the coast to choose a point on: degrees at its edges, the drawing, and where one can go from it."""

    TEMPLATE: ClassVar = "coast.html"
    west: float
    east: float
    south: float
    north: float
    land: str
    point: tuple[float, float] | None
    moves: list[tuple[str, str]]
    middle: str


@dataclass(frozen=True)
class DocketFootprint:
    """What the main action of a docket would change."""

    TEMPLATE: ClassVar = "docket_footprint.html"
    footprint: FootprintWords | None
    problem: str = ""


@dataclass(frozen=True)
class Shown:
    """How a post is shown: the words of the docket's sentences, and what their sheets offer."""

    lead: Setting
    lead_why: str
    lead_at: int
    blocks: list[Choice]
    pictures: list[Choice]
    teaser: Setting
    teaser_html: str
    teaser_count: str
    has_teaser_line: bool
    read_on: str
    heading: Setting
    heading_parts: list[Choice]
    has_heading: bool
    front: Setting
    fronts: list[Choice]
    in_menu: bool
    menu: Setting
    search_title: Setting
    sample: SearchSample
    card: str
    card_alt: str
    place: Setting
    place_name: str
    place_point: str
    has_map: bool
    short: str
    short_words: str


@dataclass(frozen=True)
class Actions:
    """The actions of the base line, and what the last one came to."""

    TEMPLATE: ClassVar = "actions.html"
    post_id: int
    main_action: str
    can_place: bool
    message: str = ""
    message_link: str = ""
    problem: str = ""


@dataclass(frozen=True)
class Docket:
    """The docket of a post, and the actions that follow from it."""

    TEMPLATE: ClassVar = "docket.html"
    post_id: int
    state: str
    settings: dict[str, Setting]
    category_words: list[Setting]
    tag_words: list[Setting]
    path_start: str
    goes_out_verb: str
    state_choices: list[Choice]
    authors: list[Choice]
    visibilities: list[Choice]
    categories: list[tuple[int, Choice]]
    main_category: str
    tags: str
    slug: str
    proposed_slug: str
    excerpt: str
    shown: Shown
    where: Setting
    rule: str
    falls_under: str
    goes_out_wall: str
    comes_down_wall: str
    zone_words: str
    can_clear_time: bool
    changes: list[str]
    public: str
    series: str
    series_place: str
    known_series: list[str]
    actions: Actions
    problem: str = ""
    problem_sheet: str = ""


@dataclass(frozen=True)
class WritePage:
    TEMPLATE: ClassVar = "write.html"
    bar: Bar
    docket: Docket
    title: str
    subtitle: str
    words: str
    revision: int
    room: dict[str, object]
    limits: str
    licences: list[Choice]


@dataclass(frozen=True)
class PreviewPage:
    TEMPLATE: ClassVar = "preview.html"
    bar: Bar
    post_id: int
    title: str
    sentence: str
    frame: str
    main_action: str
    can_place: bool


@dataclass(frozen=True)
class AccountPage:
    TEMPLATE: ClassVar = "account.html"
    bar: Bar
    message: str = ""
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class SitePage:
    TEMPLATE: ClassVar = "site.html"
    bar: Bar
    values: dict[str, str]
    zones: tuple[str, ...]
    public: str
    pages: str
    message: str = ""
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class RevisionLine:
    """One revision in the list, in words."""

    number: int
    saved: str
    person: str
    change: str
    name: str
    is_placed: bool
    is_newest: bool


@dataclass(frozen=True)
class ComparedLine:
    """One row of a comparison: its kind, and both sides as HTML ('' for none)."""

    kind: str
    before: str
    now: str


@dataclass(frozen=True)
class RevisionsPage:
    TEMPLATE: ClassVar = "revisions.html"
    bar: Bar
    post_id: int
    title: str
    lines: list[RevisionLine]
    one: int
    other: int
    sentence: str
    rows: list[ComparedLine]
    message: str = ""


@dataclass(frozen=True)
class BringInPage:
    TEMPLATE: ClassVar = "bring_in.html"
    bar: Bar


@dataclass(frozen=True)
class KeptLine:
    """Kept blocks in the list: their number, name and where they show."""

    number: int
    name: str
    shown: str


@dataclass(frozen=True)
class KeptPage:
    TEMPLATE: ClassVar = "kept.html"
    bar: Bar
    lines: list[KeptLine]
    number: int = 0
    name: str = ""
    source: str = ""
    posts: tuple[tuple[str, str], ...] = ()
    pages: tuple[tuple[str, str], ...] | None = None
    message: str = ""
    problem: str = ""


@dataclass(frozen=True)
class HouseStylePage:
    TEMPLATE: ClassVar = "house_style.html"
    bar: Bar
    facts: str
    link_rules: str
    message: str = ""
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class FilterWord:
    """One changeable word of a filter's sentence, with the words before it."""

    before: str
    name: str
    label: str
    choices: list[Choice]


@dataclass(frozen=True)
class ShelfLine:
    """One item on the sheet of thumbnails, in words. `thumb` is an address ('' for none), `progress` in percent."""

    id: int
    name: str
    title: str
    kind: str
    facts: str
    uses: str
    problem: str
    progress: int | None
    thumb: str
    alt: str
    caption: str
    credit: str
    wave: tuple[int, ...] = ()


@dataclass(frozen=True)
class LibraryRows:
    TEMPLATE: ClassVar = "library_rows.html"
    lines: list[ShelfLine]
    total: int
    more: str
    start: int
    is_all: bool
    is_aside: bool


@dataclass(frozen=True)
class LibraryPage:
    TEMPLATE: ClassVar = "library.html"
    bar: Bar
    words: str
    sentence: list[FilterWord]
    rows: LibraryRows
    room: str
    limits: str
    limits_data: dict[str, int]
    licences: list[Choice]


@dataclass(frozen=True)
class DescribePage:
    TEMPLATE: ClassVar = "describe.html"
    bar: Bar
    lines: list[ShelfLine]


@dataclass(frozen=True)
class ReachShown:
    """What replacing an item would change."""

    other: int
    posts: list[tuple[str, str]]
    placed: int
    kept: tuple[str, ...]
    pages: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class ItemPage:
    TEMPLATE: ClassVar = "item.html"
    bar: Bar
    line: ShelfLine
    values: dict[str, str]
    facts: list[tuple[str, str]]
    licences: list[Choice]
    uses: list[tuple[str, str, str]]
    kept: list[tuple[int, str]]
    state: str
    is_aside: bool
    is_picture: bool
    has_camera: bool
    editing: dict[str, object]
    frames: list[tuple[float, str, bool]]
    captions: str
    others: list[tuple[int, str]]
    message: str = ""
    problem: str = ""
    problem_field: str = ""
    typed: dict[str, str] = field(default_factory=dict)
    reach: ReachShown | None = None


@dataclass(frozen=True)
class StandInFrame:
    TEMPLATE: ClassVar = "stand_in_frame.html"
    title: str
    by: str
    seconds: int
    host: str


from mobbet.web.contexts_filing import (  # noqa: E402 - its classes are made of those above
    AddressesPage,
    FilingPage,
    FilingPosts,
    RemediesPart,
    SeveralPage,
    TagsPage,
    TriedFiling,
    WorklistPage,
)

PAGES: tuple[type, ...] = (
    FirstRunPage, SignInPage, ErrorPage, DeskRows, MoreRows, DeskPage, Actions, Docket, WritePage, PreviewPage, AccountPage, SitePage,
    SearchSample, Check, WherePart, MonthPart, CoastMap, DocketFootprint, FilingPage, FilingPosts, RemediesPart, TagsPage, AddressesPage, WorklistPage, SeveralPage, TriedFiling, RevisionsPage, BringInPage, KeptPage, HouseStylePage, LibraryRows, LibraryPage, DescribePage, ItemPage, StandInFrame,
)  # fmt: skip

"""The writing room: the docket, its checks, and the base line."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.actions.alike import Shown as Alike
from mobbet.web.shell.contexts import Bar, Choice, FootprintWords


@dataclass(frozen=True)
class Setting:
    """One changeable word of the docket: its sheet, its words, what pressing it does, and whether something is missing."""

    sheet: str
    words: str
    does: str
    is_missing: bool = False

    @property
    def name(self) -> str:
        """Its accessible name, in which the words that are seen stand (WCAG 2.5.3)."""
        return f"{self.does}: {self.words}"


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
    """Where a reader finds a post, and why it is not elsewhere: (whether it is there, sentence, public address, sheet that mends it).

    `asked` are the readers one can ask for, with the address that answers.
    """

    TEMPLATE: ClassVar = "where.html"
    asked: list[Choice]
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
    is_stop: bool


@dataclass(frozen=True)
class AlikePart:
    """The posts like one, with the reasons, and whether none are wanted."""

    TEMPLATE: ClassVar = "alike.html"
    post_id: int
    is_none: bool
    rows: list[Alike]
    titles: list[str]


@dataclass(frozen=True)
class NoticesPart:
    """How a post is announced: (account, what became of it, the text, how many letters of how many) of each account."""

    TEMPLATE: ClassVar = "notices.html"
    rows: list[tuple[str, str, str, str]]


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
    when: str = ""
    readers: str = ""
    full: str = ""


@dataclass(frozen=True)
class MarkShown:
    """A mark in words: its number in reading order, its passage, whether it stands in the text, (number, words) of its mends,
    (words, sheet) of the docket that settles it, and what its check is about.
    """

    number: int
    severity: str
    message: str
    text: str
    is_in_text: bool
    mends: list[tuple[int, str]]
    sheets: list[tuple[str, str]]
    name: str
    sentences: str
    example: str
    sign: str


@dataclass(frozen=True)
class Standing:
    """An ignored mark, and the reason."""

    message: str
    text: str
    reason: str
    person: str
    sign: str


@dataclass(frozen=True)
class ProofPart:
    """The marks of a post on its docket, the gravest first, how many more there are, how many must be settled; those that stand;
    (address, title) of posts that should link here; and why it once went out in spite of what must be settled.
    """

    TEMPLATE: ClassVar = "proof_list.html"
    marks: list[MarkShown]
    more: int
    count: int
    must: int
    is_keeper: bool
    stand: list[Standing]
    should_link: list[tuple[str, str]]
    despite: str


@dataclass(frozen=True)
class FootprintRow:
    """One address of a footprint in full: 'added', 'altered' or 'removed', where it leads, its old path, where the post stands on it."""

    what: str
    path: str
    leads_to: str
    was: str
    standing: str


@dataclass(frozen=True)
class FootprintPage:
    """The footprint of a post's main action in full."""

    TEMPLATE: ClassVar = "footprint.html"
    bar: Bar
    post_id: int
    title: str
    when: str
    rows: list[FootprintRow]
    problem: str = ""


@dataclass(frozen=True)
class Out:
    """What stands above the docket right after publishing: the address, a QR code of it (SVG), what it came to, and the undo."""

    address: str
    link: str
    drawn: str
    footprint: FootprintWords
    verb: str
    was_out: bool


@dataclass(frozen=True)
class PlacingShown:
    """When a post goes out and comes down, and who may read it: the words of the docket, and what their sheets offer.

    `next_free` is the next free slot in words, `no_slot` why there is none; `update` says when changes of what is out go out.
    """

    verb: str
    goes_out_wall: str
    comes_down_wall: str
    zone_words: str
    can_clear_time: bool
    next_free: str
    no_slot: str
    can_queue: bool
    can_publish_now: bool
    queue_words: str
    update: Setting | None
    update_wall: str
    waiting_update: str
    leads_to: Setting | None
    made_password: str
    leads_to_title: str
    titles: list[str]
    visibilities: list[Choice]
    listed: list[Choice]
    has_password: bool
    is_behind_password: bool
    is_keeper: bool
    may_place: bool
    """Whether the person changes what readers get of the post, without asking."""


@dataclass(frozen=True)
class LetterSetting:
    """The letter about a post: the word of the docket, the verb before it, its choices, subject and first line, and what became of it."""

    setting: Setting
    verb: str
    choices: list[Choice]
    subject: str
    line: str
    told: str


@dataclass(frozen=True)
class ShownPart:
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
    own_look: Setting
    sharing: Setting | None
    is_shared: bool
    announce: Setting | None
    """Whether it is announced; None where the blog has no account, and of a page."""
    is_announced: bool
    letter: LetterSetting | None
    """What goes to subscribers; None where there are none, and of a page."""
    alike: Setting | None
    """Which posts like it stand below it; None of a page."""
    own_paper: str
    own_accent: str
    """Its background and its accent as `#rrggbb`; '' for those of the site."""
    site_colours: tuple[str, str]
    own_pictures: list[Choice]
    menu: Setting
    menu_words: str
    in_menu: bool
    """Whether the menu leads to it, and under which words."""
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
    place: str
    """Where the main action goes: where the post is placed, or where somebody's word is asked for."""
    can_place: bool
    message: str = ""
    message_link: str = ""
    problem: str = ""
    undo: int = 0
    """The number of the change that a button undoes; 0 for none."""
    can_share: bool = False
    """Whether reading copies can be made from here."""


@dataclass(frozen=True)
class AlsoIn:
    """Another blog in which the post stands: its name and address on this server, where the post is there ('' while it is not out), the categories there with the one
    it is filed in, and whether it has an earlier text."""

    name: str
    slug: str
    link: str
    categories: list[Choice]
    is_behind: bool


@dataclass(frozen=True)
class PrintedNote:
    """A note with its answers, (who, when, words) of each."""

    who: str
    when: str
    quote: str
    is_gone: bool
    said: str
    proposal: str | None
    state: str
    answers: list[tuple[str, str, str]]


@dataclass(frozen=True)
class NotesPage:
    TEMPLATE: ClassVar = "notes.html"
    bar: Bar
    post_id: int
    title: str
    notes: list[PrintedNote]


@dataclass(frozen=True)
class DecisionShown:
    """Whose word the post needs, and what was said: the words before the changeable ones, the remark that goes with it, what the sheet offers."""

    before: str
    word: Setting
    remark: str
    decides: bool
    """Whether the person says so, rather than asks."""
    is_asked: bool
    colleagues: list[Choice]
    outlasts: list[Choice]
    revision: int
    since: str
    """Where what changed since their last word stands side by side; '' where nothing did."""


@dataclass(frozen=True)
class CopyShown:
    """A reading copy that is open: what it shows, until when, what it lets people do, its link, and (who, how far) of its readers."""

    number: int
    which: str
    until: str
    lets: str
    has_word: bool
    address: str
    readers: list[tuple[str, str]]


@dataclass(frozen=True)
class SeenShown:
    """Who has seen a draft: by reading copies, and (who, where) in the writing room; and what a copy can let people do."""

    copies: list[CopyShown]
    here: list[tuple[str, str]]
    lets: list[Choice]


@dataclass(frozen=True)
class DocketPart:
    """The docket of a post, and the actions that follow from it."""

    TEMPLATE: ClassVar = "docket.html"
    post_id: int
    state: str
    language: str
    settings: dict[str, Setting]
    category_words: list[Setting]
    tag_words: list[Setting]
    path_start: str
    address: str
    state_choices: list[Choice]
    authors: list[Choice]
    languages: list[Choice]
    blog: str
    has_comments: bool
    comments_so_far: str
    going: PlacingShown
    decision: DecisionShown | None
    seen: SeenShown | None
    may_give: bool
    """Whether the person may make somebody else its author."""
    wanted_by: str
    wanted_words: str
    """By which day its author should have written it, and from whom they have it; '' for a post that was not given."""
    categories: list[tuple[int, Choice]]
    main_category: str
    tags: str
    slug: str
    proposed_slug: str
    excerpt: str
    shown: ShownPart
    where: Setting
    rule: str
    falls_under: str
    takes_one: bool
    changes: list[str]
    public: str
    series: str
    series_place: str
    known_series: list[str]
    also_in: list[AlsoIn]
    other_blogs: list[Choice]
    """The blogs in which it can stand as well."""
    is_page: bool
    owns_house: bool
    """Whether the person may change the menu."""
    kinds: list[Choice]
    pages: list[Choice]
    """The pages that a page may stand below, with their paths."""
    actions: Actions
    problem: str = ""
    problem_sheet: str = ""
    out: Out | None = None
    with_sheets: bool = True
    """Whether the sheets come with it; the room fetches them before one is first opened."""


@dataclass(frozen=True)
class WritePage:
    TEMPLATE: ClassVar = "write.html"
    bar: Bar
    docket: DocketPart
    open_notes: int
    title: str
    subtitle: str
    words: str
    revision: int
    room: dict[str, object]
    limits: str
    licences: list[Choice]
    sheet_style: str
    """The address of the letters of the blog's look; '' where it has the usual ones."""
    first_picture: str
    """The address of the picture that shows when the room opens; '' where none does."""

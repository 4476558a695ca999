"""Page contexts that are common to all screens. A class with a TEMPLATE names its template."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import ClassVar

from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.keys import Keys, keys_of


@dataclass(frozen=True)
class Bar:
    """The bar on top: whose it is, the blog one is in (None outside of any), and the screen one is on."""

    person: Person
    blogs: list[Blog]
    blog: Blog | None
    screen: str
    is_owner: bool = False
    is_keeper: bool = False
    keeps_readers: bool = False
    event: int = 0
    """The number of the blog's last change, as of when the page was made."""

    @property
    def keys(self) -> Keys:
        """The keys of the screen."""
        return keys_of(self.screen, json.loads(self.person.own_keys))

    @property
    def find_keys(self) -> str:
        """The keys that lead to the field for finding."""
        return json.loads(self.person.own_keys).get("Alt+J", "Alt+J")


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
    languages: list[Choice]
    has_word: bool
    """Whether the word of the terminal came with the address."""
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
class JoinPage:
    TEMPLATE: ClassVar = "join.html"
    token: str
    email: str
    by: str
    roles: list[tuple[str, str, str]]
    """(blog, role, what the role is there for)."""
    is_me: bool
    has_account: bool
    signed_in_as: str
    """The address of somebody else who is signed in; '' for nobody."""
    name: str
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class ErrorPage:
    TEMPLATE: ClassVar = "error.html"
    heading: str
    sentence: str
    back: str


@dataclass(frozen=True)
class Portrait:
    """A blog of the person, and the pictures of its library that they may be shown by there."""

    value: str
    words: str
    choices: list[Choice]


@dataclass(frozen=True)
class AccountPage:
    TEMPLATE: ClassVar = "account.html"
    bar: Bar
    learned: list[str]
    themes: list[Choice]
    web_address: str
    profile: dict[str, str]
    portraits: list[Portrait]
    dates: list[Choice]
    waits_on: list[str]
    """The blogs where an editor's word on the profile is missing."""
    mine: list[Choice]
    """The blogs on which the person works, which they may leave."""
    new_email: str = ""
    message: str = ""
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class KeyLine:
    """What has a key: Mobbet's own, the one that is preferred ('' for Mobbet's own), and what is wrong with it."""

    usual: str
    words: str
    own: str
    problem: str = ""


@dataclass(frozen=True)
class OwnKeysPage:
    TEMPLATE: ClassVar = "own_keys.html"
    bar: Bar
    lines: list[KeyLine]
    told: str = ""


@dataclass(frozen=True)
class NewBlogPage:
    TEMPLATE: ClassVar = "new_blog.html"
    bar: Bar
    values: dict[str, str]
    zones: tuple[str, ...]
    languages: list[Choice]
    models: list[Choice]
    parts: list[Choice]
    aside: list[Choice]
    """The blogs that are set aside, and until when they are kept."""
    problem: str = ""
    problem_field: str = ""


@dataclass(frozen=True)
class NewBlogMadePage:
    TEMPLATE: ClassVar = "new_blog_made.html"
    bar: Bar
    notes: list[str]


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
    history: list[tuple[str, str]]
    """(when, what happened) with the post, the newest first."""
    message: str = ""


@dataclass(frozen=True)
class BringInPage:
    TEMPLATE: ClassVar = "bring_in.html"
    bar: Bar


@dataclass(frozen=True)
class KeptLine:
    """Saved blocks in the list: their number, name and where they show."""

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
    text: str = ""
    """The blocks as HTML, for those who may not change them."""
    room: dict[str, object] | None = None
    """What the writing surface needs to edit them."""
    sheet_style: str = ""
    limits: str = ""
    licences: tuple[Choice, ...] = ()
    posts: tuple[tuple[str, str], ...] = ()
    elsewhere: str = ""
    """Where it stands outside of posts, in words."""
    footprint: FootprintWords | None = None
    message: str = ""
    problem: str = ""
    may_edit: bool = True


@dataclass(frozen=True)
class StandInFrame:
    TEMPLATE: ClassVar = "stand_in_frame.html"
    title: str
    by: str
    seconds: int
    host: str

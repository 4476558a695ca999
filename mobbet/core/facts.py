"""The facts a public site is made of, as values. Stores answer with these; the plan reads them."""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from mobbet.core.docket import ShownLines
from mobbet.core.front import USUAL, Sections
from mobbet.core.keys import ALL, FRONT, TOP, ListName, PageKey
from mobbet.core.media.kinds import ENDING

if TYPE_CHECKING:
    from mobbet.core.look.look import Look
    from mobbet.core.menu import MenuLink
    from mobbet.core.promos import Promo


@dataclass(frozen=True)
class House:
    """What stands on every page of a blog. `home` is the front page's public address, ending in '/'.

    `facts` are (name, value) pairs for fill-ins, `link_rules` (domain, rule) pairs, `menu` and `foot` the entries that lead somewhere,
    `menu_open` how many of the menu stand open on a phone (0 for all), `foot_line` the line of the foot, `licence` that of the texts
    (`core/media/licences.py`), `made_by` whom the blog is by, `icon` (item, path, MIME type) of the picture that is its icon, `front_door` the page that stands at the front (0 for the newest posts). `label` is the owner's name for the blog's section; `look_json` is the look as JSON; `comments` who
    may write them (`core/comments.WHO`), `frame_hosts` whose frames posts may show. `sections` are those of the front page, `foot_categories` (number, name,
    path) of each category that the foot names, `foot_counts` whether with how many posts, `subject_pictures` whether the page of all subjects shows pictures;
    `block_media` the items of the library in saved blocks that stand outside of posts. `promos` are the rules of which the time is now, for blocks
    below posts, of which `promos_most` stand below one.
    """

    name: str
    tagline: str
    zone: str
    language: str
    home: str
    look_json: str
    posts_on_page: int
    facts: tuple[tuple[str, str], ...] = ()
    link_rules: tuple[tuple[str, str], ...] = ()
    label: str = "Posts"
    read_on: str = "Read on"
    full_in_lists: bool = False
    categories_in_lists: bool = True
    menu: tuple[MenuLink, ...] = ()
    foot: tuple[MenuLink, ...] = ()
    menu_open: int = 0
    foot_line: str = ""
    licence: str = ""
    front_door: int = 0
    made_by: str = ""
    sharing: tuple[str, ...] = ()
    share_links: tuple[tuple[str, str], ...] = ()
    """The ways in which readers may share a post, and the owner's own share addresses (`core/sharing.py`)."""
    server: str = ""
    """Where this server answers readers' forms; '' for beside the pages."""
    me: tuple[str, ...] = ()
    """The addresses of the blog's own accounts elsewhere (`rel="me"`)."""
    hub: str = ""
    counts_reads: bool = False
    """Whether copies of pages that stand elsewhere ask this server to count that they are read."""
    """The hub that is told of new posts in feeds (WebSub); '' for none."""
    takes_mentions: bool = False
    """Whether pages of other sites that link here are taken (Webmention)."""
    takes_subscribers: bool = False
    """Whether readers may subscribe to letters."""
    icon: tuple[int, str, str] | None = None
    comments: str = ""
    frame_hosts: tuple[str, ...] = ()
    sections: Sections = USUAL
    foot_categories: tuple[tuple[int, str, str], ...] = ()
    foot_counts: bool = False
    subject_pictures: bool = False
    block_media: tuple[int, ...] = ()
    promos: tuple[Promo, ...] = ()
    promos_most: int = 1

    @property
    def front_sections(self) -> Sections:
        """The sections of the front page; none where there are only the newest posts, or a page is the front door."""
        return () if self.front_door or self.sections == USUAL else self.sections

    @property
    def look(self) -> Look:
        """How the site looks."""
        return _look(self.look_json)

    @property
    def newest_path(self) -> str:
        """Where the newest posts stand: at the front, or beside the page that is the front door."""
        return newest_path(self.front_door)

    @property
    def letters(self) -> tuple[str, ...]:
        """The families of letters that pages load."""
        return (self.look.letters.text, self.look.letters.plain)

    @property
    def below_posts(self) -> tuple[str, ...]:
        """What comes below a post, in order."""
        return tuple(self.look.post.below.split("-"))

    @property
    def names_alike(self) -> bool:
        """Whether posts name others on the same matter."""
        return "alike" in self.below_posts

    @property
    def pictures(self) -> tuple[int, ...]:
        """The items of the library that the look shows, the icon, and those in saved blocks outside of posts."""
        return (*self.look.pictures, *([self.icon[0]] if self.icon else []), *self.block_media)

    @property
    def front_shows(self) -> str:
        """How lists show posts."""
        return self.look.front.shows


def newest_path(front_door: int) -> str:
    """Where the newest posts stand for a blog with, or without (0), a page as its front door."""
    return "/posts/" if front_door else "/"


@lru_cache(maxsize=64)
def _look(text: str) -> Look:
    from mobbet.core.look.look import read_look  # with Pydantic, which most commands do without

    return read_look(json.loads(text))


@dataclass(frozen=True)
class Subject:
    """A category or a tag: its words, its slug, and the category above it.

    `shows_below` says whether a category's page shows the posts of those below it.
    """

    id: int
    name: str
    slug: str
    parent_id: int | None = None
    shows_below: bool = True


@dataclass(frozen=True)
class OutPost(ShownLines):
    """A post as readers get it at one instant. Categories and tags are numbers, the main category first.

    `goes_out` orders it in lists; `updated` is when the text that is shown now came out. `links` are the
    posts its text leads to, `kept` the standing copies it shows, each with its version; `words` is how many the text itself has, 0 where nobody counted.
    """

    id: int
    revision: int
    path: str
    audience: str
    title: str
    subtitle: str
    author: str
    zone: str
    goes_out: int
    updated: int
    categories: tuple[int, ...]
    tags: tuple[int, ...]
    media: tuple[int, ...]
    links: tuple[int, ...] = ()
    kept: tuple[tuple[int, int], ...] = ()
    words: int = 0
    author_address: str = ""
    author_id: int = 0
    home_post: int | None = None
    """The post of another blog in which it lives."""


@dataclass(frozen=True)
class Author:
    """Who writes: the name as shown, the last part of their page's address, a line, a text, links, and a picture of the blog's library."""

    id: int
    name: str
    slug: str
    line: str = ""
    text: str = ""
    links: tuple[str, ...] = ()
    picture: int | None = None

    @property
    def path(self) -> str:
        return f"/by/{self.slug}/"


@dataclass(frozen=True)
class SavedBlock:
    """A saved block that stands outside of posts: its number, its version, and its blocks as a document."""

    id: int
    version: int
    document: dict[str, Any]


@dataclass(frozen=True)
class Titled:
    """What a list of titles shows of a post that is out, and when it went out."""

    title: str
    path: str
    goes_out: int
    zone: str


@dataclass(frozen=True)
class Comment:
    """A comment as readers see it, with what was answered to it; `is_ours` is true of those who work on the blog.

    Of a mention on another site, `source` is the page that mentions, and `address` that of whoever wrote it.
    """

    id: int
    name: str
    text: str
    made_at: int
    is_ours: int
    address: str = ""
    source: str = ""
    answers: tuple[Comment, ...] = ()


@dataclass(frozen=True)
class AddressOwner:
    """What an address stands for: a post, a category, a tag, or another address (`target`)."""

    kind: str
    number: int
    target: str = ""


@dataclass(frozen=True)
class CategoryPage:
    """What a category's own page shows above its posts: its description as a document, and a picture of the library."""

    description: str = ""
    picture: int | None = None


ORIGINAL = "file"
"""The use of a file that is offered as somebody brought it in: a download, never shown."""


@dataclass(frozen=True)
class PictureFile:
    """One file made of an item for readers: its size in pixels (0 where it has none), MIME type, content hash and use.

    `use` is 'whole' for a picture as it is, the name of a cut, or 'sound', 'video', 'captions', 'wave', 'file'.
    """

    media_id: int
    width: int
    height: int
    type: str
    hash: str
    use: str = "whole"

    @property
    def path(self) -> str:
        """Its address below the blog's, by content, so that it can be kept for ever."""
        parts = (
            self.hash[:24],
            str(self.media_id),
            "" if self.use == "whole" else self.use,
            str(self.width or ""),
        )
        return f"/media/{'-'.join(part for part in parts if part)}.{ENDING[self.type]}"

    @property
    def key(self) -> PageKey:
        """Its key in the plan."""
        return PageKey.of("media", self.media_id, self.use, self.type, self.width)


def item_at(path: str) -> int | None:
    """The number of the item of which a file may have this address; None where none can."""
    match = re.fullmatch(r"/media/[0-9a-f]{24}-(\d{1,18})(?:-\w+)*\.\w+", path, re.ASCII)
    return int(match[1]) if match else None


@dataclass(frozen=True)
class Item:
    """What pages may show of an item of the library: nothing of where and when it was taken is here.

    Sizes are in pixels, `seconds` the length of sound and video; `colour` and `tiny` are what shows until
    a picture has loaded; `version` grows with everything else.
    """

    id: int
    kind: str
    name: str
    type: str
    width: int
    height: int
    bytes: int
    seconds: float
    colour: str
    tiny: tuple[str, ...]
    transcript: str
    version: int
    files: tuple[PictureFile, ...]

    def of(self, use: str, type: str = "") -> tuple[PictureFile, ...]:
        """The files for a use, by width; of one type, where one is named."""
        found = (file for file in self.files if file.use == use and (not type or file.type == type))
        return tuple(sorted(found, key=lambda file: file.width))


def list_keys(
    category_lists: tuple[ListName, ...], tags: tuple[int, ...], month: str, front: str = "", author: int = 0
) -> tuple[ListName, ...]:
    """The lists on which a post stands: the blog's, its front page's, its categories' (`core.filing.category_lists`), its tags', its month's and its
    author's (0 for none)."""
    return (
        ALL,
        *(() if front == "off" else (FRONT,)),
        *((TOP,) if front == "top" else ()),
        *category_lists,
        *(ListName.of("tag", number) for number in dict.fromkeys(tags)),
        ListName.of("month", month),
        *((ListName.of("author", author),) if author else ()),
    )

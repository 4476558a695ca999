"""The declaration of a kind of page; each module of `publish/pages/` makes one."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import NamedTuple, Protocol

from mobbet.core.facts import Subject
from mobbet.core.keys import ListName, PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

Recipe = Callable[[Renderer, Page], Rendered]
"""Makes the bytes of a page."""


PAGE, FILE, ADDRESS = "page", "file", "address"
"""What a footprint counts: pages, feeds and site maps; files of pictures, sound and the design; addresses that redirect."""


class Head(NamedTuple):
    """A post on the newest page of a list: its place from 1, how many stand there, the title that leaves the page ('' for none), and whether the post
    is kept at the top."""

    place: int
    size: int
    leaves: str
    is_on_top: bool = False


@dataclass(frozen=True)
class FootprintNames:
    """What a footprint in words needs to know: the categories by number, and where the post comes to stand on the front page."""

    subjects: Mapping[int, Subject]
    front: Head | None = None


class FootprintGroup(NamedTuple):
    """Pages that one line of a footprint tells of: which ones (the second argument is the post that the footprint is of), and in which words."""

    holds: Callable[[PageKey, int | None], bool]
    words: Callable[[list[Altered], FootprintNames], str]


class Successors(Protocol):
    """What came in the place of something that the site no longer has."""

    def list_name(self, name: ListName) -> ListName | None: ...
    def page_holding(self, name: ListName, post_id: int) -> int:
        """The first post of the page with an address on which a post of a list stands, or would stand; 0 for none."""
        ...

    def files(self, media_id: int, use: str) -> Iterable[PageKey]: ...


def _no_keys(*_: object) -> Iterable[PageKey]:
    return ()


def _same_key(key: PageKey, _: Successors) -> Iterable[PageKey]:
    return (key,)


@dataclass(frozen=True)
class PageKind:
    """One kind of page.

    `page` answers with the page at a key, or None where there is none at the plan's instant. The keys are those in `fixed`, which
    always stand for a page; of `keys`, and of each list and each post. `touched` names those that a change may alter, `certain` (key, path) of
    those that differ whatever else they show. `at` finds the key of the page that may stand at a path. `successors` are the keys to try, in
    order, for an address whose page is gone. `groups` are the lines of a footprint, in order; pages of a kind without any are not counted.
    `shows_of_house` is the part of the house style that pages of the kind show (`house_parts.PARTS`); `counts_as` what a footprint counts them as.
    `requested_type` is the MIME type of pages that are rendered when somebody asks for them; `is_of_post` says that a page shows one post's text.
    """

    name: str
    page: Callable[[Plan, PageKey], Page | None]
    recipes: Mapping[str, Recipe]
    fixed: Callable[[], Iterable[PageKey]] = _no_keys
    keys: Callable[[Plan], Iterable[PageKey]] = _no_keys
    keys_of_list: Callable[[Plan, ListName], Iterable[PageKey]] = _no_keys
    keys_of_post: Callable[[Plan, int], Iterable[PageKey]] = _no_keys
    touched: Callable[[ChangeSet], Iterable[PageKey]] = _no_keys
    certain: Callable[[ChangeSet], Iterable[tuple[PageKey, str]]] = lambda _: ()
    at: Callable[[Plan, str], PageKey | None] = lambda plan, path: None
    successors: Callable[[PageKey, Successors], Iterable[PageKey]] = _same_key
    groups: tuple[FootprintGroup, ...] = field(default=())
    requested_type: str = ""
    shows_of_house: str = house_parts.AROUND
    counts_as: str = PAGE
    is_of_post: bool = False
    differs_by_reader: bool = False

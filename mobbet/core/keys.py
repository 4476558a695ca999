"""Names of lists, keys of pages, and names of changed facts: each is a string with one spelling, taken apart here alone.

    ListName     front, all, top, category:3, under:3, tag:5, author:2, month:2026-11
    PageKey      post/12, list/category:3/from-12, feed/all/atom, former//lamps/old/, media/17/whole/image/webp/800
    ChangedFact  category:3, tag:5, author:2, media:17, comments:12, kept:4, reads:most, away:/old/

They are strings so that the database, JSON and a fingerprint take them as they are.
"""

from __future__ import annotations

from typing import Self


class Name(str):
    """A kind and what it is of, with a colon between them; some kinds stand alone. Menus name their targets so too (`core/menu.py`)."""

    __slots__ = ()

    @classmethod
    def of(cls, kind: str, which: int | str) -> Self:
        return cls(f"{kind}:{which}")

    @property
    def kind(self) -> str:
        return self.partition(":")[0]

    @property
    def which(self) -> str:
        """What follows the kind; '' for a kind that stands alone."""
        return self.partition(":")[2]

    @property
    def number(self) -> int:
        """The number of the category, tag, item or post. Raises ValueError for a name without one."""
        return int(self.which)


class ListName(Name):
    """A list of posts. `under:3` holds the posts below category 3 whose page does not show them; `top` those at the top of the front page."""

    __slots__ = ()

    @property
    def is_of_category(self) -> bool:
        return self.startswith("category:")

    @property
    def is_subject(self) -> bool:
        """Whether it is the list of a category or a tag."""
        return self.startswith(("category:", "tag:"))

    @property
    def has_pages(self) -> bool:
        """Whether its posts are shown on pages of its own."""
        return self not in ("all", "top") and self.kind != "under"

    @property
    def shown_on(self) -> ListName:
        """The list on whose pages this one shows: itself for most."""
        if self.kind == "under":
            return ListName.of("category", self.which)
        return FRONT if self == TOP else self


NEWEST = "0"
"""The last part of the key of a list's newest page."""
FRONT, ALL, TOP = ListName("front"), ListName("all"), ListName("top")


class ChangedFact(Name):
    """Something that pages show beside the text of a post: the own facts of a category, tag or author (name, address, description, picture),
    an item of the library that a category shows, the comments below a post, a saved block outside of posts, which posts are read most, or an
    address that leads away.
    """

    __slots__ = ()

    @property
    def list_name(self) -> ListName | None:
        """The list whose own facts these are; None for any other fact."""
        return ListName(self) if self.startswith(("category:", "tag:", "author:")) else None


class PageKey(str):
    """The key of a page in the plan: the name of its kind (`publish/pages/`), a slash, and what the page is of."""

    __slots__ = ()

    @classmethod
    def of(cls, kind: str, *parts: int | str) -> PageKey:
        return cls("/".join((kind, *map(str, parts))))

    @property
    def kind(self) -> str:
        return self.partition("/")[0]

    @property
    def rest(self) -> str:
        """Everything after the kind: a path for `former`, the whole name for `asset`."""
        return self.partition("/")[2]

    @property
    def parts(self) -> list[str]:
        return self.rest.split("/")

    @property
    def number(self) -> int:
        """The number of the post or item that the page is of."""
        return int(self.rest.partition("/")[0])

    @property
    def list_name(self) -> ListName:
        """The list that a page of a list, or a feed, is of."""
        return ListName(self.rest.rpartition("/")[0])

    @property
    def last(self) -> str:
        """The last part: the first post of a page of a list, the format of a feed."""
        return self.rpartition("/")[2]

    @property
    def first_post(self) -> int:
        """The post with which an older page of a list begins; 0 for the newest page, -1 for a number that such a page had formerly."""
        last = self.last
        return int(last.removeprefix("from-")) if last.startswith("from-") else -bool(last != NEWEST)


MADE_ON_REQUEST = "card"
"""The kind of pages that have no file in an edition although they are no redirect: they are rendered when somebody asks."""

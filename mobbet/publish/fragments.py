"""Fragments shared by many pages of a blog, rendered once: what surrounds the text, and posts in lists."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from markupsafe import Markup

from mobbet.core.document.html_media import picture_html
from mobbet.core.facts import House
from mobbet.core.values import existing
from mobbet.publish.cards import Card
from mobbet.publish.pictures import rendition
from mobbet.publish.templating import written

ROOT = "\ud800"
"""Stands in a part for the way from its page to the blog's front page; half a character, which no database and no file can hold."""
MOST = 20_000
"""So many parts of a kind are kept."""
AT_ONCE = 5
"""So many pictures of a list are loaded with the page."""
FIRST_WIDTH = "(min-width: 67.5rem) 32.9rem, (min-width: 46rem) calc(52.8vw - 2.7rem), calc(100vw - 2.3rem)"
SMALL_WIDTH = "(min-width: 46rem) 7.4rem, 5.6rem"
"""How wide the pictures of lists are, as page.css has them."""


class Around(NamedTuple):
    """What a page has around its own text: the links of its head, the top of its body down to the text, and the foot."""

    head: Markup
    top: Markup
    foot: Markup


class Fragments:
    """The parts of one blog's pages, kept while it lives."""

    def __init__(self, house: House) -> None:
        self._house = house
        self._places = {
            path for link in house.menu for path in (link.path, *(one.path for one in link.below))
        }
        self._around: dict[tuple[str, str], Around] = {}
        self._items: dict[tuple[str, str], str] = {}

    def around(self, here: str, root: str) -> Around:
        """What stands around the text of the page at `here`, from which `root` leads to the front page."""
        key = (here if here in self._places else "", root)
        if key not in self._around:
            if len(self._around) >= MOST:
                self._around.clear()
            values = {"house": self._house, "here": key[0], "to": link_from(root, self._house.server)}
            self._around[key] = Around(*(Markup(written(name, values)) for name in ("head", "top", "foot")))
        return self._around[key]

    def item(
        self, card: Card, is_first: bool, index: int, root: str, text: Markup | None = None, level: int = 2
    ) -> Markup:
        """A post in a list, the first of a newest page larger than the others; with its whole text where a list shows that. `level` is that of its
        heading; an anchor has only what stands at the second, since it may stand on the page once more."""
        if text is not None:
            return Markup(self._written(card, is_first, index, root, text, level))
        shown = "first" if is_first else "soon" if card.picture and index < AT_ONCE else ""
        key = (card.digest, f"{shown}{level}")
        if key not in self._items:
            if len(self._items) >= MOST:
                self._items.clear()
            self._items[key] = self._written(card, is_first, index, ROOT, None, level)
        return Markup(self._items[key].replace(ROOT, root))

    def _written(
        self, card: Card, is_first: bool, index: int, root: str, text: Markup | None, level: int
    ) -> str:
        to = link_from(root, self._house.server)
        picture = ""
        if card.picture and card.form in ("picture", "video"):
            use, sizes = ("lead", FIRST_WIDTH) if is_first else ("thumb", SMALL_WIDTH)
            loading = "high" if is_first else "soon" if index < AT_ONCE else ""
            picture = Markup(picture_html(existing(rendition(card.picture, sizes, to, use)), "", loading))
        return written(
            "item",
            {
                "house": self._house,
                "card": card,
                "is_first": is_first,
                "level": level,
                "picture": picture,
                "text": text,
                "to": to,
            },
        )


def link_from(root: str, server: str = "") -> Callable[[str], str]:
    """What makes an address of a path of the blog, for a page from which `root` leads to the front page; an address of elsewhere stays.

    What a server answers for (`/~/…`) stands below `server`, where there is one.
    """

    def link(path: str) -> str:
        if server and path.startswith("/~/"):
            return server + path[1:]
        return path if not path.startswith("/") else root if path == "/" else root + path[1:]

    return link

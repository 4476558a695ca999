"""The facts a public site is made of, as values. Stores answer with these; the plan reads them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class House:
    """What stands on every page of a blog. `home` is the front page's public address, ending in '/'.

    `facts` are (name, value) pairs for fill-ins, `link_rules` (domain, rule) pairs.
    """

    name: str
    tagline: str
    zone: str
    language: str
    home: str
    design: str
    posts_on_page: int
    facts: tuple[tuple[str, str], ...] = ()
    link_rules: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Subject:
    """A category or a tag: its words, its slug, and the category above it."""

    id: int
    name: str
    slug: str
    parent_id: int | None = None


@dataclass(frozen=True)
class OutPost:
    """A post as readers get it at one instant. Categories and tags are numbers, the main category first.

    `goes_out` orders it in lists; `updated` is when the text that is shown now came out. `links` are the
    posts its text leads to, `kept` the standing copies it shows, each with its version.
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
    excerpt: str
    description: str
    categories: tuple[int, ...]
    tags: tuple[int, ...]
    media: tuple[int, ...]
    links: tuple[int, ...] = ()
    kept: tuple[tuple[int, int], ...] = ()
    series_id: int | None = None
    series_position: int = 0


@dataclass(frozen=True)
class PictureFile:
    """One derivative of a picture: its size in pixels, MIME type and content hash."""

    media_id: int
    width: int
    height: int
    type: str
    hash: str

    @property
    def path(self) -> str:
        """Its address below the blog's, by content, so that it can be kept for ever."""
        return f"/media/{self.hash[:24]}-{self.width}.{ENDINGS[self.type]}"


ENDINGS = {"image/webp": "webp", "image/jpeg": "jpg", "image/png": "png"}


def list_keys(categories_with_parents: tuple[int, ...], tags: tuple[int, ...], month: str) -> tuple[str, ...]:
    """The lists on which a post stands: the blog's, its categories', its tags' and its month's."""
    return (
        "all",
        *(f"category:{number}" for number in dict.fromkeys(categories_with_parents)),
        *(f"tag:{number}" for number in dict.fromkeys(tags)),
        f"month:{month}",
    )

"""Slugs of categories, tags and headings, and what the site keeps for itself.

Every path starts and ends with a slash and is counted from the blog's own address. Posts have slugs of
their own (`slugs.py`) and a pattern (`permalinks.py`).
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from slugify import slugify

from mobbet.core.errors import BadInput

LONGEST_SLUG = 60
LONGEST_PROPOSAL = 32
UNFILED = "posts"
RESERVED = frozenset(
    {
        "by",
        "tag",
        "page",
        "archive",
        "subjects",
        "posts",
        "media",
        "assets",
        "feed",
        "index",
        "404",
        "b",
        "desk",
        "search",
        "sign-in",
    }
)
SMALL_WORDS = frozenset(
    "a an and as at by for from if in into is it its my of on or our that the their to with without your".split()
)
_SLUG = re.compile(r"^[a-z0-9]+(?:-[a-z0-9]+)*$")


@lru_cache(maxsize=4096)
def make_slug(text: str, fallback: str) -> str:
    """A short slug of the first words in `text`; `fallback` when they hold no letter or digit.

    Words are never cut in half, and a cut does not end in a small word. Apostrophes vanish rather
    than split a word.
    """
    whole = slugify(re.sub(r"[’'‘ʼ]", "", text))
    if len(whole) <= LONGEST_PROPOSAL:
        return whole or fallback
    words = whole[: LONGEST_PROPOSAL + 1].split("-")[:-1] or [whole[:LONGEST_PROPOSAL]]
    while len(words) > 2 and words[-1] in SMALL_WORDS:
        words.pop()
    return "-".join(words)


def read_slug(text: str, field: str = "slug") -> str:
    """A slug that a person typed. Raises BadInput, with a proposal, when it cannot stand in an address."""
    text = text.strip().strip("/").lower()
    if _SLUG.match(text) and len(text) <= LONGEST_SLUG:
        return text
    proposal = make_slug(text, "")
    remedy = f"how about “{proposal}”?" if proposal else "use letters, digits and hyphens."
    raise BadInput(f"“{text}” cannot be part of an address; {remedy}", field)


def read_blog_slug(text: str) -> str:
    """The address of a blog. Raises BadInput when it cannot be one."""
    return read_slug(text, "address")


def free_slug(wanted: str, is_taken: Callable[[str], bool]) -> str:
    """`wanted`, or `wanted-2`, `wanted-3` … : the first for which `is_taken(slug)` is false."""
    if not is_taken(wanted):
        return wanted
    number = 2
    while is_taken(f"{wanted}-{number}"):
        number += 1
    return f"{wanted}-{number}"


def is_reserved(slug: str) -> bool:
    """True for words that the site itself uses as first part of an address, and for years."""
    return slug in RESERVED or bool(re.fullmatch(r"\d{1,4}", slug))


def up(path: str) -> str:
    """The relative way from a page to the blog's front page: './' from '/', '../../' from '/lamps/flex/'."""
    depth = path.count("/") - 1
    return "../" * depth or "./"

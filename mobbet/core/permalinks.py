"""The pattern of a blog's permalinks, the one form of an address, and short addresses."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from urllib.parse import unquote

from mobbet.core.addresses import RESERVED, UNFILED
from mobbet.core.errors import BadInput
from mobbet.core.timing import local

TOKENS = {
    "year": "the year it went out, such as 2026",
    "month": "the month, such as 11",
    "day": "the day, such as 26",
    "category": "its main category, such as wiring",
    "category-path": "its main category with those above it, such as lamps/wiring",
    "slug": "the last words of its address",
}
"""What a pattern may hold, with what each stands for."""
_TOKEN = re.compile(r"\{([^{}]*)\}")
_DATE = re.compile(r"\{(?:year|month|day)\}")
_LITERAL = re.compile(r"[a-z0-9-]*")
_OWN = re.compile(
    r"/(?:by|tag|page|media|assets|b|desk|search|sign-in)(?:/.*)?|/(?:archive|subjects|posts|404\.html|index\.html)/?|/\d{4}/\d{2}/"
    r"|.*/page/(?:from-)?\d+/|.*/feed\.(?:atom|rss|json)/?|/(?:robots\.txt|sitemap.*\.xml)/?|/~.*|/"
)
"""Paths at which the site itself has, or may get, a page."""


@dataclass(frozen=True)
class PermalinkFacts:
    """What a permalink is made of: when it went out, where, and the slugs of its main category from the top down."""

    goes_out: int
    zone: str
    category_slugs: tuple[str, ...]


def read_pattern(text: str) -> str:
    """A pattern that a person typed, with a slash at both ends. Raises BadInput with what to do."""
    pattern = "/" + re.sub(r"/+", "/", text.strip().lower()).strip("/") + "/"
    names = _TOKEN.findall(pattern)
    unknown = next((name for name in names if name not in TOKENS), None)
    if unknown is not None:
        raise BadInput(
            f"“{{{unknown}}}” stands for nothing; choose from {', '.join(f'{{{name}}}' for name in TOKENS)}.",
            "pattern",
        )
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice:
        raise BadInput(f"“{{{twice}}}” stands twice in “{pattern}”; leave one of them out.", "pattern")
    segments = pattern.strip("/").split("/")
    if "{slug}" not in segments[-1]:
        raise BadInput(
            f"“{pattern}” does not end with {{slug}}, so posts would share an address; put {{slug}} into its last part.",
            "pattern",
        )
    loose = next((part for part in _TOKEN.sub("/", pattern).split("/") if not _LITERAL.fullmatch(part)), None)
    if loose is not None:
        raise BadInput(
            f"“{loose}” cannot stand in an address; use small letters, digits and hyphens between the tokens.",
            "pattern",
        )
    if "{category-path}" in pattern and "{category-path}" not in segments:
        raise BadInput("{category-path} needs a part of its own, between two slashes.", "pattern")
    if segments[0] in RESERVED and segments[0] != UNFILED:
        raise BadInput(
            f"“{segments[0]}” is a word that the site itself begins addresses with; begin with another one.",
            "pattern",
        )
    return pattern


def path_of(pattern: str, slug: str, filed: PermalinkFacts) -> str:
    """The permalink below the blog's address. A post without a category has `posts` in its place."""
    slugs = filed.category_slugs or (UNFILED,)
    values = {"category": slugs[-1], "category-path": "/".join(slugs), "slug": slug}
    if has_date(pattern):
        moment = local(filed.goes_out, filed.zone)
        values.update(
            {"year": f"{moment.year:04d}", "month": f"{moment.month:02d}", "day": f"{moment.day:02d}"}
        )
    return pattern.format_map(values)


def has_date(pattern: str) -> bool:
    """Whether permalinks of a pattern follow from when their posts went out."""
    return _DATE.search(pattern) is not None


def is_own_path(path: str) -> bool:
    """True where the site itself has, or may get, a page."""
    return bool(_OWN.fullmatch(path))


def one_form(path: str) -> str:
    """The one spelling of an address below the blog's: decoded, composed, lower case, single slashes, one at its end.

    Files keep their ending: `/Feed.Atom` becomes `/feed.atom`, `/Lamps/index.html` becomes `/lamps/`.
    """
    path = unicodedata.normalize("NFC", unquote(path)).lower()
    path = re.sub(r"/+", "/", "/" + path)
    path = re.sub(r"/index\.html?$", "/", path)
    last = path.rpartition("/")[2]
    return path if not last or "." in last else path + "/"


_LETTERS = "23456789bcdfghjkmnpqrstvwxyz"
"""Without vowels, so that no word comes about, and without letters that look alike."""
_BASE = len(_LETTERS)
_STEP, _SHIFT = 5_077_939, 9_613
"""Numbers without a common factor with 28, so that following numbers give codes far apart."""


@lru_cache(maxsize=1024)
def short_code(number: int) -> str:
    """The code of a post's short address: three letters up to 21,952 posts, then four, and so on."""
    length = 3
    while number >= _BASE**length:
        length += 1
    value = (number * _STEP + _SHIFT) % _BASE**length
    letters = []
    for _ in range(length):
        value, rest = divmod(value, _BASE)
        letters.append(_LETTERS[rest])
    return "".join(reversed(letters))


def number_of_code(code: str) -> int | None:
    """The post of a short address; None for a code that is none."""
    if len(code) < 3 or any(letter not in _LETTERS for letter in code):
        return None
    value = 0
    for letter in code:
        value = value * _BASE + _LETTERS.index(letter)
    size = _BASE ** len(code)
    number = (value - _SHIFT) * pow(_STEP, -1, size) % size
    return number if number < 1 << 63 and short_code(number) == code else None


def short_path(number: int) -> str:
    """The short address of a post below its blog's: `/~k7q/`."""
    return f"/~{short_code(number)}/"

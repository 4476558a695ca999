"""Counting what is read: what a request says of a reader, without knowing who they are."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import lru_cache
from hashlib import blake2b
from typing import NamedTuple
from urllib.parse import parse_qs

from mobbet.core.web_addresses import split_address

WHOLE, FRONT, OTHER = 0, -1, -2
"""Beside the numbers of posts: the whole blog, its front page, and any other page."""
LONGEST_HOST, LONGEST_WORDS, LONGEST_LANGUAGE = 120, 60, 8
LONGEST_QUERY, MOST_FIELDS = 2000, 30
END = -1_000_000_000
"""Less the number of a post: its end, as what a reader got to."""
END_PATH = "/end.gif"
"""The picture at the end of a text (`publish/pages/end_mark.py`)."""
READ_PATH = "/~/read"
"""Before the path of a page that stands elsewhere, where it asks this server to count that it is read."""
OWN_LINK = "from:"
"""Before the words of a link that the owner made, `?from=…`."""
LETTER = "letter-"
"""What the words of a link in a letter to subscribers begin with; the number of the letter follows."""
_TABLET = re.compile(r"iPad|Tablet|(?:Android(?!.*Mobile))", re.IGNORECASE)
_PHONE = re.compile(r"Mobi|iPhone|iPod|Phone", re.IGNORECASE)
_LANGUAGE = re.compile(r"\s*([a-zA-Z]{2,3})\b")


class View(NamedTuple):
    """A page that somebody opened on a day: its number, whoever it was as a hash, where they came from (None within the site), and how."""

    day: str
    page: int
    reader: int
    source: str | None
    device: str
    language: str


@dataclass
class Counts:
    """What came together: pages by (day, page), readers by (day, page), robots' pages by day, first pages by (day, source, page), and ways by (day, way, value). Ends are among the readers, as pages of their own."""

    pages: Counter[tuple[str, int]] = field(default_factory=Counter)
    seen: set[tuple[str, int, int]] = field(default_factory=set)
    robots: Counter[str] = field(default_factory=Counter)
    sources: Counter[tuple[str, str, int]] = field(default_factory=Counter)
    ways: Counter[tuple[str, str, str]] = field(default_factory=Counter)

    def add_end(self, day: str, page: int, reader: int) -> None:
        """Notes that somebody read a post to its end."""
        self.seen.add((day, END - page, reader))

    def add(self, views: Iterable[View]) -> None:
        pages, seen, sources, ways = self.pages, self.seen, self.sources, self.ways
        for view in views:
            for page in (WHOLE, view.page):
                pages[view.day, page] += 1
                seen.add((view.day, page, view.reader))
            if view.source is not None:
                sources[view.day, view.source, view.page] += 1
            ways[view.day, "device", view.device] += 1
            if view.language:
                ways[view.day, "language", view.language] += 1

    def by_month(self) -> Counter[tuple[int, int]]:
        """Pages of posts by (post, month), the months as years times twelve and the months."""
        found: Counter[tuple[int, int]] = Counter()
        for (day, page), pages in self.pages.items():
            if page > 0:
                found[page, int(day[:4]) * 12 + int(day[5:7]) - 1] += pages
        return found

    @property
    def days(self) -> set[str]:
        return {day for day, _, _ in self.seen} | {day for day, _ in self.pages} | self.robots.keys()


def end_in(path: str, query: str) -> int | None:
    """The post whose end was asked for; None for any other page."""
    is_end = path == END_PATH and query.isascii() and query.isdecimal() and len(query) < 10
    return int(query) if is_end else None


def reader_hash(salt: bytes, address: str, agent: str) -> int:
    """Whoever asks, as a number that says nothing without the day's salt."""
    digest = blake2b(f"{address}\0{agent}".encode(errors="replace"), digest_size=8, key=salt).digest()
    return int.from_bytes(digest, "big", signed=True)


def own_words(query: str) -> str:
    """The words of an owner's own link, `?from=…`, in small letters; '' for none, and for a query that is too long to be one."""
    if "from=" not in query or len(query) > LONGEST_QUERY:
        return ""
    try:
        found = parse_qs(query, max_num_fields=MOST_FIELDS).get("from", [""])[0]
    except ValueError:  # too many fields
        return ""
    return " ".join(found.split()).lower()[:LONGEST_WORDS]


def source_of(referrer: str, query: str, own_hosts: frozenset[str]) -> str | None:
    """Where somebody came from: the words of an owner's own link, another host, or '' for no trace; None from a page of the site itself."""
    words = own_words(query)
    if words:
        return OWN_LINK + words
    if not referrer:
        return ""
    host = _host_of(referrer)
    return None if host in own_hosts else host[:LONGEST_HOST]


@lru_cache(maxsize=20_000)
def _host_of(referrer: str) -> str:
    return (split_address(referrer).hostname or "").lower()


@lru_cache(maxsize=20_000)
def device_of(agent: str) -> str:
    """“phone”, “tablet” or “computer”, as far as an agent says."""
    return "tablet" if _TABLET.search(agent) else "phone" if _PHONE.search(agent) else "computer"


def language_of(accepted: str) -> str:
    """The first language of an Accept-Language header, without its region; '' for none."""
    found = _LANGUAGE.match(accepted)
    return found[1].lower() if found else ""


def blurred(number: int) -> int:
    """A small number as exports have it: below ten, so that nobody can be told apart, it is 0, 5 or 10."""
    return number if number >= 10 else 5 * round(number / 5)

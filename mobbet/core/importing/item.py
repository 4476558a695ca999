"""A post of another site as it was found there, and what every format shares: dates, addresses, names."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, timezone
from email.utils import parsedate_to_datetime
from typing import Any

from dateutil import parser as any_date

from mobbet.core.web_addresses import split_address

LONGEST_TITLE, LONGEST_WORD, MOST_WORDS = 300, 80, 40
LONGEST_ADDRESS = 500
HTML, MARKDOWN = "html", "md"


@dataclass(frozen=True)
class Item:
    """One post: `key` is the same each time it is read; `kind` says what its `text` is; `published` is ISO 8601, with an offset
    where the source has one, '' for a post without a date; `addresses` are those it had; `base` is where its relative links begin; `slug` is '' where the source names none;
    `fields` are (name, value) of what the source says that means nothing here, `enclosures` (address, media type) of
    the files that come with it.
    """

    key: str
    title: str
    text: str
    kind: str = HTML
    published: str = ""
    categories: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    author: str = ""
    excerpt: str = ""
    is_draft: bool = False
    addresses: tuple[str, ...] = ()
    base: str = ""
    slug: str = ""
    fields: tuple[tuple[str, str], ...] = ()
    enclosures: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Reply:
    """A comment of a reader (RFC 4685): `to` is the key or the address of the post, or of the comment, that it answers."""

    key: str
    to: tuple[str, ...]
    name: str
    text: str
    published: str = ""


@dataclass(frozen=True)
class NotRead:
    """What was found and is no post, and why."""

    key: str
    reason: str


def read_date(text: object) -> str:
    """A date in any usual spelling as ISO 8601, with an offset where it has one; '' for what is none."""
    if isinstance(text, datetime):
        return text.isoformat(timespec="seconds")
    if hasattr(text, "isoformat"):
        return f"{text.isoformat()}T12:00:00"
    words = " ".join(str(text or "").split())[:60]
    if not any(letter.isdigit() for letter in words):
        return ""
    if re.fullmatch(r"\d{4}-\d\d-\d\d", words):
        return f"{words}T12:00:00"
    for read in (datetime.fromisoformat, parsedate_to_datetime, _any_spelling):
        try:
            found = read(words)
            text = found.isoformat(timespec="seconds")
        except (ValueError, TypeError, OverflowError, IndexError, AttributeError):  # dateutil raises them all
            continue
        return text if 1970 <= found.year <= 2200 else ""
    return ""


def _any_spelling(words: str) -> datetime:
    """A date as people write it; a zone whose name is not known counts as none."""
    found: datetime = any_date.parse(
        words, tzinfos=lambda name, offset: None if offset is None else timezone(timedelta(seconds=offset))
    )
    return found


def instant_in(published: str) -> datetime | None:
    """A date of `read_date` as a moment to sort by; None for ''."""
    if not published:
        return None
    found = datetime.fromisoformat(published)
    return found if found.tzinfo else found.replace(tzinfo=UTC)


def one_line(text: object, longest: int = LONGEST_TITLE) -> str:
    return " ".join(str(text or "").split())[:longest]


def names(values: Iterable[object]) -> tuple[str, ...]:
    """Names of categories or tags, each once, in their order."""
    found = (one_line(value, LONGEST_WORD).strip("#,") for value in values)
    return tuple(dict.fromkeys(name for name in found if name))[:MOST_WORDS]


def listed(value: Any) -> list[Any]:
    """A value that may be a list, a line parted by commas, or one thing."""
    if value is None or value is False:
        return []
    if isinstance(value, (list, tuple)):
        return list(value)
    return [part.strip() for part in str(value).split(",")] if isinstance(value, str) else [value]


def addresses(values: Iterable[object]) -> tuple[str, ...]:
    """Addresses as paths with their query, each once; the front door and what is none are left out."""
    found = []
    for value in values:
        text = str(value or "").strip()
        if not text or len(text) > LONGEST_ADDRESS or any(letter.isspace() for letter in text):
            continue
        if "://" not in text and re.match(r"[a-zA-Z][\w+.-]{0,20}:", text):
            continue
        parts = split_address(text if "://" in text or text.startswith("/") else f"/{text}")
        if parts.scheme not in ("", "http", "https"):
            continue
        path = (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
        if path != "/":
            found.append(path)
    return tuple(dict.fromkeys(found))[:MOST_WORDS]

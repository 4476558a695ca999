"""Markdown files with YAML front matter: the settings of a post above its text."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

import yaml

from mobbet.core.audience import read_visibility
from mobbet.core.errors import BadInput
from mobbet.core.languages import read_language
from mobbet.core.pages import read_kind
from mobbet.core.timing import read_instant

_FENCE = re.compile(r"\A\ufeff?---[ \t]*\r?\n(.*?)^---[ \t]*(?:\r?\n|\Z)", re.DOTALL | re.MULTILINE)


@dataclass(frozen=True)
class Settings:
    """What front matter may say; None where it says nothing."""

    title: str | None = None
    subtitle: str | None = None
    slug: str | None = None
    date: str | None = None
    expires: str | None = None
    author: str | None = None
    categories: tuple[str, ...] | None = None
    tags: tuple[str, ...] | None = None
    excerpt: str | None = None
    description: str | None = None
    visibility: str | None = None
    password: str | None = None
    lead: str | None = None
    language: str | None = None
    comments: str | None = None
    kind: str | None = None
    below: str | None = None
    menu: str | bool | None = None
    foot: str | bool | None = None
    background: str | None = None
    accent: str | None = None


@dataclass(frozen=True)
class Text:
    """A file taken apart: its settings, its Markdown, and the names of fields that mean nothing here."""

    settings: Settings
    markdown: str
    unknown: tuple[str, ...] = field(default=())


def read(text: str, zone_name: str) -> Text:
    """Settings and Markdown of a file. Raises BadInput for front matter that cannot be read.

    Times without an offset are wall times of `zone_name`.
    """
    values, body = fields_of(text)
    unknown = tuple(name for name in values if name not in Settings.__dataclass_fields__)
    known: dict[str, Any] = {
        name: _READERS[name](value, name)
        for name, value in values.items()
        if name in _READERS and value is not None
    }
    for name in ("date", "expires"):
        if name in known:
            read_instant(known[name], zone_name, name)
    return Text(Settings(**known), body, unknown)


def fields_of(text: str) -> tuple[dict[str, Any], str]:
    """(the fields of a file’s front matter as YAML has them, what follows it). Raises BadInput for front matter that cannot be read."""
    match = _FENCE.match(text)
    return (_yaml(match.group(1)), text[match.end() :]) if match else ({}, text.lstrip("\ufeff"))


def _yaml(block: str) -> dict[str, Any]:
    try:
        values = yaml.safe_load(block)
    except yaml.YAMLError as error:
        mark = getattr(error, "problem_mark", None)
        line = f" in line {mark.line + 2}" if mark else ""
        raise BadInput(
            f"The front matter is not valid YAML{line}; check its colons and quotation marks.", "front matter"
        ) from None
    except ValueError:  # a date that is none, such as 2019-02-30
        raise BadInput(
            "The front matter has a date or number that cannot be; check it, or put it in quotation marks.",
            "front matter",
        ) from None
    if values is None:
        return {}
    if not isinstance(values, dict):
        raise BadInput("The front matter must be lines of “name: value”.", "front matter")
    return {str(name): value for name, value in values.items()}


def _word(value: Any, name: str) -> str:
    if isinstance(value, (dict, list)):
        raise BadInput(f"“{name}” must be one line of text.", name)
    return " ".join(str(value).split())


def _words(value: Any, name: str) -> tuple[str, ...]:
    items = value if isinstance(value, list) else str(value).split(",")
    return tuple(word for word in (_word(item, name) for item in items) if word)


def _time(value: Any, name: str) -> str:
    if isinstance(value, datetime):
        return value.isoformat()
    if isinstance(value, date):
        return value.isoformat()
    return _word(value, name)


def _visibility(value: Any, name: str) -> str:
    return read_visibility(_word(value, name))


def _comments(value: Any, name: str) -> str:
    """`open` or `closed`; YAML reads some of the words for these as true and false."""
    word = (
        {True: "open", False: "closed"}.get(value) if isinstance(value, bool) else _word(value, name).lower()
    )
    if word not in ("open", "closed"):
        raise BadInput(f"“{value}” is nothing comments can be; write open or closed.", name)
    return word


def _menu_words(value: Any, name: str) -> str | bool:
    """The words of an entry; true is the post's own title, and false takes the entry out."""
    return value if isinstance(value, bool) else _word(value, name)


def _colour(value: Any, name: str) -> str:
    """A colour as it is typed; YAML reads one of digits alone as a number, in which others may be meant."""
    if isinstance(value, (int, float)):
        raise BadInput(f'“{name}” must stand in quotation marks, like "#8a3b12".', name)
    return _word(value, name)


_READERS: dict[str, Callable[[Any, str], Any]] = {
    "title": _word,
    "subtitle": _word,
    "slug": _word,
    "date": _time,
    "expires": _time,
    "author": _word,
    "categories": _words,
    "tags": _words,
    "excerpt": _word,
    "description": _word,
    "visibility": _visibility,
    "password": _word,
    "lead": _word,
    "comments": _comments,
    "kind": lambda value, name: read_kind(_word(value, name)),
    "below": _word,
    "menu": _menu_words,
    "foot": _menu_words,
    "language": lambda value, name: read_language(_word(value, name)),
    "background": _colour,
    "accent": _colour,
}

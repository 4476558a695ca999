"""The names that fields of a post have in files of other programs."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from mobbet.core.importing.item import listed, one_line, read_date

Fields = Mapping[str, Any]
"""{name in small letters, with underscores: value}."""
FIELDS = {
    "title": ("title", "name", "headline"),
    "published": ("date", "published", "publishdate", "publish_date", "pubdate", "published_at", "created", "created_at", "datetime"),
    "categories": ("categories", "category", "section"),
    "tags": ("tags", "tag", "keywords", "topics"),
    "author": ("author", "authors", "by", "creator", "writer"),
    "excerpt": ("excerpt", "summary", "description", "abstract", "teaser"),
    "addresses": ("permalink", "url", "path", "link", "address", "aliases", "alias", "redirect_from", "old_url"),
    "slug": ("slug",),
    "text": ("content", "text", "body", "html", "markdown"),
    "key": ("id", "guid", "uid"),
}  # fmt: skip
"""{what it is for: the names that it has in files of other programs, in small letters}."""
DRAFTS = frozenset({"draft", "status", "post_status"})
MOST_UNKNOWN = 30


def field_name(name: object) -> str:
    """A name as it stands in `FIELDS`."""
    return str(name).lower().strip().replace("-", "_").replace(" ", "_")


def renamed(fields: Fields, names: Mapping[str, str]) -> dict[str, Any]:
    """Fields of which somebody said what they are: {name in a file: what it is for}."""
    return {
        (FIELDS[names[name]][0] if name in names and names[name] in FIELDS else name): value
        for name, value in fields.items()
    }


def unknown(fields: Fields) -> tuple[tuple[str, str], ...]:
    """(name, value) of the fields that mean nothing here."""
    known = {name for names in FIELDS.values() for name in names} | DRAFTS
    return tuple(
        (name[:60], _shown(value))
        for name, value in fields.items()
        if name not in known and value not in (None, "", [])
    )[:MOST_UNKNOWN]


def _shown(value: Any) -> str:
    """A value in words."""
    return one_line(", ".join(map(str, value)) if isinstance(value, list) else str(value), 80)


def first(fields: Fields, what: str) -> Any:
    """The first value of those names that says something; None for none."""
    return next((fields[name] for name in FIELDS[what] if fields.get(name) not in (None, "", [])), None)


def line(fields: Fields, what: str, longest: int = 300) -> str:
    """A value as one line of text; '' for a list or a table."""
    value = first(fields, what)
    return "" if isinstance(value, (dict, list)) else one_line(value, longest)


def several(fields: Fields, what: str) -> list[Any]:
    """The values of all those names, lists and words parted by commas alike."""
    return [
        one
        for name in FIELDS[what]
        if name in fields
        for one in listed(fields[name])
        if not isinstance(one, (dict, list))
    ]


def date_in(fields: Fields) -> str:
    return next((date for name in FIELDS["published"] if (date := read_date(fields.get(name)))), "")


def author_in(fields: Fields) -> str:
    value = first(fields, "author")
    author = value[0] if isinstance(value, list) else value
    return one_line(author.get("name") if isinstance(author, dict) else author)


def is_draft(fields: Fields) -> bool:
    status = one_line(fields.get("status") or fields.get("post_status")).lower()
    is_hidden = fields.get("published") is False or str(fields.get("published", "")).lower() == "false"
    return (
        str(fields.get("draft", "")).lower() in ("true", "yes", "1")
        or is_hidden
        or status in ("draft", "private", "pending")
    )

"""Markdown files with front matter in YAML, TOML or JSON, and tables of posts as CSV: their usual field names."""

from __future__ import annotations

import csv
import io
import json
import re
import tomllib
from collections.abc import Mapping
from pathlib import PurePosixPath
from typing import Any

from mobbet.core import frontmatter
from mobbet.core.errors import BadInput
from mobbet.core.importing.item import (
    HTML,
    MARKDOWN,
    Item,
    NotRead,
    addresses,
    listed,
    names,
    one_line,
    read_date,
)

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
UNDER = ("taxonomies", "params", "extra")
"""Tables of front matter whose fields count like those above them."""
_TOML = re.compile(r"\A\ufeff?\+\+\+[ \t]*\r?\n(.*?)^\+\+\+[ \t]*(?:\r?\n|\Z)", re.DOTALL | re.MULTILINE)
_DATED = re.compile(r"\A(\d{4}-\d\d-\d\d)[-_](.+)\Z")
MOST_ROWS = 50_000


def read_markdown_file(text: str, path: str) -> Item | NotRead:
    """A Markdown file; `path` is where it lies in its folder, by which it is known and which its name and date may follow from."""
    try:
        fields, body = _fields(text)
    except BadInput as error:
        return NotRead(path, str(error))
    stem = PurePosixPath(path).stem
    dated = _DATED.match(stem)
    published = _date(fields) or (f"{dated[1]}T12:00:00" if dated else "")
    heading = re.match(r"\s*#[ \t]+([^\n]{1,300})\n?", body)
    title = _line(fields, "title")
    if not title and heading:
        title, body = one_line(heading[1].rstrip(" #")), body[heading.end() :]
    if not title:
        title = re.sub(r"[-_]+", " ", dated[2] if dated else stem).strip().capitalize()
    slug = _line(fields, "slug")
    return Item(
        path, title, body, MARKDOWN, published, names(_many(fields, "categories")), names(_many(fields, "tags")), _author(fields),
        _line(fields, "excerpt", 1000), _is_draft(fields), addresses([*_many(fields, "addresses"), *([slug] if slug and "/" in slug else [])]), path,
    )  # fmt: skip


def _fields(text: str) -> tuple[dict[str, Any], str]:
    toml = _TOML.match(text)
    if toml:
        try:
            return _flat(tomllib.loads(toml[1].replace("\r\n", "\n"))), text[toml.end() :]
        except tomllib.TOMLDecodeError as error:
            raise BadInput(
                f"its front matter is not valid TOML ({str(error)[:80]})", "front matter"
            ) from None
    start = text.lstrip("\ufeff \r\n\t")
    if start.startswith("{"):
        try:
            found, end = json.JSONDecoder().raw_decode(start)
        except (ValueError, RecursionError):
            return {}, text
        return _flat(found), start[end:]
    fields, body = frontmatter.fields_of(text)
    return _flat(fields), body


def _flat(fields: Mapping[str, Any]) -> dict[str, Any]:
    flat = {str(name).lower().strip().replace("-", "_"): value for name, value in fields.items()}
    for name in UNDER:
        if isinstance(flat.get(name), dict):
            flat = {**_flat(flat.pop(name)), **flat}
    return flat


def read_table(data: str) -> list[Item | NotRead]:
    """A table of posts as CSV, one a row, with the names of its columns in the first. Raises BadInput without a title or text."""
    try:
        dialect: Any = csv.Sniffer().sniff(data[:4096], delimiters=",;\t")
    except csv.Error:
        dialect = csv.excel
    csv.field_size_limit(10_000_000)
    rows = csv.DictReader(io.StringIO(data.lstrip("\ufeff")), dialect=dialect)
    known = {str(name).lower().strip().replace("-", "_").replace(" ", "_") for name in rows.fieldnames or ()}
    for what in ("title", "text"):
        if not known & set(FIELDS[what]):
            raise BadInput(
                f"The table has no column for the {what}; name one “{FIELDS[what][0]}” in its first row.",
                "source",
            )
    found: list[Item | NotRead] = []
    for number, row in enumerate(rows, 1):
        if number > MOST_ROWS:
            found.append(
                NotRead(f"row {number}", f"a table may have {MOST_ROWS:,} rows; bring the rest in by another")
            )
            break
        found.append(
            _row(
                number,
                {
                    str(name).lower().strip().replace("-", "_").replace(" ", "_"): value
                    for name, value in row.items()
                    if name
                },
            )
        )
    return found


def _row(number: int, fields: dict[str, Any]) -> Item | NotRead:
    title, text = _line(fields, "title"), str(_first(fields, "text") or "")
    if not title and not text.strip():
        return NotRead(f"row {number}", "it has neither a title nor a text")
    links = addresses(_many(fields, "addresses"))
    key = _line(fields, "key", 200) or (links[0] if links else title)
    kind = (
        MARKDOWN
        if "markdown" in fields
        else HTML
        if re.search(r"<[a-z][^<>]{0,300}>", text[:20_000], re.IGNORECASE)
        else MARKDOWN
    )
    return Item(
        key, title, text, kind, _date(fields), names(_many(fields, "categories")), names(_many(fields, "tags")), _author(fields),
        _line(fields, "excerpt", 1000), _is_draft(fields), links,
    )  # fmt: skip


def _first(fields: Mapping[str, Any], what: str) -> Any:
    return next((fields[name] for name in FIELDS[what] if fields.get(name) not in (None, "", [])), None)


def _line(fields: Mapping[str, Any], what: str, longest: int = 300) -> str:
    value = _first(fields, what)
    return "" if isinstance(value, (dict, list)) else one_line(value, longest)


def _many(fields: Mapping[str, Any], what: str) -> list[Any]:
    return [
        one
        for name in FIELDS[what]
        if name in fields
        for one in listed(fields[name])
        if not isinstance(one, (dict, list))
    ]


def _date(fields: Mapping[str, Any]) -> str:
    return next((date for name in FIELDS["published"] if (date := read_date(fields.get(name)))), "")


def _author(fields: Mapping[str, Any]) -> str:
    value = _first(fields, "author")
    first = value[0] if isinstance(value, list) else value
    return one_line(first.get("name") if isinstance(first, dict) else first)


def _is_draft(fields: Mapping[str, Any]) -> bool:
    status = one_line(fields.get("status") or fields.get("post_status")).lower()
    is_hidden = fields.get("published") is False or str(fields.get("published", "")).lower() == "false"
    return (
        str(fields.get("draft", "")).lower() in ("true", "yes", "1")
        or is_hidden
        or status in ("draft", "private", "pending")
    )

"""Markdown files with front matter in YAML, TOML or JSON."""

from __future__ import annotations

import json
import re
import tomllib
from collections.abc import Mapping
from pathlib import PurePosixPath
from typing import Any

from mobbet.core import frontmatter
from mobbet.core.errors import BadInput
from mobbet.core.importing.fields import (
    author_in,
    date_in,
    field_name,
    is_draft,
    line,
    renamed,
    several,
    unknown,
)
from mobbet.core.importing.item import MARKDOWN, Item, NotRead, addresses, names, one_line

UNDER = ("taxonomies", "params", "extra")
"""Tables of front matter whose fields count like those above them."""
_TOML = re.compile(r"\A\ufeff?\+\+\+[ \t]*\r?\n(.*?)^\+\+\+[ \t]*(?:\r?\n|\Z)", re.DOTALL | re.MULTILINE)
_DATED = re.compile(r"\A(\d{4}-\d\d-\d\d)[-_](.+)\Z")


def read_markdown_file(text: str, path: str, meant: Mapping[str, str] = {}) -> Item | NotRead:  # noqa: B006
    """A Markdown file; `path` is where it lies in its folder, by which it is known and which its name and date may follow from. `meant` says of
    fields that Mobbet does not know what they are for (`FIELDS`)."""
    try:
        fields, body = _fields(text)
        fields = renamed(fields, meant)
    except BadInput as error:
        return NotRead(path, str(error))
    stem = PurePosixPath(path).stem
    dated = _DATED.match(stem)
    published = date_in(fields) or (f"{dated[1]}T12:00:00" if dated else "")
    heading = re.match(r"\s*#[ \t]+([^\n]{1,300})\n?", body)
    title = line(fields, "title")
    if not title and heading:
        title, body = one_line(heading[1].rstrip(" #")), body[heading.end() :]
    if not title:
        title = re.sub(r"[-_]+", " ", dated[2] if dated else stem).strip().capitalize()
    slug = line(fields, "slug")
    links = [*several(fields, "addresses"), *([slug] if "/" in slug else [])]
    return Item(
        path, title, body, MARKDOWN, published, names(several(fields, "categories")), names(several(fields, "tags")), author_in(fields),
        line(fields, "excerpt", 1000), is_draft(fields), addresses(links), path, slug.strip("/").rpartition("/")[2], unknown(fields),
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
    flat = {field_name(name): value for name, value in fields.items()}
    for name in UNDER:
        if isinstance(flat.get(name), dict):
            flat = {**_flat(flat.pop(name)), **flat}
    return flat

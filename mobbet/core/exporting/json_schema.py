"""The JSON Schema (2020-12) of an export: of `blog.json`, of each line of a file of rows, and of the facts of a post."""

from __future__ import annotations

from typing import Any

from mobbet.core.exporting.forms import Field
from mobbet.core.exporting.tables import BLOG, CHOICES, MEDIA, PERSON, POST, REVISION, TABLES

ADDRESS = "https://mobbet.example/export.schema.json"
NUMBERED = ("post", "media", "placement", "kept", "comment", "note", "account", "mailing")
"""Kinds of rows that are named by numbers; others by a slug, a name or an e-mail address."""
_OBJECT, _LIST, _TEXT, _WHOLE = {"type": "object"}, {"type": "array"}, {"type": "string"}, {"type": "integer"}
_INSTANT = {"anyOf": [{"type": "string", "pattern": "^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}Z$"}, _WHOLE]}
_SIMPLE: dict[str, dict[str, Any]] = {
    "text": _TEXT, "name": _TEXT, "document": {**_TEXT, "contentMediaType": "text/markdown"}, "description": {**_TEXT, "contentMediaType": "text/markdown"},
    "whole": _WHOLE, "page": _WHOLE, "lead": {**_WHOLE, "minimum": 0}, "real": {"type": "number"}, "time": _INSTANT, "data": {"type": ["array", "object"]},
    "data[]": _LIST, "data{}": _OBJECT, "house": _OBJECT, "own_look": _OBJECT, "alike": _OBJECT, "rights": _OBJECT, "owner": _TEXT,
    "wishes": {**_LIST, "items": {**_LIST, "items": _TEXT}}, "shown": {**_LIST, "items": {**_LIST, "items": _WHOLE}}, "categories": {**_LIST, "items": _TEXT},
}  # fmt: skip


def _of(word: str) -> dict[str, Any]:
    """The schema of a value, by the word that names its form."""
    base = word.rstrip("?0*")
    if word in _SIMPLE or base in _SIMPLE:
        return _SIMPLE.get(word, _SIMPLE.get(base, {}))
    one = {**_WHOLE, "minimum": 1} if base in NUMBERED else _TEXT
    named = {**one, "description": f"names a {base}"}
    return {**_LIST, "items": named} if word.endswith("*") else named


def _rows(fields: tuple[Field, ...], **more: dict[str, Any]) -> dict[str, Any]:
    return {
        **_OBJECT,
        "properties": {**more, **{one.name: _of(one.word) for one in fields}},
        "additionalProperties": False,
    }


def json_schema() -> dict[str, Any]:
    """The schema; `$defs` has one for each file of rows, by its name without the ending, and `post` and `revision` for facts before a text."""
    rows = {
        table.file.removesuffix(".jsonl"): _rows(table.fields, **({"file": _TEXT} if table is MEDIA else {}))
        for table in TABLES
    }
    filed = {**_LIST, "items": _TEXT}
    post = _rows(
        (*REVISION, *POST),
        number=_WHOLE,
        revision=_WHOLE,
        categories=filed,
        tags=filed,
        lead={**_WHOLE, "minimum": 0},
    )
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema", "$id": ADDRESS, "title": "The export of a blog of Mobbet: blog.json",
        "type": "object", "required": ["format", "version", "has", "rows", "blog"], "additionalProperties": False,
        "properties": {
            "format": {"const": "mobbet-blog"}, "version": {"const": 1}, "has": {**_LIST, "items": {"enum": sorted(CHOICES)}},
            "rows": {**_OBJECT, "additionalProperties": _WHOLE}, "blog": {"$ref": "#/$defs/blog"},
        },
        "$defs": {"blog": _rows(BLOG), "person": _rows(PERSON), "post": post, "revision": _rows(REVISION), **rows},
    }  # fmt: skip

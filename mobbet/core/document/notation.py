"""Mobbet's notation in Markdown, for the kinds that CommonMark lacks: fenced blocks, which any reader
of CommonMark shows as they are.

    ~~~ mobbet:callout sign=care title="Mind the mains"
    Unplug it. **Then** unplug it again.
    ~~~

A list with signs or numbers of its own is a plain list below a comment, which other programs pass over:

    <!-- mobbet:ordered-list numbers=lower-alpha -->
    1. Unplug it.

The fence's first word is `mobbet:` and the kind; `name=value` pairs follow, a value being a bare word or
JSON. Inside stands Markdown, in which further fences may stand; outer fences are longer than inner ones.
`mobbet:html` holds blocks in HTML. docs/notation.md lists the kinds.
"""

from __future__ import annotations

import json
import re
from typing import Any

from mobbet.core.errors import BadDocument

Node = dict[str, Any]

PREFIX = "mobbet:"
HTML = "html"
LIST_STYLES = {"bulletList": "sign", "orderedList": "numbers"}
"""The attribute of a list that CommonMark lacks."""
_LIST_COMMENT = re.compile(
    r"<!-- mobbet:(bullet-list(?= sign)|ordered-list(?= numbers)) (?:sign|numbers)=([a-z-]{1,20}) -->"
)
_BARE = re.compile(r"[A-Za-z#./:_-][\w#./:%?=-]*|-?\d+")
_PAIR = re.compile(r"\s*([a-z_]+)=")
_WORD = re.compile(r"[^\s\"\[\]{}]+")
_DECODER = json.JSONDecoder()


def fence(kind: str, attrs: dict[str, Any], body: str) -> str:
    """A fenced block of a kind, with the attributes given, around a body of whole lines."""
    longest = max((len(run) for run in re.findall(r"~{3,}", body)), default=2)
    sign = "~" * max(3, longest + 1)
    words = " ".join([PREFIX + kind, *(f"{name}={_value(value)}" for name, value in attrs.items())])
    # CommonMark reads backslashes and entities in this line
    words = words.replace("\\", "\\\\").replace("&", "&amp;")
    return f"{sign} {words}\n{body}\n{sign}" if body else f"{sign} {words}\n{sign}"


def read_fence(info: str) -> tuple[str, dict[str, Any]] | None:
    """The kind and the attributes in a fence's first line; None for a fence of plain code."""
    first, _, rest = info.strip().partition(" ")
    if not first.startswith(PREFIX):
        return None
    attrs: dict[str, Any] = {}
    at, end = 0, len(rest.rstrip())
    while at < end:
        pair = _PAIR.match(rest, at)
        if not pair:
            raise BadDocument(f"“{rest[at:].strip()[:40]}” is no name=value pair.")
        attrs[pair.group(1)], at = _read_value(rest, pair.end(), pair.group(1))
    return first[len(PREFIX) :], attrs


def list_comment(kind: str, value: str) -> str:
    """The comment above a list that says its numbers or its sign."""
    return f"<!-- {PREFIX}{kebab(kind)} {LIST_STYLES[kind]}={value} -->"


def read_list_comment(text: str) -> tuple[str, str] | None:
    """(kind of the list, its numbers or sign) of such a comment; None for any other text."""
    found = _LIST_COMMENT.fullmatch(text.strip())
    return (camel(found.group(1)), found.group(2)) if found else None


def kebab(name: str) -> str:
    """The name of a node as it is written in a fence: `raw-html` for `rawHtml`."""
    return re.sub(r"([A-Z])", lambda match: "-" + match.group(1).lower(), name)


def camel(name: str) -> str:
    """The other way round."""
    return re.sub(r"-([a-z])", lambda match: match.group(1).upper(), name)


def _value(value: Any) -> str:
    if isinstance(value, str) and _BARE.fullmatch(value) and not _is_json(value):
        return value
    return json.dumps(value, ensure_ascii=False)


def _read_value(rest: str, at: int, name: str) -> tuple[Any, int]:
    bare = _WORD.match(rest, at)
    if bare:
        word = bare.group(0)
        return (json.loads(word) if _is_json(word) else word), at + len(word)
    try:
        return _DECODER.raw_decode(rest, at)
    except (ValueError, RecursionError):
        raise BadDocument(
            f"The value of “{name}” cannot be read; write it as a word or between double quotes."
        ) from None


def _is_json(word: str) -> bool:
    try:
        json.loads(word)
    except ValueError:
        return False
    return True

"""How the values of a column are spelled in an export, and read back.

A form is named by one word in `tables.py`: `text`, `whole`, `real`, `time`, `data`, `name` (see `FORMS`), or a kind of row that the column refers
to, such as `post`. A `?` behind it says that the column may be NULL, `0` that 0 stands for none, `*` that it is a JSON list of such numbers.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import partial
from typing import Any, Protocol

from mobbet.core.canonical import canonical
from mobbet.core.errors import BadInput
from mobbet.core.timing import iso

Key = int | str
LONGEST, LARGEST_NUMBER = 20_000_000, 2**53
LAST_INSTANT = 253402300799
"""The last second of the year 9999; later instants are written as numbers."""
_INSTANT = re.compile(r"\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ")


class References(Protocol):
    """What rows are called in an export, where the numbers of the installation mean nothing."""

    def key(self, kind: str, number: int) -> Key | None:
        """The name of a row of the blog: its number in the export, or its slug, e-mail address or name. None for a row that the export has not."""

    def number(self, kind: str, key: Key) -> int:
        """The number in this installation. Raises BadInput for a row that the export has not."""

    def document(self, markdown: str) -> dict[str, Any]:
        """The document of a Markdown text, as the schema has it. Raises BadInput, TooMuch."""


class Missing(Exception):
    """A row refers to one that the export has not, and cannot be without it."""


@dataclass(frozen=True)
class Form:
    """`write` gives the JSON value of a column, `read` the column of a JSON value; `empty` is the value that is left out of a file."""

    write: Callable[[Any, References], Any]
    read: Callable[[Any, References], Any]
    empty: Any = None


def refuse(value: Any, wanted: str) -> BadInput:
    """The error for a value that is not what a field wants."""
    return BadInput(
        f"{json.dumps(value, ensure_ascii=False, default=str)[:80]} is not {wanted}; correct it in the folder.",
        "folder",
    )


def _as_is(value: Any, refs: References) -> Any:
    return value


def _text(value: Any, refs: References) -> str:
    if not isinstance(value, str) or len(value) > LONGEST or "\0" in value:
        raise refuse(value, "text")
    try:
        value.encode()
    except UnicodeEncodeError:
        raise refuse(ascii(value), "text") from None
    return value


def _whole(value: Any, refs: References) -> int:
    if isinstance(value, bool) or not isinstance(value, int) or abs(value) > LARGEST_NUMBER:
        raise refuse(value, "a whole number")
    return value


def _real(value: Any, refs: References) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not abs(value) < 1e15:
        raise refuse(value, "a number")
    return float(value)


def _write_time(value: int | None, refs: References) -> str | int | None:
    return iso(value) if value is not None and 0 < value <= LAST_INSTANT else value


def _time(value: Any, refs: References) -> int:
    if isinstance(value, int):
        return _whole(value, refs)
    if isinstance(value, str) and _INSTANT.fullmatch(value):
        try:
            return int(datetime.strptime(value, "%Y-%m-%dT%H:%M:%SZ").replace(tzinfo=UTC).timestamp())
        except ValueError:
            pass
    raise refuse(value, "an instant such as 2026-12-01T09:00:00Z")


def _write_data(blank: str, value: str, refs: References) -> Any:
    return None if value == blank else json.loads(canonical(json.loads(value)))


def _data(blank: str, value: Any, refs: References) -> str:
    if value is None:
        return blank
    if not isinstance(value, list | dict):
        raise refuse(value, "a list or an object")
    return _text(canonical(value), refs)


def _write_reference(kind: str, needed: bool, none: Any, value: int | None, refs: References) -> Key | None:
    found = refs.key(kind, value) if value is not None and value != none else None
    if found is None and needed:
        raise Missing(kind)
    return found


def _reference(kind: str, needed: bool, none: int | None, value: Any, refs: References) -> int | None:
    if value is None and not needed:
        return none
    if isinstance(value, bool) or not isinstance(value, int | str):
        raise refuse(value, f"the name of a {kind}")
    return refs.number(kind, value)


def _write_references(kind: str, value: str, refs: References) -> list[Key]:
    return [key for number in json.loads(value) if (key := refs.key(kind, number)) is not None]


def _references(kind: str, value: Any, refs: References) -> str:
    if not isinstance(value, list):
        raise refuse(value, f"a list of {kind} names")
    return json.dumps([_reference(kind, True, None, one, refs) for one in value])


NAMED = {
    "group": "group", "person": "person", "author": "person", "password": "post", "post": "post", "category": "category", "tag": "tag",
    "series": "series", "comments": "post", "answers": "comment",
}  # fmt: skip
"""{what stands before the colon of a name such as `group:3`: the kind of row whose number follows}."""


def write_name(value: str, refs: References) -> str:
    """A name such as `group:3` with the key in place of the number; nothing follows the colon where the export has no such row."""
    kind, colon, which = value.partition(":")
    if not colon or kind not in NAMED or not which.isdecimal():
        return value
    key = refs.key(NAMED[kind], int(which))
    return f"{kind}:{'' if key is None else key}"


def read_name(value: Any, refs: References) -> str:
    """The other way round. A name that nothing follows gets the number 0, which no row has."""
    text = _text(value, refs)
    kind, colon, which = text.partition(":")
    if not colon or kind not in NAMED:
        return text
    key: Key = int(which) if which.isdecimal() and len(which) < 16 else which
    return f"{kind}:{refs.number(NAMED[kind], key) if which else 0}"


def _write_page(value: int, refs: References) -> Key:
    """What is counted: a post by its key, or a number that stands for no post (0 and below)."""
    if value <= 0:
        return value
    found = refs.key("post", value)
    if found is None:
        raise Missing("post")
    return found


def _page(value: Any, refs: References) -> int:
    number = _whole(value, refs)
    return number if number <= 0 else refs.number("post", number)


FORMS: dict[str, Form] = {
    "text": Form(_as_is, _text, ""),
    "whole": Form(_as_is, _whole, 0),
    "real": Form(_as_is, _real, 0),
    "time": Form(_write_time, _time, 0),
    "name": Form(write_name, read_name, ""),
    "page": Form(_write_page, _page, 0),
    "data": Form(partial(_write_data, ""), partial(_data, "")),
    "data[]": Form(partial(_write_data, "[]"), partial(_data, "[]")),
    "data{}": Form(partial(_write_data, "{}"), partial(_data, "{}")),
}
"""{word: form}; `name` is text with references such as `group:3`, `data` JSON that is kept as text, with the text of its column where it is empty."""


def or_none(form: Form) -> Form:
    """The form of a column that may be NULL."""
    return Form(
        lambda value, refs: None if value is None else form.write(value, refs),
        lambda value, refs: None if value is None else form.read(value, refs),
    )


@dataclass(frozen=True)
class Field:
    """One column: what it is called in a file, its form, and the word that names the form."""

    column: str
    name: str
    form: Form
    word: str


def written(row: dict[str, Any], columns: tuple[Field, ...], refs: References) -> dict[str, Any]:
    """A row as it stands in a file. Raises Missing."""
    values = {field.name: field.form.write(row[field.column], refs) for field in columns}
    return {field.name: values[field.name] for field in columns if values[field.name] != field.form.empty}


def read(
    data: Any, columns: tuple[Field, ...], refs: References, other: frozenset[str] = frozenset()
) -> dict[str, Any]:
    """The columns of a row in a file. Raises BadInput for what is no such row; `other` are names that stand beside its fields."""
    if not isinstance(data, dict):
        raise refuse(data, "an object")
    unknown = data.keys() - {field.name for field in columns} - other
    if unknown:
        raise BadInput(
            f"There is no field “{min(unknown)[:60]}” here; take it out, or export again with this Mobbet.",
            "folder",
        )
    found = {}
    for field in columns:
        try:
            found[field.column] = field.form.read(data.get(field.name, field.form.empty), refs)
        except BadInput as error:
            raise BadInput(f"{field.name}: {error}", "folder") from None
    return found


def reference(kind: str, mark: str) -> Form:
    """The form of a column that refers to a row of a kind, by what stands behind the kind: `?`, `0`, `*` or nothing."""
    if mark == "*":
        return Form(partial(_write_references, kind), partial(_references, kind), [])
    needed, none = mark == "", 0 if mark == "0" else None
    return Form(partial(_write_reference, kind, needed, none), partial(_reference, kind, needed, none))

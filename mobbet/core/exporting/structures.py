"""How values are spelled in an export that have references within them: documents, parts of the house, and some lines of the docket."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import partial
from typing import Any

from mobbet.core.canonical import canonical
from mobbet.core.document import schema
from mobbet.core.document.links import media_number, media_src, post_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput
from mobbet.core.exporting import forms
from mobbet.core.exporting.forms import FORMS, Field, Form, Key, References, read_name, refuse, write_name

Renumber = Callable[[str, Any], Any]
"""Gives the key of a number in an export, or the number of a key: (kind of row, number or key). None for a row that is not there."""
NO_ROW = 999_999_999_999
"""What a text names instead of a row that the export has not."""


def renumbered(document: dict[str, Any], renumber: Renumber) -> dict[str, Any]:
    """A document whose pictures, links to posts and saved blocks have other numbers."""
    copy: dict[str, Any] = json.loads(json.dumps(document))
    for node in walk(copy):
        for attributes in [node.get("attrs", {}), *(mark.get("attrs", {}) for mark in node.get("marks", ()))]:
            for name in ("src", "poster", "href", "address"):
                if isinstance(attributes.get(name), str):
                    attributes[name] = _address(attributes[name], renumber)
            if node["type"] == "standing" and "copy" in attributes:
                attributes["copy"] = renumber("kept", attributes["copy"]) or NO_ROW
    return copy


def _address(address: str, renumber: Renumber) -> str:
    item, post = media_number(address), post_number(address)
    if item is not None:
        return media_src(renumber("media", item) or NO_ROW)
    if post is not None:
        return (
            f"post:{renumber('post', post) or NO_ROW}{address.partition('#')[1]}{address.partition('#')[2]}"
        )
    return address


def lenient(refs: References) -> Renumber:
    """The numbers of keys; None for a row that the export has not, which a text may name and nothing else."""

    def number(kind: str, key: Key) -> int | None:
        try:
            return refs.number(kind, key)
        except BadInput:
            return None

    return number


def write_document(body: str, refs: References) -> str:
    """A document that is kept as JSON, as Markdown with Mobbet's notation."""
    return to_markdown(renumbered(schema.load(body), refs.key)).removesuffix("\n") if body else ""


def read_document(markdown: Any, refs: References) -> str:
    """A document in Markdown as it is kept."""
    text = FORMS["text"].read(markdown, refs)
    return canonical(renumbered(refs.document(text), lenient(refs)))


def _read_description(markdown: Any, refs: References) -> str:
    """A document that may be missing, as ''."""
    return read_document(markdown, refs) if markdown else ""


def _each(data: Any, path: tuple[str, ...], change: Callable[[Any], Any]) -> None:
    """Changes what stands at a path of a structure in place; `*` is each of a list."""
    if not path:
        return
    name, *below = path
    places = (
        range(len(data))
        if name == "*" and isinstance(data, list)
        else [name]
        if isinstance(data, dict) and name in data
        else []
    )
    for place in places:
        if below:
            _each(data[place], tuple(below), change)
        else:
            data[place] = change(data[place])


_NUMBERS: dict[tuple[str, ...], str] = {
    ("icon",): "media", ("picture",): "media", ("front_door",): "post",
    ("top", "mark", "item"): "media", ("top", "picture", "item"): "media", ("page", "picture", "item"): "media",
    ("rules", "*", "block"): "kept", ("rules", "*", "categories", "*"): "category", ("rules", "*", "tags", "*"): "tag",
    ("pinned", "*"): "post", ("struck", "*"): "post",
    ("asks", "writer", "*"): "category", ("asks", "editor", "*"): "category",
}  # fmt: skip
"""{where a number stands in a part of the house, an own look, a choice of posts like it, or in rights: of what}."""
_NAMES = [
    (where, *depth, "to")
    for where in ("menu", "foot")
    for depth in (("*",), ("*", "below", "*"), ("*", "below", "*", "below", "*"))
]
_SECTIONS = {
    "chosen": "post",
    "category": "category",
    "tag": "tag",
    "authors": "person",
    "blocks": "kept",
    "pages": "post",
}
"""{kind of a section of the front page: what its numbers are of}."""


def _walked(data: Any, number: Renumber, name: Callable[[str], str]) -> Any:
    for path, kind in _NUMBERS.items():
        _each(data, path, partial(_unless_none, number, kind))
    for path in _NAMES:
        _each(data, path, name)
    for section in data.get("sections", ()) if isinstance(data, dict) else ():
        if isinstance(section, dict) and section.get("kind") in _SECTIONS:
            kind = _SECTIONS[section["kind"]]
            _each(section, ("of", "*"), partial(number, kind))
    return _without_lost(data)


def _unless_none(number: Renumber, kind: str, value: Any) -> Any:
    return number(kind, value) if value else value


def _without_lost(data: Any) -> Any:
    """A structure without the numbers of lists that were lost; elsewhere 0 stands for them."""
    if isinstance(data, list):
        return [_without_lost(one) for one in data if one is not LOST]
    if isinstance(data, dict):
        return {key: 0 if value is LOST else _without_lost(value) for key, value in data.items()}
    return data


LOST = object()


def _write_structure(blank: str, value: str, refs: References) -> Any:
    def number(kind: str, at: Any) -> Any:
        found = refs.key(kind, at) if isinstance(at, int) else at
        return LOST if found is None else found

    return (
        None
        if value == blank
        else _walked(json.loads(canonical(json.loads(value))), number, lambda text: write_name(text, refs))
    )


def _read_structure(blank: str, value: Any, refs: References) -> str:
    def number(kind: str, key: Any) -> Any:
        return refs.number(kind, key) if isinstance(key, int | str) and not isinstance(key, bool) else key

    if value is None:
        return blank
    if not isinstance(value, dict):
        raise refuse(value, "an object")
    copy = json.loads(json.dumps(value))  # it is walked in place, and read twice
    return canonical(_walked(copy, number, lambda text: read_name(text, refs)))


def _write_wishes(value: str, refs: References) -> list[list[str]]:
    return [[write_name(what, refs), every] for what, every in json.loads(value)]


def _read_wishes(value: Any, refs: References) -> str:
    if not isinstance(value, list) or not all(
        isinstance(one, list) and len(one) == 2 and isinstance(one[1], str) for one in value
    ):
        raise refuse(value, "a list of pairs")
    return json.dumps([[read_name(what, refs), every] for what, every in value])


def _write_shown(value: str, refs: References) -> list[list[Key]]:
    """The posts of a letter, each with its placement."""
    pairs = [
        (refs.key("post", post), refs.key("placement", placement)) for post, placement in json.loads(value)
    ]
    return [[post, placement] for post, placement in pairs if post is not None and placement is not None]


def _read_shown(value: Any, refs: References) -> str:
    if not isinstance(value, list) or not all(isinstance(one, list) and len(one) == 2 for one in value):
        raise refuse(value, "a list of pairs")
    return json.dumps(
        [[refs.number("post", post), refs.number("placement", placement)] for post, placement in value]
    )


def _write_categories(value: str, refs: References) -> list[Key]:
    """Numbers with commas between them."""
    return [key for one in value.split(",") if one and (key := refs.key("category", int(one))) is not None]


def _read_categories(value: Any, refs: References) -> str:
    if not isinstance(value, list):
        raise refuse(value, "a list of categories")
    return ",".join(str(refs.number("category", key)) for key in value)


def _read_owner(value: Any, refs: References) -> str:
    """What an address belongs to, such as `post:12`; `away:0` for none."""
    kind = str(value).partition(":")[0]
    if kind not in ("post", "category", "tag", "away"):
        raise refuse(value, "what an address belongs to")
    return read_name(value, refs)


def _read_lead(value: Any, refs: References) -> int | None:
    return None if value is None else forms.FORMS["whole"].read(value, refs)


STRUCTURES: dict[str, Form] = {
    "document": Form(write_document, read_document, ""),
    "description": Form(write_document, _read_description, ""),
    "house": Form(partial(_write_structure, ""), partial(_read_structure, "{}")),
    "own_look": Form(partial(_write_structure, ""), partial(_read_structure, "")),
    "alike": Form(partial(_write_structure, ""), partial(_read_structure, "")),
    "rights": Form(partial(_write_structure, "{}"), partial(_read_structure, "{}")),
    "wishes": Form(_write_wishes, _read_wishes, []),
    "shown": Form(_write_shown, _read_shown, []),
    "categories": Form(_write_categories, _read_categories, []),
    "owner": Form(write_name, _read_owner, ""),
    "lead": Form(lambda value, refs: value, _read_lead),
}  # fmt: skip


def form_of(word: str) -> Form:
    """The form that a word names."""
    known = {**FORMS, **STRUCTURES}
    base = word.rstrip("?0*")
    if word in known:
        return known[word]
    return forms.or_none(known[base]) if base in known else forms.reference(base, word[len(base) :])


def fields(spec: str) -> tuple[Field, ...]:
    """The fields of a description such as `name text, parent_id category?, actor_id=who person?`: a column, what a file calls it, and its form."""
    found = []
    for part in filter(None, (one.strip() for one in spec.split(","))):
        named, word = part.split()
        column, _, name = named.partition("=")
        found.append(Field(column, name or column.removesuffix("_id"), form_of(word), word))
    assert len({field.name for field in found}) == len(found), spec
    return tuple(found)

"""Micropub (W3C Recommendation of 23 May 2017): requests as values, with the properties of microformats2."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from mobbet.core.errors import Refused

Properties = dict[str, list[Any]]
"""{property of an h-entry: its values}, such as `{"name": ["A lamp"], "category": ["flex"]}`."""
MOST_VALUES, MOST_PROPERTIES = 200, 60
COMMANDS = frozenset({"access_token", "action", "h", "url", "q"})
"""Names of a form that are no properties."""
CREATE, UPDATE, DELETE, UNDELETE = "create", "update", "delete", "undelete"


class NotTaken(Refused):
    """A request that cannot be answered: `error` and `status` as the Recommendation has them; `scope` is the one that the token lacks."""

    def __init__(self, error: str, message: str, status: int = 400, scope: str = "") -> None:
        super().__init__(message)
        self.error, self.status, self.scope = error, status, scope


def invalid(message: str) -> NotTaken:
    return NotTaken("invalid_request", message)


@dataclass(frozen=True)
class Changes:
    """What an update does with properties: those to replace, those to add to, those to remove whole, and values to remove."""

    replace: Properties = field(default_factory=dict)
    add: Properties = field(default_factory=dict)
    remove: tuple[str, ...] = ()
    remove_values: Properties = field(default_factory=dict)


@dataclass(frozen=True)
class Request:
    """What a program wants done: with a new post's properties, or with the post at an address."""

    action: str
    properties: Properties = field(default_factory=dict)
    url: str = ""
    changes: Changes = Changes()


def of_form(form: Iterable[tuple[str, Any]]) -> Request:
    """The request of a form, whose names may end with `[]`. Raises NotTaken."""
    pairs = list(form)
    known = {name: value for name, value in pairs if isinstance(value, str)}
    action = known.get("action", CREATE)
    if action in (DELETE, UNDELETE):
        return Request(action, url=_url(known.get("url")))
    if action == UPDATE:
        raise invalid("An update is sent as JSON; this one came as a form.")
    if action != CREATE:
        raise invalid(f"“{action[:40]}” is nothing that can be done with a post.")
    if known.get("h", "entry") != "entry":
        raise invalid(f"“h-{known['h'][:40]}” is not made here; send h=entry.")
    properties: Properties = {}
    for name, value in pairs:
        if name not in COMMANDS:
            properties.setdefault(name.removesuffix("[]"), []).append(value)
    return Request(CREATE, _bounded(properties))


def of_json(data: Any) -> Request:
    """The request of a JSON object. Raises NotTaken."""
    if not isinstance(data, dict):
        raise invalid("The request is no JSON object.")
    action = data.get("action", CREATE)
    if action in (DELETE, UNDELETE):
        return Request(action, url=_url(data.get("url")))
    if action == UPDATE:
        return Request(UPDATE, url=_url(data.get("url")), changes=_changes(data))
    if action != CREATE:
        raise invalid(f"“{str(action)[:40]}” is nothing that can be done with a post.")
    if data.get("type") != ["h-entry"]:
        raise invalid('“type” is not ["h-entry"]; nothing else is made here.')
    return Request(CREATE, _properties(data.get("properties"), "properties"))


def _url(value: Any) -> str:
    if not isinstance(value, str) or not value or len(value) > 2000:
        raise invalid("“url” has no address of a post.")
    return value


def _properties(data: Any, name: str) -> Properties:
    if not isinstance(data, dict) or not all(isinstance(values, list) for values in data.values()):
        raise invalid(f"“{name}” is no object whose values are lists.")
    return _bounded({str(key): values for key, values in data.items()})


def _bounded(properties: Properties) -> Properties:
    if len(properties) > MOST_PROPERTIES or any(len(values) > MOST_VALUES for values in properties.values()):
        raise invalid(
            f"There are more than {MOST_PROPERTIES} properties, or more than {MOST_VALUES} values of one."
        )
    return properties


def _changes(data: Mapping[str, Any]) -> Changes:
    gone = data.get("delete", [])
    names = isinstance(gone, list) and all(isinstance(one, str) for one in gone)
    if not names and not isinstance(gone, dict):
        raise invalid("“delete” is neither a list of properties nor an object whose values are lists.")
    changes = Changes(
        _properties(data.get("replace", {}), "replace"),
        _properties(data.get("add", {}), "add"),
        tuple(gone) if names else (),
        {} if names else _properties(gone, "delete"),
    )
    if changes == Changes():
        raise invalid("The update names nothing to replace, add or delete.")
    return changes


def changed(properties: Properties, changes: Changes) -> Properties:
    """Properties with an update made to them."""
    found = {name: list(values) for name, values in properties.items() if name not in changes.remove}
    found |= {name: list(values) for name, values in changes.replace.items()}
    for name, values in changes.add.items():
        known = found.setdefault(name, [])
        known += [value for value in values if value not in known]
    for name, values in changes.remove_values.items():
        found[name] = [value for value in found.get(name, []) if value not in values]
    return found


def touched(changes: Changes) -> set[str]:
    """The properties that an update names."""
    return {*changes.replace, *changes.add, *changes.remove, *changes.remove_values}


def text_of(properties: Properties, name: str, most: int = 20_000) -> str | None:
    """The one value of a property, as text; None where it is missing. Raises NotTaken for another kind of value."""
    values = properties.get(name) or []
    if not values:
        return None
    value = values[0]
    if isinstance(value, dict):
        value = value.get("value", value.get("text"))
    if isinstance(value, bool) or not isinstance(value, str | int | float) or len(str(value)) > most:
        raise invalid(f"“{name}” has a value that is no text, or more than {most:,} letters.")
    return str(value)


def texts_of(properties: Properties, name: str) -> list[str] | None:
    """The values of a property that are texts; None where it is missing."""
    if name not in properties:
        return None
    return [str(value) for value in properties[name] if isinstance(value, str | int | float)]

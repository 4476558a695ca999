"""The keys that somebody prefers to Mobbet's own."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping

from mobbet.core.errors import BadInput

COMMANDS = {
    "Alt+J": "Find a post, or go to a place",
    "Ctrl+/": "The sheet of keys",
    "Alt+N": "A new post",
    "Alt+O": "The preview, and back to the sheet",
    "Alt+K": "To the docket",
    "Ctrl+Enter": "To the main action",
    "Alt+S": "The next free slot",
    "F8": "The next mark of the proof",
    "F9": "The next note",
    "Alt+M": "A note on the chosen words",
    "Alt+Enter": "Insert something below this block",
    "Alt+F10": "To the toolbar",
    "Ctrl+S": "Save now",
    "Ctrl+F": "Find and replace",
    "Ctrl+D": "Duplicate the block",
}
"""What can have another key: {Mobbet's own key: what it does}. With Shift, some go the other way."""
_OF_TEXT = "BIUEK.,\\CVXAZYTWNQRLPH"
"""With Ctrl alone, these belong to the browser, or to writing as every program has it."""
_NAMES = {
    "ctrl": "Ctrl", "control": "Ctrl", "strg": "Ctrl", "cmd": "Ctrl", "⌘": "Ctrl", "alt": "Alt", "option": "Alt", "⌥": "Alt", "shift": "Shift", "⇧": "Shift",
    "enter": "Enter", "return": "Enter", "up": "Up", "down": "Down",
}  # fmt: skip
_LAST = re.compile(r"[A-Z0-9/.,;'\[\]=-]|F(?:[2489]|10)|Enter|Up|Down")
MOST_LETTERS = 40


def read_keys(text: str) -> str:
    """A combination as it is typed, `ctrl + alt + k`, in Mobbet's spelling, `Ctrl+Alt+K`. Raises BadInput for one that cannot be had."""
    parts = [
        _NAMES.get(part.strip().lower(), part.strip().upper()) for part in text[:MOST_LETTERS].split("+")
    ]
    *modifiers, last = parts
    shown = text.strip()[:MOST_LETTERS]
    if not _LAST.fullmatch(last) or set(modifiers) - {"Ctrl", "Alt", "Shift"}:
        raise BadInput(
            f"“{shown}” is no combination of keys; press one, or type it like Ctrl+Alt+K or F4.", "keys"
        )
    if "Ctrl" not in modifiers and "Alt" not in modifiers and not re.fullmatch(r"F\d+", last):
        raise BadInput(
            f"“{shown}” alone types letters; add Ctrl or Alt, or choose F2, F4, F8, F9 or F10.", "keys"
        )
    if modifiers == ["Ctrl"] and last in _OF_TEXT:
        raise BadInput(f"{shown} belongs to the browser or to writing; choose another combination.", "keys")
    return "+".join([*(name for name in ("Ctrl", "Alt", "Shift") if name in modifiers), last])


def read_own(typed: Mapping[str, str]) -> dict[str, str]:
    """{Mobbet's own key: the one that is preferred}, of those that differ. Raises BadInput, with the own key as its field."""
    found: dict[str, str] = {}
    for usual in COMMANDS:
        if text := typed.get(usual, "").strip():
            try:
                keys = read_keys(text)
            except BadInput as error:
                raise BadInput(str(error), usual) from None
            if keys != usual:
                found[usual] = keys
    held: dict[str, str] = {}
    for usual, words in COMMANDS.items():
        keys = found.get(usual, usual)
        if keys in held:
            raise BadInput(
                f"{keys} would do two things, “{held[keys]}” and “{words}”; choose another one.", usual
            )
        held[keys] = words
    return found


def stored(own: Mapping[str, str]) -> str:
    return json.dumps(dict(sorted(own.items())))

"""The keys of each screen, which its sheet of keys shows (`_keys.html`) and its scripts answer to."""

from __future__ import annotations

from collections.abc import Mapping

Keys = tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
"""Headings, each with (keys, what they do)."""

_EVERYWHERE = (
    "Everywhere",
    (
        ("Alt+J", "find a post, or go to a place"),
        ("Ctrl+/", "this sheet of keys"),
        ("Escape", "close what is open"),
    ),
)
_WRITE: Keys = (
    ("The post", (
        ("Alt+O", "the preview, and back to the sheet"), ("Alt+K", "to the docket"), ("Ctrl+Enter", "to the main action; Enter does it"), ("Alt+S", "the next free slot"),
        ("F8, Shift+F8", "the next mark of the proof, or the one before"), ("F9, Shift+F9", "the next note, or the one before"), ("Alt+M", "a note on the chosen words"), ("Ctrl+S", "save now"), ("Ctrl+F", "find and replace"),
        ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"), ("Ctrl+Shift+V", "paste as plain text"),
    )),
    ("Words", (
        ("Ctrl+B", "bold"), ("Ctrl+I", "italic"), ("Ctrl+U", "underline"), ("Ctrl+Shift+S", "strike through"), ("Ctrl+E", "code in the line"), ("Ctrl+.", "raised"),
        ("Ctrl+,", "lowered"), ("Ctrl+K", "link"), ("Ctrl+\\", "clear formatting"),
    )),
    ("Blocks", (
        ("Ctrl+Alt+2 to 4", "headings"), ("Ctrl+Alt+0", "paragraph"), ("Ctrl+Shift+8", "list"), ("Ctrl+Shift+7", "numbered list"), ("Ctrl+Shift+B", "quote"),
        ("Tab, Shift+Tab", "deeper or higher in a list, next cell in a table"), ("Shift+Enter", "line break"),
    )),
    ("Moving", (
        ("Alt+Enter", "insert something below this block"), ("Shift+Alt+Enter", "insert something above it"), ("Alt+Up, Alt+Down", "move the block"),
        ("Ctrl+D", "duplicate the block"), ("Ctrl+Shift+Backspace", "remove the block"), ("Escape", "select the block, then what is around it"),
        ("Ctrl+Alt+Right, Left", "a picture wider, or narrower"), ("Alt+F10", "to the toolbar"),
    )),
    ("Typed at the start of a line", (
        ("## and a space", "heading"), ("- or * and a space", "list"), ("1. and a space", "numbered list"), ("> and a space", "quote"), ("``` and a space", "code"),
        ("---", "a line across"), ("**bold**, *italic*, ~~struck~~, `code`", "as you type"),
    )),
)  # fmt: skip
_OF_SCREEN: Mapping[str, Keys] = {
    "desk": (
        ("Posts", (
            ("Alt+N", "a new post"), ("Up, Down", "from post to post"), ("letters on a row", "search"), ("Space on a row", "a look at the post"),
            ("Shift+Up, Shift+Down", "choose posts"), ("Enter on a chosen row", "what can be done with them"),
        )),
        ("The line of time", (("Left, Right", "earlier, later"), ("+, -", "closer, wider"), ("Home", "today"))),
    ),
    "write": _WRITE,
    "timetable": (("A slip", (("Left, Right, Up, Down", "another day, another week"), ("Enter", "put it there"), ("T", "type a time"), ("Escape", "leave it"))),),
    "library": (("Cutting a picture", (("arrows", "move the cut"), ("Shift and arrows", "its size"), ("Alt and arrows", "the focal point"), ("Ctrl and arrows", "in small steps"))),),
    "readers": (("Comments", (("J, K", "the next comment, the one before"), ("S", "show it"), ("R", "refuse it"), ("Shift and a click", "tick all between"))),),
    "filing": (
        ("Categories", (("Up, Down", "from one to the next"), ("Alt and arrows", "move a category"))),
        ("A worklist", (("1 to 9", "choose"), ("Enter", "file it"), ("S", "skip it"))),
    ),
}  # fmt: skip


def keys_of(screen: str, own: Mapping[str, str]) -> Keys:
    """What a screen's sheet of keys shows, the screen's own first; `own` has somebody's keys by Mobbet's."""
    return tuple(
        (heading, tuple((_preferred(keys, own), words) for keys, words in rows))
        for heading, rows in (*_OF_SCREEN.get(screen, ()), _EVERYWHERE)
    )


def _preferred(keys: str, own: Mapping[str, str]) -> str:
    first, *other = keys.split(", ")
    preferred = own.get(first, first)
    return ", ".join(
        [preferred, *(f"Shift+{preferred}" if one == f"Shift+{first}" else one for one in other)]
    )

"""An editor's word that a post may go out: what it is given for, and which changes after it ask again."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from mobbet.core.canonical import canonical

Node = dict[str, Any]

ASKED, YES, BACK, TAKEN_BACK = "asked", "yes", "back", "taken-back"
NOTHING, SMALL, ANYTHING = "", "small", "anything"
OUTLASTS = {
    NOTHING: "for this text exactly",
    SMALL: "also after a few changed words",
    ANYTHING: "whatever changes in the text",
}
"""Which changes a yes outlasts. Other readers or another category ask again in any case."""
MOST_WORDS = 12
"""How many words may be others for a change to be small."""
_WORD = re.compile(r"\S+")


@dataclass(frozen=True)
class Text:
    """What readers would get of a post: its words and blocks."""

    title: str
    subtitle: str
    body: Node


def is_within(outlasts: str, before: Text, now: Text) -> bool:
    """Whether a change of the text is one that a yes outlasts."""
    if outlasts == ANYTHING or before == now:
        return True
    return outlasts == SMALL and _skeleton(before.body) == _skeleton(now.body) and _is_small(before, now)


def _is_small(before: Text, now: Text) -> bool:
    left = MOST_WORDS
    pairs = zip(_texts(before), _texts(now), strict=True)
    for one, other in pairs:
        left -= _changed(one, other)
        if left < 0:
            return False
    return True


def _changed(before: str, now: str) -> int:
    """How many words differ between where two texts begin to differ and where they end to; linear in their length."""
    if before == now:
        return 0
    one, other = _WORD.findall(before), _WORD.findall(now)
    start, shorter = 0, min(len(one), len(other))
    while start < shorter and one[start] == other[start]:
        start += 1
    end = 0
    while end < shorter - start and one[-1 - end] == other[-1 - end]:
        end += 1
    return max(len(one), len(other)) - start - end


def _texts(text: Text) -> Iterator[str]:
    """The title, the subtitle, and the text of each block that has some, in their order."""
    yield text.title
    yield text.subtitle
    waiting = [text.body]
    while waiting:
        node = waiting.pop()
        children = node.get("content", ())
        if _holds_text(node):
            yield "".join(child.get("text", "\ufffc") for child in children)
        else:
            waiting += reversed(children)


def _holds_text(node: Node) -> bool:
    return any(child["type"] == "text" for child in node.get("content", ()))


def _skeleton(node: Node) -> Any:
    """A document without its words: blocks with their settings, and in a text what marks stand in it and what stands between words."""
    bare = {key: value for key, value in node.items() if key not in ("content", "text")}
    if not _holds_text(node):
        return {**bare, "content": [_skeleton(child) for child in node.get("content", ())]}
    marks = sorted({canonical(mark) for child in node["content"] for mark in child.get("marks", ())})
    inline = [_skeleton(child) for child in node["content"] if child["type"] != "text"]
    return {**bare, "marks": marks, "inline": inline}

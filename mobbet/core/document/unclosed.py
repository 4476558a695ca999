"""Mistakes in HTML that a browser would mend silently: tags that are not closed, or close nothing."""

from __future__ import annotations

from html.parser import HTMLParser
from typing import Any

_VOID = frozenset("area base br col embed hr img input link meta param source track wbr".split())
_OPEN_ENDED = frozenset("p li td th tr dd dt thead tbody tfoot option html body head colgroup".split())
MOST = 3


class _Tags(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.open: list[tuple[str, int]] = []
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[Any]) -> None:
        if tag not in _VOID:
            self.open.append((tag, self.getpos()[0]))

    def handle_startendtag(self, tag: str, attrs: list[Any]) -> None:
        pass

    def handle_endtag(self, tag: str) -> None:
        if tag in _VOID:
            return
        if all(name != tag for name, _ in self.open):
            self.found.append(f"Line {self.getpos()[0]}: </{tag}> closes nothing.")
            return
        while self.open:
            name, line = self.open.pop()
            if name == tag:
                return
            if name not in _OPEN_ENDED:
                self.found.append(f"Line {line}: <{name}> is not closed.")


def mistakes(source: str) -> list[str]:
    """The first mistakes, each with its line."""
    tags = _Tags()
    tags.feed(source)
    tags.close()
    tags.found += [
        f"Line {line}: <{name}> is not closed." for name, line in tags.open if name not in _OPEN_ENDED
    ]
    return tags.found[:MOST]

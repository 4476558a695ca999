"""Passages of a text that notes are about: where they stand, and where they stand after the text changed.

A passage is known by its position, its words and what stands around it, as the W3C Web Annotation Data Model has it (TextPositionSelector,
TextQuoteSelector). Positions are offsets in the linear text of a post: its title, its subtitle, and each block with words or without, a line each.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from typing import Any

Node = dict[str, Any]
Segment = tuple[int, int, int]
"""(offset before, offset now, length) of a stretch that is the same in both texts."""

OBJECT, BREAK = "\ufffc", "\u2028"
"""What stands in a line for something without words, and for a forced break."""
CONTEXT = 32
LONGEST_QUOTE = 2000
ALIKE = 0.6
"""How much of a passage's words must still stand for it to be the same passage."""
CLOSE = 0.15
MOST_LINES, MOST_TOKENS = 600, 600
"""Stretches that changed are compared line by line, and word by word, up to so many."""
CLEAR = 12
"""So many letters of what stood beside a passage tell it from another one with the same words."""
_TOKEN = re.compile(r"\w+|\s+|[^\w\s]")
_INLINE = ("text", "fillIn", "lineBreak")


@dataclass(frozen=True)
class Line:
    """One line of a linear text: the path of its block (indices down from the document; () for title and subtitle), and its words."""

    path: tuple[int, ...]
    text: str


@dataclass(frozen=True)
class Passage:
    """A stretch of a linear text, with its words and what stood around it when it was chosen; `start` is -1 while it is gone."""

    start: int
    end: int
    quote: str
    prefix: str
    suffix: str

    @property
    def is_gone(self) -> bool:
        return self.start < 0


def lines_of(title: str, subtitle: str, document: Node) -> list[Line]:
    """The lines of a post in reading order."""
    return [Line((), title), Line((), subtitle), *_lines(document, ())]


def _lines(node: Node, path: tuple[int, ...]) -> Iterator[Line]:
    for index, child in enumerate(node.get("content", ())):
        at = (*path, index)
        children = child.get("content", ())
        if not children or children[0]["type"] in _INLINE:
            if child["type"] != "paragraph" or children:
                sign = _sign(child)
                if sign:
                    yield Line(at, sign)
            if children:
                yield Line(at, "".join(map(_words, children)))
        else:
            yield from _lines(child, at)


_WORDED = ("paragraph", "heading", "codeBlock")


def _sign(node: Node) -> str:
    """What stands for a block that is more than its words, such as a picture: its kind, and what it shows."""
    if node["type"] in _WORDED:
        return ""
    attrs = node.get("attrs", {})
    shown = (
        attrs.get("src")
        or attrs.get("address")
        or attrs.get("copy")
        or attrs.get("name")
        or attrs.get("words")
        or ""
    )
    return f"{OBJECT}{node['type']} {shown}".rstrip()


def _words(node: Node) -> str:
    if node["type"] == "text":
        return str(node["text"])
    return BREAK if node["type"] == "lineBreak" else OBJECT


def linear(lines: list[Line]) -> str:
    return "\n".join(line.text for line in lines)


def passage_at(text: str, start: int, end: int) -> Passage:
    """The passage between two offsets of a linear text."""
    return Passage(
        start, end, text[start:end], text[max(0, start - CONTEXT) : start], text[end : end + CONTEXT]
    )


def parts_of(lines: list[Line], passage: Passage) -> list[tuple[int, int, int]]:
    """(number of the line, from, to) of a passage in each line it reaches over."""
    found, at = [], 0
    for number, line in enumerate(lines):
        first, last = max(passage.start - at, 0), min(passage.end - at, len(line.text))
        if first < last and not passage.is_gone:
            found.append((number, first, last))
        at += len(line.text) + 1
    return found


def find(text: str, quote: str, prefix: str = "", suffix: str = "") -> Passage | None:
    """Where words stand in a text, told from the same words elsewhere by what stands beside them; None where that is not clear."""
    if not quote:
        return None
    best: list[tuple[int, int]] = []
    start = text.find(quote)
    while start >= 0 and len(best) < 1000:
        before, after = (
            text[max(0, start - CONTEXT) : start],
            text[start + len(quote) : start + len(quote) + CONTEXT],
        )
        best.append((_common(before[::-1], prefix[::-1]) + _common(after, suffix), start))
        start = text.find(quote, start + 1)
    best.sort(reverse=True)
    if not best or (len(best) > 1 and best[0][0] == best[1][0]):
        return None
    start = best[0][1]
    return Passage(start, start + len(quote), quote, prefix, suffix)


def _common(one: str, other: str) -> int:
    """How many letters two texts begin with in common."""
    length = 0
    for left, right in zip(one, other, strict=False):
        if left != right:
            break
        length += 1
    return length


class Change:
    """What became of each place of a text when it changed. Made once for a change, and asked for each passage."""

    def __init__(self, before: str, now: str) -> None:
        self._now = now
        self._segments = sorted(_segments(before.split("\n"), now.split("\n")))
        self._starts = [segment[0] for segment in self._segments]

    def follow(self, passage: Passage) -> Passage:
        """Where the passage stands now; gone where too little of its words is left. One that was gone comes back with its words."""
        if passage.is_gone:
            return self._found_again(passage)
        inner, between = self._inner(passage), self._between(passage)
        if inner[0] < inner[1] and self._now[slice(*inner)] == passage.quote:
            return replace(passage, start=inner[0], end=inner[1])
        inner_alike, between_alike = (
            self._alike(passage.quote, *one) if one[0] < one[1] else 0.0 for one in (inner, between)
        )
        is_between = between_alike >= inner_alike - CLOSE  # its first and last words may be others
        if max(inner_alike, between_alike) >= ALIKE and (not is_between or between_alike >= ALIKE):
            start, end = between if is_between else inner
            return replace(passage, start=start, end=end)
        return self._found_again(passage)

    def _found_again(self, passage: Passage) -> Passage:
        """The passage at the place where its very words stand beside what stood beside them; gone where there is none."""
        found = find(self._now, passage.quote, passage.prefix, passage.suffix)
        gone = replace(passage, start=-1, end=-1)
        if found is None:
            return gone
        before, after = (
            self._now[max(0, found.start - CONTEXT) : found.start],
            self._now[found.end : found.end + CONTEXT],
        )
        beside = max(_common(before[::-1], passage.prefix[::-1]), _common(after, passage.suffix))
        return (
            found if beside >= min(CLEAR, max(len(passage.prefix), len(passage.suffix))) and beside else gone
        )

    def _inner(self, passage: Passage) -> tuple[int, int]:
        """From the first to the last of its letters that are still there, where most of them stand together."""
        groups: list[list[tuple[int, int]]] = []
        apart = max(40, len(passage.quote))
        for start, end in sorted(self._pieces(passage.start, passage.end)):
            if groups and start - groups[-1][-1][1] <= apart:
                groups[-1].append((start, end))
            else:
                groups.append([(start, end)])
        largest = max(groups, key=lambda group: sum(end - start for start, end in group), default=[])
        return (largest[0][0], largest[-1][1]) if largest else (0, 0)

    def _pieces(self, start: int, end: int) -> Iterator[tuple[int, int]]:
        at = max(0, bisect_right(self._starts, start) - 1)
        for before, now, length in self._segments[at:]:
            if before >= end:
                break
            first, last = max(start, before), min(end, before + length)
            if first < last:
                yield now + first - before, now + last - before

    def _between(self, passage: Passage) -> tuple[int, int]:
        """What stands between that which stood before the passage and that which stood after it."""
        at = bisect_right(self._starts, passage.start - 1) - 1
        before = self._segments[at] if at >= 0 else (0, 0, 0)
        start = before[1] + min(before[2], passage.start - before[0])
        following = next((one for one in self._segments[max(0, at) :] if one[0] + one[2] > passage.end), None)
        end = following[1] + max(0, passage.end - following[0]) if following else len(self._now)
        if start > end or end - start > 3 * len(passage.quote) + 40:
            return 0, 0
        words = self._now[start:end]
        return start + len(words) - len(words.lstrip()), end - (len(words) - len(words.rstrip()))

    def _alike(self, quote: str, start: int, end: int) -> float:
        words = self._now[start:end]
        if words == quote:
            return 1.0
        one, other = (_TOKEN.findall(quote), _TOKEN.findall(words)) if len(quote) > 200 else (quote, words)
        matcher = SequenceMatcher(None, one, other, autojunk=False)
        left = sum(block.size for block in matcher.get_matching_blocks())
        is_long = len(other) > 4 * len(one) + 80
        return (
            0.0
            if is_long
            else max(matcher.ratio(), left / max(1, len(one)) if self._is_inner(quote, words) else 0.0)
        )

    @staticmethod
    def _is_inner(quote: str, words: str) -> bool:
        """Whether words were put into a passage that begins and ends as it did."""
        return _common(quote, words) + _common(quote[::-1], words[::-1]) >= ALIKE * len(quote)


def _segments(before: list[str], now: list[str]) -> list[Segment]:
    """The stretches that two texts, as lines, have in common, also those that moved."""
    starts, starts_now = _offsets(before), _offsets(now)
    pairs, regions = _paired(before, now)
    left = {number for first, last, _, _ in regions for number in range(first, last)}
    left_now = {number for _, _, first, last in regions for number in range(first, last)}
    moved = _moved(before, now, left, left_now)
    found = [(starts[one], starts_now[other], len(before[one]) + 1) for one, other in pairs]
    found += [(starts[one], starts_now[other], len(before[one])) for one, other in moved.items()]
    for first, last, first_now, last_now in regions:
        ones = [number for number in range(first, last) if number not in moved]
        others = [number for number in range(first_now, last_now) if number not in moved.values()]
        if ones and others:
            found += _in_region(before, now, ones, others, starts, starts_now)
    return found


def _offsets(lines: list[str]) -> list[int]:
    found, at = [], 0
    for line in lines:
        found.append(at)
        at += len(line) + 1
    return found


def _paired(
    before: list[str], now: list[str]
) -> tuple[list[tuple[int, int]], list[tuple[int, int, int, int]]]:
    """(lines that are the same, in order; the regions between them)."""
    start, shorter = 0, min(len(before), len(now))
    while start < shorter and before[start] == now[start]:
        start += 1
    end = 0
    while end < shorter - start and before[-1 - end] == now[-1 - end]:
        end += 1
    pairs = [(number, number) for number in range(start)]
    pairs += [(len(before) - one, len(now) - one) for one in range(end, 0, -1)]
    inner, inner_now = before[start : len(before) - end], now[start : len(now) - end]
    if not inner and not inner_now:
        return pairs, []
    if max(len(inner), len(inner_now)) > MOST_LINES:
        return pairs, [(start, len(before) - end, start, len(now) - end)]
    regions = []
    for what, one, one_end, other, other_end in SequenceMatcher(
        None, inner, inner_now, autojunk=False
    ).get_opcodes():
        if what == "equal":
            pairs += [(start + one + step, start + other + step) for step in range(one_end - one)]
        else:
            regions.append((start + one, start + one_end, start + other, start + other_end))
    return pairs, regions


def _moved(before: list[str], now: list[str], left: set[int], left_now: set[int]) -> dict[int, int]:
    """{line before: line now} of lines that stand elsewhere now: those whose words stand once in what is left of each text."""

    def alone(lines: list[str], numbers: set[int]) -> dict[str, int]:
        found: dict[str, int] = {}
        for number in numbers:
            found[lines[number]] = -1 if lines[number] in found else number
        return {
            text: number
            for text, number in found.items()
            if number >= 0 and (len(text) > 7 or text.startswith(OBJECT))
        }

    ones, others = alone(before, left), alone(now, left_now)
    return {number: others[text] for text, number in ones.items() if text in others}


def _in_region(
    before: list[str],
    now: list[str],
    ones: list[int],
    others: list[int],
    starts: list[int],
    starts_now: list[int],
) -> list[Segment]:
    """What stays of lines that changed, letter by letter at the ends and word by word between them."""
    one, places = _joined(before, ones, starts)
    other, places_now = _joined(now, others, starts_now)
    found = []
    for at, at_now, length in _common_words(one, other):
        for step in _unbroken(at, at_now, length, places, places_now):
            found.append(step)
    return found


def _joined(lines: list[str], numbers: list[int], starts: list[int]) -> tuple[str, list[int]]:
    """Lines as one text, and the offset of each of its letters in the whole."""
    text: list[str] = []
    places: list[int] = []
    for number in numbers:
        text.append(lines[number])
        places += range(starts[number], starts[number] + len(lines[number]) + 1)
    return "\n".join(text), places


def _unbroken(
    at: int, at_now: int, length: int, places: list[int], places_now: list[int]
) -> Iterator[Segment]:
    """A common stretch in pieces that stand together in both whole texts."""
    start = 0
    for step in range(1, length + 1):
        if (
            step == length
            or places[at + step] != places[at + step - 1] + 1
            or places_now[at_now + step] != places_now[at_now + step - 1] + 1
        ):
            yield places[at + start], places_now[at_now + start], step - start
            start = step


def _common_words(one: str, other: str) -> list[Segment]:
    start = _common(one, other)
    end = _common(one[start:][::-1], other[start:][::-1])
    found = [(0, 0, start)] if start else []
    inner, inner_now = one[start : len(one) - end], other[start : len(other) - end]
    tokens, tokens_now = _TOKEN.findall(inner), _TOKEN.findall(inner_now)
    if tokens and tokens_now and max(len(tokens), len(tokens_now)) <= MOST_TOKENS:
        found += _by_tokens(tokens, tokens_now, start)
    if end:
        found.append((len(one) - end, len(other) - end, end))
    return found


def _by_tokens(tokens: list[str], tokens_now: list[str], start: int) -> list[Segment]:
    places, places_now = _token_offsets(tokens), _token_offsets(tokens_now)
    return [
        (start + places[block.a], start + places_now[block.b], places[block.a + block.size] - places[block.a])
        for block in SequenceMatcher(None, tokens, tokens_now, autojunk=False).get_matching_blocks()
        if block.size and any(token.strip() for token in tokens[block.a : block.a + block.size])
    ]


def _token_offsets(tokens: list[str]) -> list[int]:
    found = [0]
    for token in tokens:
        found.append(found[-1] + len(token))
    return found

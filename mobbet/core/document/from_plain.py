"""Plain text becomes a document: paragraphs, lines of an address or a verse, lists, links.

Blank lines part paragraphs. What a single line end means follows from the look of the lines: long ones are paragraphs of their own, lines of an even
width are one paragraph that was broken to fit, short ones stay lines. `- ` and `1. ` begin items of lists, deeper ones by their indent.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.links import clean_address

Node = dict[str, Any]
SHORT, LONG, EVEN = 48, 110, 22
"""In letters: lines of verse or of an address are shorter, a paragraph on one line is longer; lines that were broken to fit differ by less."""
MOST_DEPTH = 8
_BULLET = re.compile(r"[-*+•‣◦▪–·] +")
_NUMBER = re.compile(r"(\d{1,4})[.)] +")
_ADDRESS = re.compile(r"(?<![\w@/])(?:https?://|mailto:|www\.)[^\s<>\"“”]{2,2000}", re.IGNORECASE)
_AFTER = ".,;:!?'’)]}»"
_SENTENCE_ENDS = (".", "!", "?", "…", ":", "”", '"', "»", "。", "！", "？")


def from_plain(text: str) -> Node:
    """A checked document of some plain text; an empty one for white space alone."""
    blocks: list[Node] = []
    for block in (block for lines in _groups(text) for block in _blocks(lines)):
        if blocks and _goes_on(blocks[-1], block):
            blocks[-1]["content"] += block["content"]
        else:
            blocks.append(block)
    return schema.check({"type": "doc", "content": blocks}) if blocks else schema.EMPTY


def _goes_on(before: Node, block: Node) -> bool:
    """Whether a list goes on with another one, from which a blank line parts it."""
    if before["type"] != block["type"]:
        return False
    if block["type"] == "orderedList":
        return bool(block["attrs"]["start"] == before["attrs"]["start"] + len(before["content"]))
    return bool(block["type"] == "bulletList")


def _groups(text: str) -> Iterator[list[str]]:
    """The lines between blank ones. A blank line within a list parts no list: the items that follow belong to it."""
    lines: list[str] = []
    for line in [*text.replace("\r\n", "\n").replace("\r", "\n").replace("\f", "\n").split("\n"), ""]:
        line = line.expandtabs(4).rstrip()
        if line:
            lines.append(line)
        elif lines:
            yield lines
            lines = []


def _blocks(lines: list[str]) -> Iterator[Node]:
    words: list[str] = []
    at = 0
    while at < len(lines):
        end = _list_end(lines, at)
        if end == at:
            words.append(lines[at].strip())
            at += 1
            continue
        yield from _paragraphs(words)
        words = []
        yield from _lists(lines[at:end])
        at = end
    yield from _paragraphs(words)


def _sign(line: str) -> tuple[str, int, str] | None:
    """(kind of list, its number, words after the sign) of a line that begins an item."""
    bare = line.lstrip()
    bullet, number = _BULLET.match(bare), _NUMBER.match(bare)
    if bullet:
        return "bulletList", 1, bare[bullet.end() :]
    return ("orderedList", int(number[1]), bare[number.end() :]) if number else None


def _list_end(lines: list[str], start: int) -> int:
    """The line after the list that begins at a line; the line itself where none does. Indented lines belong to the item before them.

    One numbered line alone is no list unless it is the first: “1984. It was a year.” is a sentence.
    """
    first = _sign(lines[start])
    if first is None:
        return start
    end = start + 1
    while end < len(lines) and (_sign(lines[end]) or lines[end].startswith("  ")):
        end += 1
    is_alone = sum(_sign(line) is not None for line in lines[start:end]) == 1
    is_sentence = is_alone and (
        first[0] == "orderedList" and first[1] != 1 or lines[start].lstrip().startswith(("–", "·"))
    )
    return start if is_sentence else end


@dataclass
class _Item:
    indent: int
    kind: str
    number: int
    words: list[str]
    parts: list[_Item] = field(default_factory=list)


def _lists(lines: list[str]) -> Iterator[Node]:
    top = _Item(-1, "", 0, [])
    open_items = [top]
    for line in lines:
        sign = _sign(line)
        if sign is None:
            open_items[-1].words.append(line.strip())
            continue
        indent = len(line) - len(line.lstrip())
        while len(open_items) > 1 and indent < open_items[-1].indent + 2:
            open_items.pop()
        item = _Item(indent, sign[0], sign[1], [sign[2]])
        if len(open_items) <= MOST_DEPTH:
            open_items[-1].parts.append(item)
            open_items.append(item)
        else:
            open_items[-2].parts.append(item)
    yield from _listed(top.parts)


def _listed(items: list[_Item]) -> Iterator[Node]:
    """Items of one depth, a list for each run of one kind."""
    start = 0
    for at in range(1, len(items) + 1):
        if at < len(items) and items[at].kind == items[start].kind:
            continue
        run = items[start:at]
        attrs = {"start": run[0].number} if run[0].kind == "orderedList" else {}
        yield {
            "type": run[0].kind,
            **({"attrs": attrs} if attrs else {}),
            "content": [_item(item) for item in run],
        }
        start = at


def _item(item: _Item) -> Node:
    words = " ".join(filter(None, item.words))
    return {"type": "listItem", "content": [_paragraph([words]), *_listed(item.parts)]}


def _paragraphs(lines: list[str]) -> Iterator[Node]:
    """One paragraph, or several, of lines without a blank one between them."""
    if not lines:
        return
    if len(lines) == 1:
        yield _paragraph(lines)
    elif _is_broken_to_fit(lines):
        yield _paragraph([" ".join(lines)])
    elif max(map(len, lines)) <= SHORT:
        yield _paragraph(lines)
    elif max(map(len, lines)) >= LONG or sum(line.endswith(_SENTENCE_ENDS) for line in lines) * 2 > len(
        lines
    ):
        yield from (_paragraph([line]) for line in lines)
    else:
        yield _paragraph(lines)


def _is_broken_to_fit(lines: list[str]) -> bool:
    """Whether lines were broken at one width: all but the last are nearly as wide as the widest, and few end a sentence."""
    full = [len(line) for line in lines[:-1]]
    widest = max(full)
    if not SHORT < widest < LONG or len(lines[-1]) > widest + EVEN:
        return False
    ends = sum(line.endswith(_SENTENCE_ENDS) for line in lines[:-1])
    return min(full) >= widest - EVEN and ends * 2 < len(lines[:-1]) + 1


def _paragraph(lines: list[str]) -> Node:
    content: list[Node] = []
    for number, line in enumerate(lines):
        content += [{"type": "lineBreak"}] if number else []
        content += _linked(line)
    return {"type": "paragraph", **({"content": content} if content else {})}


def _linked(words: str) -> Iterator[Node]:
    """Words in which bare addresses are links."""
    at = 0
    for match in _ADDRESS.finditer(words):
        address = match[0].rstrip(_AFTER)
        if match[0][len(address) : len(address) + 1] == ")" and "(" in address:
            address += ")"
        href = clean_address(f"https://{address}" if address.lower().startswith("www.") else address)
        if not href:
            continue
        if match.start() > at:
            yield {"type": "text", "text": words[at : match.start()]}
        yield {"type": "text", "text": address, "marks": [{"type": "link", "attrs": {"href": href}}]}
        at = match.start() + len(address)
    if at < len(words):
        yield {"type": "text", "text": words[at:]}

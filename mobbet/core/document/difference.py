"""The difference of two documents: blocks paired, moved blocks found, words compared."""

from __future__ import annotations

import re
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Any

from mobbet.core.canonical import canonical
from mobbet.core.document.write import to_text
from mobbet.core.values import existing

Node = dict[str, Any]

SAME, CHANGED, ADDED, REMOVED, MOVED = "same", "changed", "added", "removed", "moved"
ALIKE = 0.45
"""How alike two blocks must be to count as one that changed (0 to 1, by their words)."""
_TOKEN = re.compile(r"\w+|\s+|[^\w\s]")


@dataclass(frozen=True)
class Row:
    """One line of a comparison: a block before and a block now; None where there is none.

    In a changed pair the words that went have the mark `removed`, those that came `added`. A moved block
    stands alone, once where it was and once where it is.
    """

    kind: str
    before: Node | None
    now: Node | None


@dataclass(frozen=True)
class Difference:
    """A whole comparison, with the number of words added and removed."""

    rows: tuple[Row, ...]
    added: int
    removed: int


def compare(before: Node, now: Node) -> Difference:
    """The difference from one document to another, block by block."""
    rows = _rows(before["content"], now["content"])
    rows = _with_moves(rows)
    added = sum(_count(row, "added") for row in rows)
    removed = sum(_count(row, "removed") for row in rows)
    return Difference(tuple(rows), added, removed)


def bare(node: Node | None) -> Node | None:
    """A block of a comparison without the marks of the comparison."""
    if node is None:
        return None
    if "marks" in node:
        marks = [mark for mark in node["marks"] if mark["type"] not in ("added", "removed")]
        node = {
            **{key: value for key, value in node.items() if key != "marks"},
            **({"marks": marks} if marks else {}),
        }
    return {**node, "content": [bare(child) for child in node["content"]]} if "content" in node else node


def as_text(difference: Difference) -> str:
    """The comparison as lines: `+` added, `-` removed, `~` changed, `>` moved; `[-gone-]` and `{+come+}` in the words."""
    lines = []
    for row in difference.rows:
        if row.kind == CHANGED:
            lines += _lines("~", _merged(row))
        elif row.kind == MOVED:
            lines += _lines(
                "> moved from here:" if row.now is None else "> moved to here:",
                to_text({"type": "doc", "content": [row.before or row.now]}),
            )
        else:
            lines += _lines(
                {SAME: " ", ADDED: "+", REMOVED: "-"}[row.kind],
                to_text({"type": "doc", "content": [row.now or row.before]}),
            )
    return "\n".join(lines) + ("\n" if lines else "")


def _lines(sign: str, text: str) -> list[str]:
    return [f"{sign} {line}".rstrip() for line in text.split("\n")]


def _rows(before: list[Node], now: list[Node]) -> list[Row]:
    rows: list[Row] = []
    matcher = SequenceMatcher(
        None, [canonical(node) for node in before], [canonical(node) for node in now], autojunk=False
    )
    for kind, a, a_end, b, b_end in matcher.get_opcodes():
        if kind == "equal":
            rows += [Row(SAME, node, node) for node in now[b:b_end]]
        else:
            rows += _paired(before[a:a_end], now[b:b_end])
    return rows


def _paired(before: list[Node], now: list[Node]) -> list[Row]:
    """Blocks that differ: those alike are pairs, in order; the others went or came."""
    rows: list[Row] = []
    at = 0
    for node in now:
        match = next(
            (index for index in range(at, len(before)) if _alike(before[index], node) >= ALIKE), None
        )
        if match is None:
            rows.append(Row(ADDED, None, node))
            continue
        rows += [Row(REMOVED, gone, None) for gone in before[at:match]]
        rows.append(_changed(before[match], node))
        at = match + 1
    return [*rows, *(Row(REMOVED, gone, None) for gone in before[at:])]


def _alike(one: Node, other: Node) -> float:
    if one["type"] != other["type"]:
        both_words = {"paragraph", "heading"} >= {one["type"], other["type"]}
        if not both_words:
            return 0.0
    words, others = _words(one), _words(other)
    if not words and not others:
        return 1.0
    matcher = SequenceMatcher(None, words, others, autojunk=False)
    return matcher.ratio() if matcher.quick_ratio() >= ALIKE else 0.0


def _words(node: Node) -> list[str]:
    return re.findall(r"\w+", to_text({"type": "doc", "content": [node]}))


def _changed(before: Node, now: Node) -> Row:
    marked_before, marked_now = _mark_words(before, now)
    return Row(CHANGED, marked_before, marked_now)


def _mark_words(before: Node, now: Node) -> tuple[Node, Node]:
    """Both blocks with the words that differ marked, all the way down."""
    if _is_words(before) and _is_words(now):
        old, new = _tokens(before), _tokens(now)
        gone: set[int] = set()
        come: set[int] = set()
        matcher = SequenceMatcher(None, [key for key, _ in old], [key for key, _ in new], autojunk=False)
        for kind, a, a_end, b, b_end in matcher.get_opcodes():
            if kind != "equal":
                gone.update(range(a, a_end))
                come.update(range(b, b_end))
        return _with_tokens(before, old, gone, "removed"), _with_tokens(now, new, come, "added")
    if before["type"] == now["type"] and "content" in before and "content" in now:
        rows = _rows(before["content"], now["content"])
        olds = [
            _whole(row.before, "removed") if row.kind == REMOVED else row.before
            for row in rows
            if row.before is not None
        ]
        news = [
            _whole(row.now, "added") if row.kind == ADDED else row.now for row in rows if row.now is not None
        ]
        return {**before, "content": olds}, {**now, "content": news}
    return _whole(before, "removed"), _whole(now, "added")


def _is_words(node: Node) -> bool:
    return node["type"] in ("paragraph", "heading", "picture", "codeBlock")


def _tokens(node: Node) -> list[tuple[str, Node]]:
    """The words of a block with what they are known by: their letters and their marks."""
    found: list[tuple[str, Node]] = []
    for child in node.get("content", ()):
        if child["type"] != "text":
            found.append((canonical(child), child))
            continue
        marks = canonical(child.get("marks", []))
        found += [
            (f"{token}\x00{marks}", {**child, "text": token}) for token in _TOKEN.findall(child["text"])
        ]
    return found


def _with_tokens(node: Node, tokens: list[tuple[str, Node]], marked: set[int], mark: str) -> Node:
    content: list[Node] = []
    for index, (_, part) in enumerate(tokens):
        if index in marked:
            part = {**part, "marks": [{"type": mark}, *part.get("marks", ())]}
        if (
            content
            and part["type"] == "text"
            and content[-1]["type"] == "text"
            and content[-1].get("marks") == part.get("marks")
        ):
            content[-1] = {**content[-1], "text": content[-1]["text"] + part["text"]}
        else:
            content.append(part)
    return {**node, "content": content} if content else node


def _whole(node: Node, mark: str) -> Node:
    """A block in which every word is marked."""
    if node["type"] in ("text", "fillIn"):
        return {**node, "marks": [{"type": mark}, *node.get("marks", ())]}
    return (
        {**node, "content": [_whole(child, mark) for child in node["content"]]} if "content" in node else node
    )


def _with_moves(rows: list[Row]) -> list[Row]:
    """Rows in which a block that went and came again, with its very words, counts as moved."""
    gone = {
        to_text({"type": "doc", "content": [row.before]}): at
        for at, row in enumerate(rows)
        if row.kind == REMOVED
    }
    moved = list(rows)
    for at, row in enumerate(rows):
        if row.kind != ADDED:
            continue
        words = to_text({"type": "doc", "content": [row.now]})
        from_ = gone.pop(words, None) if words.strip() else None
        if from_ is not None and existing(rows[from_].before)["type"] == existing(row.now)["type"]:
            moved[at] = Row(MOVED, None, row.now)
            moved[from_] = Row(MOVED, rows[from_].before, None)
    return moved


def _count(row: Row, mark: str) -> int:
    if row.kind in (ADDED, REMOVED):
        node = row.now if mark == "added" else row.before
        return len(_words(node)) if node else 0
    if row.kind != CHANGED:
        return 0
    node = row.now if mark == "added" else row.before
    return sum(len(re.findall(r"\w+", text)) for text in _marked_texts(existing(node), mark))


def _marked_texts(node: Node, mark: str) -> list[str]:
    if node["type"] == "text":
        return [node["text"]] if {"type": mark} in node.get("marks", ()) else []
    return [text for child in node.get("content", ()) for text in _marked_texts(child, mark)]


def _merged(row: Row) -> str:
    """The words of a changed pair in one line of reading, gone ones in `[-…-]`, come ones in `{+…+}`."""
    old, new = (_TOKEN.findall(to_text({"type": "doc", "content": [node]})) for node in (row.before, row.now))
    parts: list[str] = []
    for kind, a, a_end, b, b_end in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if kind == "equal":
            parts += new[b:b_end]
            continue
        if a < a_end:
            parts.append(f"[-{''.join(old[a:a_end])}-]")
        if b < b_end:
            parts.append(f"{{+{''.join(new[b:b_end])}+}}")
    return "".join(parts)

"""Reads a post and answers with its marks; a passage that did not change is not read again."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from mobbet.core.proofing.bounded import MOST_TOLD
from mobbet.core.proofing.marks import COULD, SEVERITIES, Mark
from mobbet.core.proofing.material import Material
from mobbet.core.proofing.passages import Passage
from mobbet.core.proofing.table import OF_PASSAGE, OF_WHOLE

MOST_KEPT, MOST_READ = 20_000, 200_000
"""Passages that are remembered, and letters of a text that are read, which takes a second or two at first."""
OF_WORDS = ("spelling",)
"""Checks whose marks are the same wherever their word stands."""


class Proof:
    """The proof of one post after another text of it. Knowledge that changed needs a new one."""

    def __init__(self) -> None:
        self._kept: dict[tuple[Any, ...], tuple[Mark, ...]] = {}
        self._left_out = False

    def marks(self, material: Material) -> list[Mark]:
        """Every mark, in reading order; those of the post as a whole come first."""
        read = _first_passages(material.passages)
        found = [mark for passage in read for mark in self._of_passage(passage, material)]
        if len(read) < len(material.passages):
            found.append(_unread(material.passages[len(read) :]))
        for check in OF_WHOLE:
            found += check.run(material)
        found.sort(key=lambda mark: (mark.path, mark.start, SEVERITIES.index(mark.severity), mark.check))
        self._forget(material, found)
        return _joined(found)

    def _forget(self, material: Material, found: list[Mark]) -> None:
        """Reads all anew where unknown words were left out of an earlier reading, and most of those that were told of are settled."""
        told = sum(mark.check in OF_WORDS for mark in found)
        if self._left_out and told < MOST_TOLD // 2:
            self._kept.clear()
            self._left_out = False
        self._left_out = self._left_out or material.knowledge.words.is_spent

    def _of_passage(self, passage: Passage, material: Material) -> list[Mark]:
        """The marks of a block of words, wherever in the document it stands now."""
        key = (
            passage.text,
            passage.language,
            material.rules,
            material.is_foreign,
            passage.node["type"],
            tuple((start, end, str(node.get("marks", ""))) for start, end, node in passage.runs),
        )
        if key not in self._kept:
            if len(self._kept) >= MOST_KEPT:
                self._kept.clear()
            here = replace(passage, path=())
            self._kept[key] = tuple(mark for check in OF_PASSAGE for mark in check.run(here, material))
        return [_placed(mark, passage.path) for mark in self._kept[key]]


def _first_passages(passages: tuple[Passage, ...]) -> tuple[Passage, ...]:
    """The passages that are read: all of a text, or the first of a very long one."""
    read = 0
    for number, passage in enumerate(passages):
        read += len(passage.text)
        if read > MOST_READ:
            return passages[:number]
    return passages


def _unread(passages: tuple[Passage, ...]) -> Mark:
    letters = sum(len(passage.text) for passage in passages)
    return Mark(
        "too-long",
        f"The proof has read the first {MOST_READ:,} letters; {letters:,} more were not read. Split the post into parts to have all of it read.",
        severity=COULD,
    )


def _joined(marks: list[Mark]) -> list[Mark]:
    """The marks, each word that is misspelt at several places as one mark with all of them, at its first."""
    found: dict[str | int, list[Mark]] = {}
    for number, mark in enumerate(marks):
        found.setdefault(mark.sign if mark.check in OF_WORDS else number, []).append(mark)
    return [
        replace(first, others=tuple((one.path, one.start, one.end) for one in more)) if more else first
        for first, *more in found.values()
    ]


def _placed(mark: Mark, path: tuple[int, ...]) -> Mark:
    mends = tuple(
        replace(mend, operation={**mend.operation, "path": list(path)}) if "path" in mend.operation else mend
        for mend in mark.mends
    )
    return replace(mark, path=path, mends=mends)

"""Reads a post and answers with its marks; a passage that did not change is not read again."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from mobbet.core.proofing.marks import SEVERITIES, Mark
from mobbet.core.proofing.material import Material, Passage
from mobbet.core.proofing.table import OF_PASSAGE, OF_WHOLE

MOST_KEPT = 20_000


class Proof:
    """The proof of one post after another text of it. Knowledge that changed needs a new one."""

    def __init__(self) -> None:
        self._kept: dict[tuple[Any, ...], tuple[Mark, ...]] = {}

    def marks(self, material: Material) -> list[Mark]:
        """Every mark, in reading order; those of the post as a whole come first."""
        found = [mark for passage in material.passages for mark in self._of_passage(passage, material)]
        for check in OF_WHOLE:
            found += check.run(material)
        return sorted(
            found, key=lambda mark: (mark.path, mark.start, SEVERITIES.index(mark.severity), mark.check)
        )

    def _of_passage(self, passage: Passage, material: Material) -> list[Mark]:
        """The marks of a block of words, wherever in the document it stands now."""
        key = (
            passage.text,
            passage.language,
            material.rules,
            passage.node["type"],
            tuple((start, end, str(node.get("marks", ""))) for start, end, node in passage.runs),
        )
        if key not in self._kept:
            if len(self._kept) >= MOST_KEPT:
                self._kept.clear()
            here = replace(passage, path=())
            self._kept[key] = tuple(mark for check in OF_PASSAGE for mark in check.run(here, material))
        return [_placed(mark, passage.path) for mark in self._kept[key]]


def _placed(mark: Mark, path: tuple[int, ...]) -> Mark:
    mends = tuple(
        replace(mend, operation={**mend.operation, "path": list(path)}) if "path" in mend.operation else mend
        for mend in mark.mends
    )
    return replace(mark, path=path, mends=mends)

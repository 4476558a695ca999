"""Paragraphs of more than 120 words."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.checks.words import words
from mobbet.core.proofing.marks import COULD, Mark, Why
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

MOST = 120


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    count = sum(1 for _ in words(passage.text))
    if passage.node["type"] == "paragraph" and count > MOST:
        yield Mark(
            "long-paragraphs",
            f"This paragraph has {count} words; a break in it gives readers a rest.",
            passage.text[:80],
            passage.path,
            0,
            len(passage.text),
            COULD,
        )


CHECKS = (OfPassage(check),)
WHY = {
    "long-paragraphs": Why(
        "Long paragraphs",
        "On a phone 120 words fill the screen. A break gives the eye a place to rest.",
        "more than 120 words",
    )
}

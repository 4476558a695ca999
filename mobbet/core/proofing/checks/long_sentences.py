"""Sentences of more than forty words."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.checks.words import sentences, words
from mobbet.core.proofing.marks import COULD, Mark, Why
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

MOST = 40


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    for start, sentence in sentences(passage.text):
        count = sum(1 for _ in words(sentence))
        if count > MOST:
            yield Mark(
                "long-sentences",
                f"This sentence has {count} words; parted in two, it is read at once.",
                sentence.strip(),
                passage.path,
                start,
                start + len(sentence.rstrip()),
                COULD,
            )


CHECKS = (OfPassage(check),)
WHY = {
    "long-sentences": Why(
        "Long sentences",
        "Readers hold about twenty words at once. Past forty they begin again.",
        "more than 40 words",
    )
}

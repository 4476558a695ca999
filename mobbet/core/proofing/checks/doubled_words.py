"""The same word twice running."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.checks.words import words
from mobbet.core.proofing.marks import Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

MEANT = {
    "had",
    "that",
    "very",
    "no",
    "yes",
    "bye",
    "ha",
    "tick",
    "knock",
    "hear",
    "there",
    "now",
    "well",
    "beep",
    "click",
}
"""Words that a careful writer may double on purpose."""


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    before = None
    for match in words(passage.text):
        if (
            before
            and before[0].lower() == match[0].lower()
            and passage.text[before.end() : match.start()].isspace()
        ):
            if (
                match[0].lower() not in MEANT
                and not (before[0][0].isupper() and match[0][0].isupper())
                and passage.is_plain(before.start(), match.end())
            ):
                text = passage.text[before.start() : match.end()]
                yield Mark(
                    "doubled-words",
                    f"“{match[0]}” stands here twice; keep one.",
                    text,
                    passage.path,
                    before.start(),
                    match.end(),
                    mends=(replaced(passage.path, before.start(), match.end(), before[0]),),
                )
        before = match


CHECKS = (OfPassage(check),)
WHY = {
    "doubled-words": Why(
        "Doubled words",
        "The eye passes over a word that stands there twice. Words that are doubled on purpose are left alone.",
        "the the lamp",
    )
}

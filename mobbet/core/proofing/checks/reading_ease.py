"""Reading ease by the formula of Rudolf Flesch (1948), in English, with what would help most."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from mobbet.core.proofing.checks.words import sentences, words
from mobbet.core.proofing.marks import COULD, Mark, Why
from mobbet.core.proofing.material import Material, OfWhole

LEAST, LEAST_WORDS = 50, 150
"""Below that score a text is hard; of fewer words it says nothing."""
USUAL_SENTENCE, USUAL_WORD = 18.0, 1.5
"""Words a sentence and syllables a word of a text that most people read easily."""
_VOWELS = re.compile(r"[aeiouy]+")
_SILENT = re.compile(r"(?:[^laeiouy]e|[^aeiouytd]ed|[^aeiouyscxz]es)$")


def syllables(word: str) -> int:
    """How many syllables an English word has, by its letters; at least one."""
    plain = word.lower().split("'")[0].split("’")[0]
    found = len(_VOWELS.findall(plain))
    return max(1, found - bool(_SILENT.search(plain) and found > 1))


@lru_cache(maxsize=8192)
def _counted(text: str) -> tuple[int, int, int]:
    """(words, sentences, syllables) of a paragraph; kept, since a text is read again after every change."""
    found = [match[0] for match in words(text)]
    return (
        len(found),
        sum(1 for _, sentence in sentences(text) if any(True for _ in words(sentence))),
        sum(map(syllables, found)),
    )


def measure(passages: list[str]) -> tuple[float, float, float, int]:
    """(score, words a sentence, syllables a word, words) of paragraphs."""
    count, lines, spoken = (
        (sum(part) for part in zip(*map(_counted, passages), strict=True)) if passages else (0, 0, 0)
    )
    if not count or not lines:
        return 100.0, 0.0, 0.0, 0
    a_sentence, a_word = count / lines, spoken / count
    return 206.835 - 1.015 * a_sentence - 84.6 * a_word, a_sentence, a_word, count


def check(material: Material) -> Iterator[Mark]:
    if not material.language.startswith("en"):
        return
    score, a_sentence, a_word, count = measure(
        [passage.text for passage in material.passages if passage.node["type"] == "paragraph"]
    )
    if count < LEAST_WORDS or score >= LEAST:
        return
    by_sentences, by_words = 1.015 * (a_sentence - USUAL_SENTENCE), 84.6 * (a_word - USUAL_WORD)
    help_most = (
        f"shorter sentences would help most: they have {a_sentence:.0f} words"
        if by_sentences >= by_words
        else f"shorter words would help most: they have {a_word:.1f} syllables"
    )
    yield Mark(
        "reading-ease",
        f"Reading ease is {max(0, round(score))} of 100 (Flesch), which is hard; {help_most} on the average.",
        severity=COULD,
    )


CHECKS = (OfWhole(check),)
WHY = {
    "reading-ease": Why(
        "Reading ease",
        "The formula of Flesch counts words a sentence and syllables a word; from 60 on most people read easily. It knows nothing of sense, so it only hints.",
        "Unplug it. Then look.",
    )
}

"""“a” before a vowel's sound, and “an” before another, in English."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.proofing.marks import Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

_PAIR = re.compile(r"\b(an?)\s+([\"“‘(]?)([A-Za-z][\w’'-]*)", re.IGNORECASE)
_LIKE_YOU = re.compile(
    r"(?:uni(?!n|m)|use|usu|util|ura|uro|euro|eu|ewe|ubiq|ukul|one(?:\b|-|s\b|’|')|once\b|ufo)", re.IGNORECASE
)
_SILENT_H = re.compile(r"(?:hour|honest|honou?r|heir)", re.IGNORECASE)
_LITTLE = {"and", "or", "is", "are", "in", "at", "on", "if", "as", "the", "we", "it", "i"}
"""Words that no article stands before: something else is wrong, or the letter is meant."""
_LETTERS = "AEFHILMNORSX"
"""Letters whose names begin with a vowel's sound."""


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    if not passage.language.startswith("en"):
        return
    for match in _PAIR.finditer(passage.text):
        article, word = match[1], match[3]
        if (
            article == "A" and match.start() > 0 and passage.text[match.start() - 1] == "."
        ) or not passage.is_plain(*match.span()):
            continue
        wanted = "an" if _begins_with_vowel(word) else "a"
        if article.lower() == wanted or len(word) == 1 or word in _LITTLE or _is_spelt(word):
            continue
        better = wanted.capitalize() if article[0].isupper() else wanted
        yield Mark(
            "articles",
            f"“{article} {word}” reads as “{better} {word}”.",
            f"{article} {match[2]}{word}",
            passage.path,
            match.start(1),
            match.end(),
            mends=(replaced(passage.path, match.start(1), match.end(1), better, f"{better} {word}"),),
        )


def _is_spelt(word: str) -> bool:
    """Whether nobody can tell from its letters how a word in capitals is said: NASA is a word, USB is spelt."""
    return word[:2].isupper() and bool(set(word) & set("AEIOU"))


def _begins_with_vowel(word: str) -> bool:
    if len(word) > 1 and word[:2].isupper():
        return word[0] in _LETTERS
    if _SILENT_H.match(word):
        return True
    return word[0].lower() in "aeiou" and not _LIKE_YOU.match(word)


CHECKS = (OfPassage(check),)
WHY = {
    "articles": Why(
        "a and an",
        "Which of the two it is follows from the sound, not from the letter. So an hour, and a European plug.",
        "an hour",
    )
}

"""Words that the house avoids, with what it prefers."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from mobbet.core.proofing.marks import Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    preferred = dict(material.rules.avoided)
    if not preferred:
        return
    for match in _pattern(material.rules.avoided).finditer(passage.text):
        if not passage.is_plain(*match.span()):
            continue
        better = preferred[" ".join(match[0].casefold().split())]
        put = better[:1].upper() + better[1:] if match[0][0].isupper() and better[:1].islower() else better
        mends = (replaced(passage.path, match.start(), match.end(), put),) if better else ()
        words = (
            f"The house writes “{put}” for “{match[0]}”."
            if better
            else f"The house does without “{match[0]}”."
        )
        yield Mark("house-words", words, match[0], passage.path, *match.span(), mends=mends)


@lru_cache(maxsize=16)
def _pattern(avoided: tuple[tuple[str, str], ...]) -> re.Pattern[str]:
    """One pattern for all of them, the longest first."""
    words = sorted((word for word, _ in avoided), key=len, reverse=True)
    any_of = "|".join(r"\s+".join(map(re.escape, word.split())) for word in words)
    return re.compile(rf"(?<!\w)(?:{any_of})(?!\w)", re.IGNORECASE)


CHECKS = (OfPassage(check),)
WHY = {
    "house-words": Why(
        "Words of the house",
        "Readers know a blog by its words, and search finds posts that use the same ones. The list is kept under Site, Words and proof.",
        "e-mail, not email",
    )
}

"""A text whose words the dictionary of its language mostly lacks: one question about the language, in the place of a mark for each word."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice

from mobbet.core.languages import name_of
from mobbet.core.proofing.checks.spelling import is_checked, is_known
from mobbet.core.proofing.checks.words import words
from mobbet.core.proofing.marks import SHOULD, Mark, Mend, Why, docket
from mobbet.core.proofing.material import Material, OfWhole, Passage

PASSAGES, WORDS, LETTERS = 60, 12, 1500
"""Of so many passages, spread evenly over the text, so many words each are looked up, of so many letters at the most."""
LEAST = 15
"""Fewer words say nothing of a language."""
_LATIN = re.compile(r"[A-Za-z\u00aa\u00ba\u00c0-\u024f\u1e00-\u1eff]")
_NOT_LATIN = frozenset("bg el sr uk ru ar he fa hi bn th zh ja ko mk be hy ka".split())


def sample(material: Material) -> Iterator[tuple[Passage, str]]:
    """(passage, word) of an even sample of the text, in the language of the post."""
    passages = [passage for passage in material.passages if passage.text]
    step = max(1, len(passages) // PASSAGES)
    few, most = PASSAGES // max(1, len(passages)), max(WORDS, 200 // max(1, len(passages)))
    for passage in passages[::step][:PASSAGES]:
        parts = min(max(1, few), 1 + len(passage.text) // LETTERS)
        for part in range(parts):
            at = len(passage.text) * part // parts
            stretch = passage.text[at : at + LETTERS]
            chosen = islice(words(stretch), 1 if at else 0, most + 1)
            yield from (
                (passage, match[0])
                for match in chosen
                if passage.is_plain(at + match.start(), at + match.end())
            )


def is_foreign(material: Material) -> bool:
    """Whether more than half of the words that were looked up are none of the language."""
    language = material.language
    if not material.knowledge.has_dictionary(language):
        return False
    found = [word for _, word in sample(material)]
    looked, unknown = 0, 0
    for word in found if len(found) >= LEAST else ():
        is_other_script = language[:2] not in _NOT_LATIN and not _LATIN.match(word)
        if not is_other_script and not is_checked(word, material):
            continue
        looked += 1
        unknown += is_other_script or not is_known(word, language, material)
    return looked >= LEAST and unknown * 2 > looked


def check(material: Material) -> Iterator[Mark]:
    if not material.is_foreign:
        return
    language = material.language
    guess = material.knowledge.guesses(" ".join(word for _, word in sample(material)))
    message, mends = (
        f"Most of these words are in no dictionary of {name_of(language)}. In which language is it written?",
        [],
    )
    if guess and guess[:2] != language[:2]:
        message = f"Most of these words are not {name_of(language)}. Is this {name_of(guess)}?"
        mends = [Mend(f"It is {name_of(guess)}", {"do": "language", "language": guess})]
    yield Mark(
        "language", message, severity=SHOULD, mends=(*mends, docket("language", "Choose its language"))
    )


CHECKS = (OfWhole(check),)
WHY = {
    "language": Why(
        "Language",
        "Browsers speak and hyphenate a post by its language, and its words are checked by that language's dictionary. So one question stands here until it is settled.",
        "a German text in a post said to be English",
    )
}

"""A text whose words the dictionary of its language mostly lacks: one question about the language, in the place of a mark for each word."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.languages import name_of
from mobbet.core.proofing.marks import SHOULD, Mark, Mend, Why, docket
from mobbet.core.proofing.material import Material, OfWhole


def check(material: Material) -> Iterator[Mark]:
    if not material.is_foreign:
        return
    language = material.language
    detected = material.knowledge.detect_language(" ".join(material.sample))
    message, mends = (
        f"Most of these words are in no dictionary of {name_of(language)}. In which language is it written?",
        [],
    )
    if detected and detected[:2] != language[:2]:
        message = f"Most of these words are not {name_of(language)}. Is this {name_of(detected)}?"
        mends = [Mend(f"It is {name_of(detected)}", {"do": "language", "language": detected})]
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

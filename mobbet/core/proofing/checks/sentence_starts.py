"""Three sentences running that begin with the same word."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.checks.words import WORD, sentences
from mobbet.core.proofing.marks import COULD, Mark, Why
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

RUN = 3


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    found = [
        (start, match) for start, sentence in sentences(passage.text) if (match := WORD.search(sentence))
    ]
    run = 1
    for (_, before), (start, now) in zip(found, found[1:], strict=False):
        run = run + 1 if before[0].lower() == now[0].lower() else 1
        if run == RUN:
            at = start + now.start()
            yield Mark(
                "sentence-starts",
                f"Three sentences running begin with “{now[0]}”; let one of them begin otherwise.",
                now[0],
                passage.path,
                at,
                at + len(now[0]),
                COULD,
            )


CHECKS = (OfPassage(check),)
WHY = {
    "sentence-starts": Why(
        "Sentence beginnings",
        "Three sentences that begin alike sound like a list. If that is meant, let it stand.",
        "It was. It is. It will be.",
    )
}

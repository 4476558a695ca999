"""The forms of a word that a dictionary may have it in."""

from __future__ import annotations

import re
from collections.abc import Iterator

_STRANGE = re.compile(r"\d|[A-Z].*[A-Z]|[a-z][A-Z]")


def bare_of(word: str) -> str:
    return word.removesuffix("'s")


def is_strange(bare: str) -> bool:
    """Whether a word is one that no dictionary could have: a single letter, one with a number or odd capitals in it."""
    return len(bare) < 2 or _STRANGE.search(bare) is not None


def other_spellings(word: str) -> Iterator[str]:
    """A word of British English as American dictionaries have it: colour, metre, apologise, moulded, cancelled, licence."""
    for pattern, other in (
        ("our", "or"), ("ould", "old"), ("tre", "ter"), ("is(e[ds]?|ing|ation)$", r"iz\1"), ("ys(e[ds]?|ing)$", r"yz\1"), ("ll(ed|ing|er|ers)$", r"l\1"),
        ("pp(ed|ing)$", r"p\1"), ("ence$", "ense"), ("ise(d?)$", r"ice\1"), ("ae|oe", "e"), ("ogue", "og"), ("gramme", "gram"), ("yre", "ire"), ("grey", "gray"),
        ("plough", "plow"), ("cheque", "check"), ("kerb", "curb"), ("aluminium", "aluminum"), ("storey", "story"), ("l(ment|ful)", r"ll\1"),
    ):  # fmt: skip
        changed = re.sub(pattern, other, word)
        if changed != word:
            yield changed

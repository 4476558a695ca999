"""Words that the dictionary of the post's language does not have. Capitalised, mixed and learned words are treated softly."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.proofing.checks.words import words
from mobbet.core.proofing.marks import COULD, SHOULD, Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage, Passage

MOST_MENDS = 4
_VERBS = re.compile(
    r"\s+(?:am|was|had|have|will|would|can|could|do|did|don|didn|think|thought|know|knew|went|go|saw|see|put|took|take|found|find|made|make|opened|got|get|said|say|want|wanted"
    r"|like|liked|need|needed|love|tried|try|used|use|never|always|also|just|then|still|once|must|should|might|may|really|only|left|kept|bought|asked|tell|told|hope|guess|wish|felt|feel)\b"
)
_STRANGE = re.compile(r"\d|[A-Z].*[A-Z]|[a-z][A-Z]")


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    known = material.knowledge
    for match in words(passage.text):
        word = match[0].replace("’", "'")
        bare = _bare(word)
        if (
            word == "i"
            and passage.language.startswith("en")
            and _is_who_writes(passage.text, *match.span())
            and passage.is_plain(*match.span())
        ):
            yield Mark(
                "spelling",
                "“i” as a word is written “I”.",
                "i",
                passage.path,
                match.start(),
                match.end(),
                mends=(replaced(passage.path, match.start(), match.end(), "I"),),
            )
        if not is_checked(word, material) or passage.is_code(*match.span()):
            continue
        language = passage.language_at(*match.span())
        if material.is_foreign and language == passage.language:
            continue  # one question is asked in the place of all these marks
        if not known.has_dictionary(language) or is_known(word, language, material):
            continue
        if bare[0].isupper() and not _begins_sentence(passage.text, match.start()):
            continue  # a name, as likely as not
        if not known.words.tells(word, language):
            continue
        severity = COULD if bare[0].isupper() else SHOULD
        mends = tuple(
            replaced(passage.path, match.start(), match.end(), other)
            for other in known.words.suggests(word, language)[:MOST_MENDS]
        )
        yield Mark(
            "spelling",
            f"“{match[0]}” is not in the dictionary.",
            match[0],
            passage.path,
            match.start(),
            match.end(),
            severity,
            mends,
        )


def _bare(word: str) -> str:
    return word.removesuffix("'s")


def is_checked(word: str, material: Material) -> bool:
    """Whether a word is one that a dictionary could have: longer than a letter, with no number or odd capitals in it, and not learned."""
    bare, learned = _bare(word), material.knowledge.learned
    if len(bare) < 2 or _STRANGE.search(bare):
        return False
    return not any(form in learned for form in (word, word.lower(), bare, bare.lower()))


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


def is_known(word: str, language: str, material: Material) -> bool:
    """Whether the dictionary of a language has a word, in one of its spellings."""
    bare, knows = _bare(word), material.knowledge.knows
    if (
        knows(word, language)
        or knows(bare, language)
        or (bare != bare.lower() and knows(bare.lower(), language))
    ):
        return True
    return (
        language.startswith("en")
        and language != "en-US"
        and any(knows(other, language) for other in other_spellings(bare.lower()))
    )


def _is_who_writes(text: str, start: int, end: int) -> bool:
    """Whether a small i is the writer, by the word that follows; elsewhere it may be a number or a name in a formula."""
    return text[start - 1 : start] in ("", " ", "“", "‘", '"', "(") and _VERBS.match(text, end) is not None


def _begins_sentence(text: str, at: int) -> bool:
    before = text[:at].rstrip("\"“‘'( ")
    return not before or before[-1] in ".!?…:"


CHECKS = (OfPassage(check),)
WHY = {
    "spelling": Why(
        "Spelling",
        "The dictionary of the post's language does not have the word. Names and words of a trade can be learned, for you or for the blog.",
        "seperate: separate",
    )
}

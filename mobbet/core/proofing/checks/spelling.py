"""Words that the dictionary of the post's language does not have. Capitalised, mixed and learned words are treated softly."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.proofing.checks.words import words
from mobbet.core.proofing.marks import COULD, SHOULD, Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage
from mobbet.core.proofing.spellings import bare_of

MOST_MENDS = 4
_VERBS = re.compile(
    r"\s+(?:am|was|had|have|will|would|can|could|do|did|don|didn|think|thought|know|knew|went|go|saw|see|put|took|take|found|find|made|make|opened|got|get|said|say|want|wanted"
    r"|like|liked|need|needed|love|tried|try|used|use|never|always|also|just|then|still|once|must|should|might|may|really|only|left|kept|bought|asked|tell|told|hope|guess|wish|felt|feel)\b"
)


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    known = material.knowledge
    for match in words(passage.text):
        word = match[0].replace("’", "'")
        bare = bare_of(word)
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
        if not material.knowledge.is_checked(word) or passage.is_code(*match.span()):
            continue
        language = passage.language_at(*match.span())
        if material.is_foreign and language == passage.language:
            continue  # one question is asked in the place of all these marks
        if not known.has_dictionary(language) or known.is_known(word, language):
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

"""The checks in their order. Adding one is a file in `checks/` and a line here."""

from __future__ import annotations

from mobbet.core.proofing.checks import (
    articles,
    confused_pairs,
    doubled_words,
    filing,
    foreign,
    going_out,
    headings,
    house_words,
    link_answers,
    links,
    long_paragraphs,
    long_sentences,
    own_links,
    partner_links,
    pictures,
    reading_ease,
    sentence_starts,
    series,
    shape,
    spelling,
    title,
    typography,
)
from mobbet.core.proofing.marks import Why
from mobbet.core.proofing.material import OfPassage, OfWhole

MODULES = (
    title,
    foreign,
    spelling,
    doubled_words,
    articles,
    confused_pairs,
    house_words,
    typography,
    sentence_starts,
    long_sentences,
    long_paragraphs,
    reading_ease,
    headings,
    shape,
    pictures,
    links,
    partner_links,
    link_answers,
    own_links,
    filing,
    series,
    going_out,
)
CHECKS: tuple[OfPassage | OfWhole, ...] = tuple(check for module in MODULES for check in module.CHECKS)
OF_PASSAGE = tuple(check for check in CHECKS if isinstance(check, OfPassage))
OF_WHOLE = tuple(check for check in CHECKS if isinstance(check, OfWhole))
WHY: dict[str, Why] = {name: why for module in MODULES for name, why in module.WHY.items()}
"""What each check is about, by the name that its marks have."""

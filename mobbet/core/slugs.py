"""Slugs of posts: what becomes of a title in an address, in Latin letters or in the title's own script."""

from __future__ import annotations

import re
import unicodedata

from slugify import slugify

from mobbet.core.errors import BadInput

LONGEST_SLUG = 60
COMFORTABLE = 32
"""A slug up to so many letters keeps its little words."""
LATIN, OWN = "latin", "own"
SCRIPTS = {LATIN: "Latin letters", OWN: "the title’s own script"}
_APOSTROPHES = re.compile(r"[’'‘ʼ`´]")
_TABLE = {
    "en": "a an and as at be by for from if in into is it its my of on or our so that the their this to was we with you your",
    "de": "als am an auf aus bei das dem den der des die ein eine einem einen einer es für im in ist mit oder und vom von zu zum zur",
    "fr": "a à au aux avec ce ces d dans de des du en est et l la le les leur ou par pour qu que se sur un une",
    "es": "a al con de del el en es la las lo los o para por que se su un una y",
    "pt": "a ao as com da das de do dos e em na nas no nos o os ou para por que se um uma",
    "it": "a al alla che con da dal del della di e gli i il in la le lo nel o per su un una",
    "nl": "aan als bij de den der die dat een en het in is met naar of om op te tot uit van voor",
    "sv": "att av de den det en ett för i med och om på som till",
}
LITTLE_WORDS = {language: frozenset(_TABLE[language].split()) for language in _TABLE}
"""The words that a slug can do without, by language."""


def whole_slug(text: str, script: str = LATIN) -> str:
    """Every word of a text as a slug, however long; '' where it holds no letter or digit that can stand in one.

    Apostrophes vanish rather than split a word. In its own script a text keeps its letters, digits and
    marks, composed (NFC) and in lower case; otherwise it is transliterated.
    """
    text = _APOSTROPHES.sub("", text)
    if script != OWN:
        return slugify(text)
    kept = (
        letter if unicodedata.category(letter)[0] in "LNM" else " "
        for letter in unicodedata.normalize("NFC", text.lower())
    )
    return "-".join(
        word
        for word in "".join(kept).split()
        if any(unicodedata.category(letter)[0] in "LN" for letter in word)
    )


def slug_of(title: str, fallback: str, script: str = LATIN, language: str = "en") -> str:
    """The slug that follows from a title: its little words left out when it is long, 60 letters at most.

    `fallback` where the title holds nothing that can stand in an address. Words are never cut in half,
    unless a single one is too long.
    """
    whole = whole_slug(title, script)
    if len(whole) <= COMFORTABLE:
        return whole or fallback
    return _cut(_telling(whole, language), LONGEST_SLUG)


def shorter_slugs(title: str, script: str = LATIN, language: str = "en") -> tuple[str, ...]:
    """Two or three shorter slugs for a title, the longest first; fewer where the title is short."""
    words = _telling(whole_slug(title, script), language)
    chosen = slug_of(title, "", script, language)
    found = [
        _cut(words, COMFORTABLE),
        _cut(words[:4], COMFORTABLE),
        _cut(words[:3], COMFORTABLE),
        _cut(words[:2], COMFORTABLE),
    ]
    return tuple(dict.fromkeys(slug for slug in found if slug and len(slug) < len(chosen)))[:3]


def read_post_slug(text: str, script: str = LATIN) -> str:
    """A slug that a person typed. Raises BadInput, with a proposal, when it cannot stand in an address."""
    typed = unicodedata.normalize("NFC", text.strip().strip("/").lower())
    if typed and typed == whole_slug(typed, script) and len(typed) <= LONGEST_SLUG:
        return typed
    proposal = _cut(whole_slug(typed, script).split("-"), LONGEST_SLUG)
    remedy = f"how about “{proposal}”?" if proposal else "use letters, digits and hyphens."
    raise BadInput(f"“{text.strip()}” cannot be part of an address; {remedy}", "slug")


def _telling(whole: str, language: str) -> list[str]:
    """The words of a slug without the little ones; all of them where nothing else is left."""
    words = whole.split("-") if whole else []
    little = LITTLE_WORDS.get(language[:2], LITTLE_WORDS["en"])
    return [word for word in words if word not in little] or words


def _cut(words: list[str], longest: int) -> str:
    kept = "-".join(words)
    if len(kept) <= longest:
        return kept
    return kept[: longest + 1].rpartition("-")[0] or _without_loose_marks(kept[:longest])


def _without_loose_marks(text: str) -> str:
    """A cut inside a word must not end before the marks of its last letter."""
    while text and unicodedata.category(text[-1])[0] == "M":
        text = text[:-1]
    return text

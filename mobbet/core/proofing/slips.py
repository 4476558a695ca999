"""Words one slip of the pen away from one that the dictionary does not have, the likeliest first.

A slip is a letter too many or missing, another letter, or two letters that changed places; letters that are doubled, or not,
may be wrong twice. After Damerau, “A technique for computer detection and correction of spelling errors” (1964).
"""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Iterator
from itertools import combinations

from mobbet.core.key_phrases import PALE
from mobbet.core.slugs import LITTLE_WORDS

LETTERS = "abcdefghijklmnopqrstuvwxyz"
SCRIPTS = {
    "CYRILLIC": "абвгґдеєжзиіїйклмнопрстуфхцчшщъыьэюя",
    "GREEK": "αβγδεζηθικλμνξοπρστυφχψως",
    "HEBREW": "אבגדהוזחטיכלמנסעפצקרשתךםןףץ",
    "ARABIC": "ابتثجحخدذرزسشصضطظعغفقكلمنهويىةءأإآؤئ",
    "ARMENIAN": "աբգդեզէըթժիլխծկհձղճմյնշոչպջռսվտրցւփքօֆև",
    "GEORGIAN": "აბგდევზთიკლმნოპჟრსტუფქღყშჩცძწჭხჯჰ",
}
"""The letters of other scripts, by how Unicode names them."""
LONGEST = 24
MOST = 6
_VOWELS = frozenset("aeiouy")
_ALIKE = frozenset(map(frozenset, ("sc", "sz", "ck", "fv", "td", "mn", "bp", "gj")))
_ENDINGS = (
    ("ically", "icly"),
    ("tainance", "tenance"),
    ("ious", "eous"),
    ("cion", "tion"),
    ("sion", "tion"),
    ("ough", "augh"),
    ("unge", "ngue"),
    ("f", "ph"),
    ("us", "ous"),
    ("all", "al"),
    ("full", "ful"),
    ("ei", "ie"),
    ("ie", "ei"),
)


def words_near(word: str, knows: Callable[[str], bool], language: str = "en") -> list[str]:
    """The words that the dictionary has one slip away, likely ones first; in the capitals of the word."""
    bare = word.lower()
    if len(bare) > LONGEST:
        return []
    common = LITTLE_WORDS.get(language[:2], frozenset()) | PALE
    costs: dict[str, float] = {}
    for cost, other in slips_of(bare):
        if other != bare and (other not in costs or cost < costs[other]):
            costs[other] = cost
    found = [
        (cost - (other in common), other) for other, cost in costs.items() if len(other) > 1 and knows(other)
    ]
    return [other.capitalize() if word[0].isupper() else other for _, other in sorted(found)[:MOST]]


def letters_for(word: str) -> str:
    """The letters of which words in the script of this one are made."""
    name = unicodedata.name(word[:1], "") if word else ""
    return next((letters for script, letters in SCRIPTS.items() if name.startswith(script)), LETTERS)


def slips_of(word: str, letters: str = LETTERS) -> Iterator[tuple[float, str]]:
    """(how unlikely, the other word) of every slip."""
    for at in range(len(word) - 1):
        yield 1.0, word[:at] + word[at + 1] + word[at] + word[at + 2 :]
    for at, letter in enumerate(word):
        is_double = at > 0 and word[at - 1] == letter
        yield (0.8 if is_double else 1.6), word[:at] + word[at + 1 :]
        for other in letters:
            is_like = {letter, other} <= _VOWELS or frozenset((letter, other)) in _ALIKE
            yield (1.1 if is_like and at else 1.8 + (at == 0)), word[:at] + other + word[at + 1 :]
    for at in range(len(word) + 1):
        for letter in letters:
            is_double = letter in word[max(0, at - 1) : at + 1]
            yield (
                (0.9 if is_double else 1.3 if letter in _VOWELS or letter == "h" else 1.5 + (at == 0)),
                word[:at] + letter + word[at:],
            )
    for wrong, right in _ENDINGS:
        if wrong in word:
            yield 1.4, word.replace(wrong, right, 1)
    for first, second in combinations(range(len(word)), 2):
        yield 1.7, _toggled(_toggled(word, second), first)


def _toggled(word: str, at: int) -> str:
    """With the letter there once where it is doubled, and doubled where it stands once."""
    is_double = at + 1 < len(word) and word[at + 1] == word[at]
    return word[:at] + word[at + 1 :] if is_double else word[: at + 1] + word[at:]

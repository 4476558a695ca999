"""Near-doubles: names that mean one thing, told apart from names that only look alike.

Two names double one another when they are the same but for case, accents, spaces and punctuation; when
one is the plural or another form of the other; or when one is a slip of the pen away from the other.
A slip is believed only where at most one of the two is a word that the dictionary knows.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

IsWord = Callable[[str], bool]
"""Whether the dictionary of the blog's language knows a word; always false where there is none."""

MOST_APART = 8
"""How many letters longer than another a name that doubles it may be."""
REASONS = {
    "spelling": "the same but for case, accents or spaces",
    "plural": "one is the plural of the other",
    "form": "two forms of one word",
    "slip": "one letter apart",
}
_IRREGULAR = dict(
    pair.split(":")
    for pair in "knives:knife lives:life wives:wife leaves:leaf loaves:loaf shelves:shelf halves:half calves:calf wolves:wolf thieves:thief "
    "scarves:scarf mice:mouse geese:goose feet:foot teeth:tooth men:man women:woman children:child people:person oxen:ox dice:die "
    "criteria:criterion phenomena:phenomenon indices:index appendices:appendix matrices:matrix vertices:vertex axes:axis analyses:analysis "
    "crises:crisis theses:thesis bases:base diagnoses:diagnosis fungi:fungus cacti:cactus radii:radius bacteria:bacterium media:medium "
    "data:datum potatoes:potato tomatoes:tomato heroes:hero echoes:echo".split()
)
_NO_PLURAL = frozenset(
    "news series species lens means gas bus plus glass brass bass class grass cross boss loss moss dress press canvas atlas physics athletics politics mathematics ethics chess".split()
)
_VARIANTS = (
    (re.compile(r"our(?=$|s$|ed$|ing$|ful|able|ite)"), "or"), (re.compile(r"(?<=[a-z]{2})is(?=e$|es$|ed$|ing$|er$|ers$|ation)"), "iz"),
    (re.compile(r"(?<=[bct])re$"), "er"), (re.compile(r"ogue$"), "og"), (re.compile(r"aeo|oe(?=[^s]|$)"), "e"), (re.compile(r"^grey"), "gray"),
    (re.compile(r"(?<=[a-z]{3})ll(?=ing$|ed$|er$|ers$|ery$)"), "l"), (re.compile(r"yse(?=$|d$|r$)"), "yze"), (re.compile(r"^tyre"), "tire"),
    (re.compile(r"^jewelery"), "jewelry"), (re.compile(r"aluminium"), "aluminum"),
)  # fmt: skip
"""Spellings that differ between countries, brought to one of the two."""


def folded(name: str) -> str:
    """A name in lower case without accents, spaces and punctuation. Signs that name things (C++, C#) stay."""
    plain = unicodedata.normalize("NFKD", name.casefold().replace("&", " and "))
    return "".join(
        letter
        for letter in plain
        if letter.isalnum() or letter in "+#" or unicodedata.category(letter) == "Mc"
    )


def words_of(name: str) -> tuple[str, ...]:
    """The words of a name, each folded."""
    return tuple(word for word in (folded(part) for part in re.split(r"[\s\-_/.,:;·]+", name)) if word)


def singular(word: str) -> str:
    """The singular of an English noun; the word itself where it is none that ends like a plural."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if word in _NO_PLURAL or len(word) < 4 or not word.endswith("s") or word.endswith(("ss", "us", "is")):
        return word
    if word.endswith("ies") and len(word) > 4:
        return word[:-3] + "y"
    if word.endswith(("sses", "shes", "ches", "xes", "zzes", "buses", "lenses", "gases")):
        return word[:-2]
    return word[:-1]


def stem(word: str) -> str:
    """What the forms of a word share, to look for them; words that share it need not be forms of one (hop, hope)."""
    for ending in ("ings", "ing", "ed"):
        rest = word.removesuffix(ending)
        if rest != word and len(rest) >= 3 and re.search(r"[aeiouy]", rest):
            return _bare(rest)
    return _bare(word)


def _bare(rest: str) -> str:
    if len(rest) > 3 and rest[-1] == rest[-2] and rest[-1] not in "aeiou":
        rest = rest[:-1]
    if rest.endswith("i"):
        rest = rest[:-1] + "y"
    return rest[:-1] if rest.endswith("e") and len(rest) > 3 else rest


def one_spelling(word: str) -> str:
    """A word with the spellings of several countries brought to one."""
    for pattern, instead in _VARIANTS:
        word = pattern.sub(instead, word)
    return word


def reason(one: str, other: str, is_word: IsWord = lambda word: False) -> str | None:
    """Why two names double one another, a key of REASONS; None when they do not."""
    if folded(one) == folded(other):
        return "spelling" if folded(one) else None
    mine, theirs = words_of(one), words_of(other)
    if len(mine) != len(theirs):
        return _joined(mine, theirs, is_word)
    found = [_of_words(a, b, is_word) for a, b in zip(mine, theirs, strict=True) if a != b]
    return (
        found[0]
        if len(found) == 1
        else ("plural" if found and all(why in ("plural", "spelling") for why in found) else None)
    )


def _joined(mine: tuple[str, ...], theirs: tuple[str, ...], is_word: IsWord) -> str | None:
    """Names of one and of several words: the same joined up, the plural apart."""
    if min(len(mine), len(theirs)) != 1:
        return None
    one, other = "".join(mine), "".join(theirs)
    return "plural" if singular(one) == singular(other) else None


def _of_words(one: str, other: str, is_word: IsWord) -> str | None:
    if any(letter.isdecimal() for letter in one + other):
        return None
    if singular(one) == singular(other):
        return "plural"
    if one_spelling(singular(one)) == one_spelling(singular(other)):
        return "spelling"
    plain = [singular(one), singular(other)]
    if any(
        _is_form(*pair) or _is_form(*reversed(pair))
        for pair in (plain, [one_spelling(word) for word in plain])
    ):
        return "form"
    return "slip" if _is_slip(one, other, is_word) else None


def _is_form(one: str, other: str) -> bool:
    """Whether `other` is a form of `one`: solder, soldering; restore, restoring, restoration."""
    if not one.isascii() or not other.isascii() or len(one) < 3:
        return False
    if bases(one) & bases(other):
        return True
    return (
        len(one) >= 5
        and other.endswith("ation")
        and bool(bases(one) & {other.removesuffix("ation"), other.removesuffix("ation") + "e"})
    )


def bases(word: str) -> frozenset[str]:
    """The words that this one may be a form of: `hopping` of hop, `hoping` of hope, `dried` of dry; itself among them."""
    for ending in ("ings", "ing", "ed"):
        rest = word.removesuffix(ending)
        if rest == word or len(rest) < 3 or not re.search(r"[aeiouy]", rest):
            continue
        if rest[-1] == rest[-2] and rest[-1] not in "aeiou":
            return frozenset({word, rest, rest[:-1]} if rest[-1] in "lsz" else {word, rest[:-1]})
        if rest.endswith("i"):
            return frozenset({word, rest[:-1] + "y"})
        is_short = re.fullmatch(r"[^aeiouy]*[aeiouy][^aeiouwxy]", rest)
        return frozenset({word, rest + "e"} if is_short else {word, rest, rest + "e"})
    return frozenset({word})


def _is_slip(one: str, other: str, is_word: IsWord) -> bool:
    """Whether one is the other misspelt: one letter (two in a long word) more, fewer, other or swapped."""
    shorter = min(len(one), len(other))
    if shorter < 5 or one[0] != other[0] or abs(len(one) - len(other)) > 2:
        return False
    known = [is_word(word) or is_word(singular(word)) for word in (one, other)]
    one, other = singular(one), singular(other)
    if all(known):
        return False
    distance = slips(one, other, 2)
    if distance == 1:
        return any(known) or shorter >= 7 or _is_likely(one, other)
    return distance == 2 and any(known) and (shorter >= 9 or (shorter >= 6 and sorted(one) == sorted(other)))


def _is_likely(one: str, other: str) -> bool:
    """Slips that fingers make even in names no dictionary knows: letters swapped, or one doubled."""
    if sorted(one) == sorted(other):
        return True
    return re.sub(r"(.)\1", r"\1", one) == re.sub(r"(.)\1", r"\1", other)


def slips(one: str, other: str, most: int) -> int:
    """How many letters were added, left out, changed or swapped with a neighbour; `most + 1` when more than that."""
    if abs(len(one) - len(other)) > most:
        return most + 1
    before: list[int] = []
    row = list(range(len(other) + 1))
    for i, a in enumerate(one, 1):
        now = [i]
        for j, b in enumerate(other, 1):
            cost = min(row[j] + 1, now[j - 1] + 1, row[j - 1] + (a != b))
            if i > 1 and j > 1 and a == other[j - 2] and one[i - 2] == b:
                cost = min(cost, before[j - 2] + 1)
            now.append(cost)
        if min(now) > most:
            return most + 1
        before, row = row, now
    return min(row[-1], most + 1)


@dataclass(frozen=True)
class Double:
    """Two names that mean one thing, and why; `one` comes first in the order given."""

    one: str
    other: str
    why: str


def doubles(names: Iterable[str], is_word: IsWord = lambda word: False) -> list[Double]:
    """Every pair of near-doubles among the names. Takes time in proportion to their number, not its square."""
    names = list(dict.fromkeys(names))
    order = {name: at for at, name in enumerate(names)}
    buckets: dict[str, list[str]] = {}
    for name in names:
        for key in set(_keys(name)):
            buckets.setdefault(key, []).append(name)
    found: dict[tuple[str, str], Double] = {}
    for bucket in buckets.values():
        for at, one in enumerate(bucket[:200]):
            for other in bucket[at + 1 : 200]:
                pair = (one, other) if order[one] < order[other] else (other, one)
                if pair not in found and (why := reason(*pair, is_word)):
                    found[pair] = Double(*pair, why)
    return sorted(found.values(), key=lambda double: (order[double.one], order[double.other]))


def near(name: str, names: Iterable[str], is_word: IsWord = lambda word: False) -> list[Double]:
    """The names that double this one, without itself."""
    wanted, bare = set(_keys(name)), folded(name)
    alike = (
        other
        for other in names
        if other != name and abs(len(other) - len(name)) <= MOST_APART and folded(other[:1]) == bare[:1]
    )
    candidates = (other for other in alike if not wanted.isdisjoint(_keys(other)))
    return [Double(name, other, why) for other in candidates if (why := reason(name, other, is_word))]


def _keys(name: str) -> Iterator[str]:
    """What near-doubles of a name share at least one of: its bare form, and that with one letter left out."""
    words = words_of(name)
    roots = [stem(one_spelling(singular(word))) for word in words]
    whole = "".join(roots)
    yield "f" + folded(name)
    yield "f" + singular(folded(name))
    yield whole
    yield "".join(singular(word) for word in words)
    for root, word in zip(roots, words, strict=True):
        if word.endswith("ation"):
            yield whole.replace(root, stem(one_spelling(word).removesuffix("ation")), 1)
    long = "".join(words)
    if len(long) >= 5:
        bare = "".join(singular(word) for word in words)
        yield "d" + bare
        yield "s" + "".join(sorted(bare))
        yield from ("d" + bare[:at] + bare[at + 1 :] for at in range(1, len(bare)))

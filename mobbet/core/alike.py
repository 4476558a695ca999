"""How much two posts are on the same matter: telling words, tags, categories and links that they share."""

from __future__ import annotations

import json
import math
import re
from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

from mobbet.core.errors import BadInput
from mobbet.core.key_phrases import PALE
from mobbet.core.near import folded, singular
from mobbet.core.searching import words_of
from mobbet.core.slugs import LITTLE_WORDS

MOST, MOST_CHOSEN, MOST_WORDS, LONGEST_TEXT = 4, 12, 40, 40_000
OF_TITLE = 3
"""How often a word of the title counts."""
TAG, CATEGORY, LINK, LEAST = 2.2, 0.7, 4.0, 2.0
"""What a shared tag, a shared category and a link between two posts weigh, against a shared word that stands in every hundredth post (4.6); and how much
two posts must share to be alike."""
_LETTER = re.compile(r"[^\W\d_]")


@dataclass(frozen=True)
class Matter:
    """What a post is about: {word: how often it stands there, by its logarithm}, its tags and categories, and the posts it leads to, by number."""

    words: Mapping[str, float] = field(default_factory=dict)
    tags: frozenset[int] = frozenset()
    categories: frozenset[int] = frozenset()
    links: frozenset[int] = frozenset()


def counted_words(title: str, text: str, language: str = "en") -> dict[str, float]:
    """The words of a text that may tell it from others: in small letters, in the singular, without those that every text has."""
    little = LITTLE_WORDS.get(language[:2], frozenset()) | PALE
    counts: Counter[str] = Counter()
    for words, times in ((words_of(title), OF_TITLE), (words_of(text[:LONGEST_TEXT]), 1)):
        before = ""
        for word in words:
            plain = folded(word)
            if len(plain) == 1 and not plain.isascii() and _LETTER.fullmatch(plain):
                if before:  # two letters of a script without spaces are about a word
                    counts[f"{before} {plain}"] += times
                before = plain
                continue
            before = ""
            if len(plain) > 2 and _LETTER.match(plain) and plain not in little and word.lower() not in little:
                counts[singular(plain)] += times
    return {word: 1 + math.log(count) for word, count in counts.items()}


def telling(
    words: Mapping[str, float], rarity: Callable[[str], float], most: int = MOST_WORDS
) -> dict[str, float]:
    """{word: its weight} of the most telling words; `rarity` is 0 for a word that tells nothing."""
    weighed = {word: times * rarity(word) for word, times in words.items()}
    best = sorted(weighed, key=lambda word: (-weighed[word], word))[:most]
    return {word: weighed[word] for word in best if weighed[word] > 0}


@dataclass(frozen=True)
class Likeness:
    """How much two posts share, and of what they share most: words, then tags and categories by number, and whether one leads to the other."""

    score: float
    words: tuple[str, ...] = ()
    tags: tuple[int, ...] = ()
    categories: tuple[int, ...] = ()
    is_linked: bool = False


def likeness(
    one: Matter, other: Matter, ids: tuple[int, int], rarity: Callable[[str], float]
) -> Likeness | None:
    """How much two posts (their numbers are `ids`) are alike; None where they are not. The same whichever comes first."""
    first, second = telling(one.words, rarity), telling(other.words, rarity)
    shared = {word: math.sqrt(first[word] * second[word]) for word in first.keys() & second.keys()}
    length = math.sqrt(sum(weight * weight for weight in first.values())) * math.sqrt(
        sum(weight * weight for weight in second.values())
    )
    cosine = sum(first[word] * second[word] for word in shared) / length if length else 0.0
    tags, categories = sorted(one.tags & other.tags), sorted(one.categories & other.categories)
    is_linked = ids[1] in one.links or ids[0] in other.links
    score = 20 * cosine + TAG * len(tags) + CATEGORY * bool(categories) + LINK * is_linked
    is_alike = score >= LEAST and (len(shared) > 1 or tags or is_linked)
    if not is_alike:
        return None
    words = tuple(sorted(shared, key=lambda word: (-shared[word], word))[:3])
    return Likeness(round(score, 4), words, tuple(tags[:2]), tuple(categories[:1]), is_linked)


def reason(found: Likeness, tags: Mapping[int, str], categories: Mapping[int, str]) -> str:
    """Why two posts are alike, as the end of a sentence: “both speak of flex and fuse”."""
    said = []
    if found.is_linked:
        said.append("one leads to the other")
    if found.words:
        said.append(f"both speak of {_and([word.replace(' ', '') for word in found.words[:2]])}")
    named = [tags[number] for number in found.tags if number in tags]
    if named:
        said.append(f"both are tagged {_and(named)}")
    filed = [categories[number] for number in found.categories if number in categories]
    if filed and len(said) < 2:
        said.append(f"both are in {filed[0]}")
    return _and(said[:2])


def _and(words: Iterable[str]) -> str:
    *first, last = words
    return f"{', '.join(first)} and {last}" if first else last


@dataclass(frozen=True)
class Choice:
    """What a writer chose for a post: none at all; posts that stand first whatever they share; and posts that never stand there."""

    none: bool = False
    pinned: tuple[int, ...] = ()
    struck: tuple[int, ...] = ()

    def stored(self) -> str:
        """As a docket keeps it; '' for what is usual."""
        if not (self.none or self.pinned or self.struck):
            return ""
        return json.dumps({"none": self.none, "pinned": self.pinned, "struck": self.struck})


def read_choice(text: str) -> Choice:
    """A choice as it is kept."""
    if not text:
        return Choice()
    data = json.loads(text)
    return Choice(bool(data["none"]), tuple(data["pinned"]), tuple(data["struck"]))


def checked(choice: Choice) -> Choice:
    """The choice. Raises BadInput where it names too many posts."""
    if len(choice.pinned) > MOST:
        raise BadInput(
            f"{len(choice.pinned)} posts are put first; {MOST} is the most that stand there.", "alike"
        )
    if len(choice.struck) > MOST_CHOSEN:
        raise BadInput(
            f"{len(choice.struck)} posts are struck out, and {MOST_CHOSEN} is the most; choose that none stand there.",
            "alike",
        )
    return choice


def chosen(choice: Choice, computed: Iterable[int]) -> list[int]:
    """The posts to stand below one, in order, of which the first MOST that readers get are shown: those put first, then those that are alike."""
    if choice.none:
        return []
    found = dict.fromkeys([*choice.pinned, *computed])
    return [number for number in found if number not in choice.struck]

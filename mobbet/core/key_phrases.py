"""What a text is about: the blog's own tags that occur in it, and its telling words."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable

from mobbet.core.near import IsWord, bases, folded, one_spelling, singular, words_of
from mobbet.core.slugs import LITTLE_WORDS

_SENTENCE = re.compile(r"[.!?;:()\[\]“”\"\n–—,]+")
_WORD = re.compile(r"[^\W\d_][\w’'-]*")
PALE = frozenset(
    "about above after again all also always another any are because been before being below between both but came can cannot come could did do does done down "
    "each either else enough even ever every few first found four get give goes good got had half has have he her here hers him his how i if just keep kept last least left "
    "less let like little long look made make many may me mine more most much must never new next no nobody none not nothing now off often old once one only "
    "other others out over own part put rather same say second see seen set several shall she should show since small some something soon still such take ten "
    "than them then there these they thing things those though three through till time times too took try two under until up upon us use used very want well "
    "went were what when where whether which while who whole whose why will without work would year years yes yet day days week people way ways need needs "
    "don doesn didn isn wasn aren won it’s don’t".split()
)
MOST = 8


def tags_in(text: str, tags: Iterable[str]) -> list[str]:
    """The tags whose words stand in the text one after the other, in any form; those that occur most often come first."""
    words = [_roots(word) for word in words_of(text)]
    places: dict[str, list[int]] = {}
    for at, roots in enumerate(words):
        for root in roots:
            places.setdefault(root, []).append(at)
    starts = {word[:3] for word in words_of(text)}
    counts = Counter(
        {
            tag: _times(words_of(tag), words, places)
            for tag in tags
            if folded(tag[:3]) in starts or not tag[:3].isascii()
        }
    )
    return [tag for tag, count in counts.most_common() if count]


def _times(tag: tuple[str, ...], words: list[frozenset[str]], places: dict[str, list[int]]) -> int:
    if not tag:
        return 0
    wanted = [_roots(word) for word in tag]
    starts = {at for root in wanted[0] for at in places.get(root, ())}
    return sum(
        all(at + step < len(words) and words[at + step] & roots for step, roots in enumerate(wanted))
        for at in starts
    )


def _roots(word: str) -> frozenset[str]:
    plain = one_spelling(singular(word))
    return bases(plain) - ({plain} if len(bases(plain)) > 1 else set())


def phrases(title: str, text: str, language: str = "en", is_word: IsWord = lambda word: False) -> list[str]:
    """Telling words and pairs of words, the likeliest first: those that come back, that stand in the title, and early.

    A pair takes the place of its words where it makes up most of their occurrences.
    """
    little = LITTLE_WORDS.get(language[:2], LITTLE_WORDS["en"]) | PALE
    runs = [[word.lower() for word in _WORD.findall(part)] for part in _SENTENCE.split(f"{title}. {text}")]
    order = list(dict.fromkeys(singular(folded(word)) for run in runs for word in run))
    early = {word: at / max(1, len(order)) for at, word in enumerate(order)}
    in_title = {singular(word) for word in words_of(title)}
    single: Counter[str] = Counter()
    pairs: Counter[tuple[str, str]] = Counter()
    for run in runs:
        kept = [None if word in little or len(word) < 3 else singular(folded(word)) for word in run]
        single.update(word for word in kept if word)
        pairs.update((a, b) for a, b in zip(kept, kept[1:], strict=False) if a and b and a != b)

    def weight(word: str, count: int) -> float:
        return count * (1.6 if word in in_title else 1.0) * (1.3 - 0.6 * early.get(word, 1.0))

    scores = {word: weight(word, count) for word, count in single.items() if count > 1 or word in in_title}
    for (a, b), count in pairs.items():
        if count > 1 and count * 2 >= min(single[a], single[b]):
            scores[f"{a} {b}"] = weight(a, count) + weight(b, count)
    found: list[str] = []
    for phrase, _ in sorted(scores.items(), key=lambda pair: (-pair[1], pair[0])):
        parts = set(phrase.split())
        if not any(parts & set(other.split()) for other in found):
            found.append(phrase)
    return found[:MOST]

"""Which other posts of the blog a text plainly means."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from functools import lru_cache

from mobbet.core.key_phrases import PALE
from mobbet.core.near import folded, singular
from mobbet.core.proofing.checks.words import WORD
from mobbet.core.slugs import LITTLE_WORDS

LEAST, ENOUGH = 2, 3
"""A title of so few telling words must stand there whole; of a longer one so many in a row are enough."""
MOST_BETWEEN = 2
"""Little words that may stand between two telling ones."""
SHARED_BY = 1
"""A tag says which post is meant when no more posts than that have it."""


@dataclass(frozen=True)
class OwnPost:
    """A post of the blog that is out."""

    number: int
    title: str
    tags: tuple[str, ...] = ()


@dataclass(frozen=True)
class Own:
    """The posts that a text may mean, by the first of the words that say so."""

    runs: dict[str, list[tuple[tuple[str, ...], OwnPost]]] = field(default_factory=dict)

    but: int = 0

    def without(self, number: int) -> Own:
        """The same posts but for one, which does not mean itself."""
        return Own(self.runs, number)

    def __bool__(self) -> bool:
        return bool(self.runs)


def telling(words: str, language: str = "en") -> tuple[str, ...]:
    """The words of a title that tell it from others, each in its simplest form."""
    little = LITTLE_WORDS.get(language[:2], LITTLE_WORDS["en"]) | PALE
    found = (match[0].lower() for match in WORD.finditer(words))
    return tuple(singular(folded(word)) for word in found if word not in little)


def own_posts(posts: Iterable[OwnPost], language: str = "en") -> Own:
    """The index of a blog's posts. Runs of words that two posts share mean neither."""
    posts = list(posts)
    bearers: dict[str, list[OwnPost]] = {}
    for post in posts:
        for tag in post.tags:
            bearers.setdefault(tag, []).append(post)
    runs: dict[tuple[str, ...], list[OwnPost]] = {}
    for post in posts:
        words = telling(post.title, language)
        length = len(words) if len(words) <= ENOUGH else ENOUGH
        if length >= LEAST:
            for at in range(len(words) - length + 1):
                runs.setdefault(words[at : at + length], []).append(post)
    for tag, found in bearers.items():
        words = telling(tag, language)
        if (
            len(words) >= LEAST
            and len(found) <= SHARED_BY
            and set(words) <= set(telling(found[0].title, language))
        ):
            runs.setdefault(words, []).append(found[0])
    index: dict[str, list[tuple[tuple[str, ...], OwnPost]]] = {}
    for words, found in runs.items():
        if len({post.number for post in found}) == 1:
            index.setdefault(words[0], []).append((words, found[0]))
    return Own(index)


def meant_in(text: str, own: Own, language: str = "en") -> Iterator[tuple[int, int, OwnPost]]:
    """(start, end, post) of each passage that means one of the posts, in order."""
    words, at = _forms(text, language), 0
    while at < len(words):
        step = 1
        for run, post in sorted(
            own.runs.get(words[at][2], ()) if words[at][2] else (), key=lambda pair: -len(pair[0])
        ):
            last = _last(words, at, run)
            if last is not None and post.number != own.but:
                yield words[at][0], words[last][1], post
                step = last - at + 1
                break
        at += step


@lru_cache(maxsize=8192)
def _forms(text: str, language: str) -> tuple[tuple[int, int, str], ...]:
    """(start, end, simplest form) of the words of a passage; little words have no form. Kept, since a text is read again after every change."""
    little = LITTLE_WORDS.get(language[:2], LITTLE_WORDS["en"]) | PALE
    return tuple(
        (match.start(), match.end(), "" if match[0].lower() in little else singular(folded(match[0])))
        for match in WORD.finditer(text)
    )


def _last(words: tuple[tuple[int, int, str], ...], at: int, run: tuple[str, ...]) -> int | None:
    """Where a run of telling words that begins here ends; None where it does not stand here."""
    for wanted in run[1:]:
        between = 0
        at += 1
        while at < len(words) and not words[at][2] and between < MOST_BETWEEN:
            at, between = at + 1, between + 1
        if at >= len(words) or words[at][2] != wanted:
            return None
    return at

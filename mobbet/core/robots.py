"""A guard against robots that write comments: words, links and manner, weighed by what a blog showed and refused before.

After Robinson, “A statistical approach to the spam problem” (2003), with log odds instead of products; what is learned begins with made-up examples.
"""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from mobbet.core.near import folded
from mobbet.core.numbers import spelled
from mobbet.core.robot_examples import PEOPLE, ROBOTS
from mobbet.core.searching import words_of

OFF, WAIT, REFUSE = "off", "wait", "refuse"
WAYS = {
    OFF: "decides nothing",
    WAIT: "has what looks like a robot's wait",
    REFUSE: "refuses what is surely a robot's, and has the rest that looks like one wait",
}
"""What the guard does on a blog, in words."""
BAR, SURE = 0.5, 0.97
"""From which likelihood on a comment looks like a robot's, and is surely one's."""
QUICK, SLOW, LONGEST_WORD, MOST_TOLD, MOST_SIGNS = 4, 25, 24, 3, 400
FEW = 14
"""Of fewer words than these, each says less."""
MOST_OF_HOST = 3
"""So many links to one host count as one."""
LARGEST, STRENGTH, ALONE, CLEARED = 2.4, 1.0, 3.0, 2.5
"""How much one sign weighs at most; how many examples a sign needs to weigh half of what it says; and how much words must say where nothing else speaks against a
comment, and how much they can say in its favour."""
_LINK = re.compile(r"https?://|www\.[a-z]", re.IGNORECASE)
_ADDRESS = re.compile(r"(?:https?://|www\.)([^\s/\"<>\]]{1,120})[^\s\"<>\]]*", re.IGNORECASE)
_MARKUP = re.compile(r"<a\s|\[url|\[link|href=", re.IGNORECASE)
_MONEY = re.compile(r"[$€£]\s?\d|\d\s?(?:%|\$|€|usd\b|dollars?\b)", re.IGNORECASE)
_EMAIL = re.compile(r"\w@[\w-]{1,63}\.\w")
_CALL = re.compile(r"whatsapp|telegram|微信|\+\d[\d ]{7}", re.IGNORECASE)


@dataclass(frozen=True)
class Manner:
    """How a comment came: after how many seconds on the form (None where that is unknown), whether a field was filled that people do not see, how many
    like it were refused this week, whether this name and address were shown before, whether whoever wrote it is signed in, and words of the post."""

    seconds: int | None = None
    is_trapped: bool = False
    refused_alike: int = 0
    is_known: bool = False
    is_signed_in: bool = False
    post_words: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Learned:
    """In how many comments of robots and of people each sign stood, and how many of both there were."""

    robots: Mapping[str, int] = field(default_factory=dict)
    people: Mapping[str, int] = field(default_factory=dict)
    of_robots: int = 0
    of_people: int = 0


@dataclass(frozen=True)
class Suspicion:
    """How likely a comment is a robot's (0 to 1), and why, in words."""

    likelihood: float
    why: tuple[str, ...] = ()

    @property
    def looks_like_one(self) -> bool:
        return self.likelihood >= BAR

    @property
    def is_sure(self) -> bool:
        return self.likelihood >= SURE

    @property
    def words(self) -> str:
        """Why, as a sentence; '' for a comment that looks like a person's."""
        return f"Looks like a robot's: {'; '.join(self.why)}." if self.looks_like_one and self.why else ""


def signs_of(name: str, text: str) -> frozenset[str]:
    """The signs of a comment: its words, those of its name, and the hosts that it leads to."""
    found = [word for word in map(folded, words_of(_ADDRESS.sub(" ", text))) if 1 < len(word) <= LONGEST_WORD]
    hosts = (f"host:{address[1].lower()}" for address in _ADDRESS.finditer(text))
    signs = [*found[:MOST_SIGNS], *hosts, *(f"name:{word}" for word in map(folded, words_of(name)) if word)]
    pairs = [f"{one} {other}" for one, other in zip(found, found[1:], strict=False)]
    return frozenset([*signs, *pairs[:MOST_SIGNS]])


@lru_cache(maxsize=1)
def begun() -> Learned:
    """What is known before anything was learned: the made-up examples."""
    counts = [Counter(sign for one in some for sign in signs_of(*one)) for some in (ROBOTS, PEOPLE)]
    return Learned(counts[0], counts[1], len(ROBOTS), len(PEOPLE))


def suspicion(name: str, text: str, manner: Manner, learned: Learned) -> Suspicion:
    """How likely a comment is a robot's, from its words, its links and its manner."""
    found = [*_of_manner(name, text, manner)]
    signs = signs_of(name, text)
    said = _of_words(signs, learned)
    told = sorted((one for one in found if one[0] > 0 and one[1]), key=lambda one: -one[0])
    if not told and said < ALONE * max(1.0, 2 - len(words_of(text)) / FEW):
        said = min(said, 0.0)  # words alone hold nobody back, and few of them hardly anybody
    score = sum(weight for weight, _ in found) + max(said, -CLEARED)
    why = [words for _, words in told][:MOST_TOLD]
    if said > 1 and len(why) < MOST_TOLD:
        words = _telling(signs, learned)
        why += [f"words such as {words}"] if words else []
    return Suspicion(1 / (1 + math.exp(-max(-30.0, min(30.0, score)))), tuple(why))


def _of_words(signs: Iterable[str], learned: Learned) -> float:
    weights = sorted((_weight(sign, learned) for sign in signs), key=abs, reverse=True)
    telling = [weight for weight in weights if weight][:25]
    return float(sum(telling) / max(1.0, len(telling) ** 0.35))


def _weight(sign: str, learned: Learned) -> float:
    """The log odds of a sign; 0 for one that is not known. One example says less than many."""
    base = begun()
    robots = base.robots.get(sign, 0) + learned.robots.get(sign, 0)
    people = base.people.get(sign, 0) + learned.people.get(sign, 0)
    if not robots and not people:
        return 0.0
    seen = max(0, robots) + max(0, people)
    share, other = (
        robots / (base.of_robots + learned.of_robots),
        people / (base.of_people + learned.of_people),
    )
    likely = (0.5 * STRENGTH + seen * max(0.0, share / (share + other or 1))) / (STRENGTH + seen)
    return max(-LARGEST, min(LARGEST, math.log(likely / (1 - likely))))


def _telling(signs: Iterable[str], learned: Learned) -> str:
    weighed = sorted((-_weight(sign, learned), sign) for sign in signs if ":" not in sign and " " not in sign)
    words = [sign for weight, sign in weighed[:2] if weight < -0.5]
    return " and ".join(f"“{word}”" for word in words)


def _of_manner(name: str, text: str, manner: Manner) -> Iterable[tuple[float, str]]:
    """(weight, in words) of all that is no word."""
    links = max(
        len(_LINK.findall(text)) - MOST_OF_HOST, len({one[1].lower() for one in _ADDRESS.finditer(text)})
    )
    yield (
        (-0.9, "")
        if links == 0
        else (
            (0.9, "a link")
            if links == 1
            else (2.6, "two links")
            if links == 2
            else (4.2, f"{spelled(links)} links")
        )
    )
    if _LINK.search(name) or any(len(word) > LONGEST_WORD for word in name.split()):
        yield 3.0, "a link for a name"
    if _MARKUP.search(text):
        yield 3.5, "links written as markup"
    if _MONEY.search(text):
        yield 0.4, "money"
    if _CALL.search(text):
        yield 1.4, "a number to call or to write to"
    elif _EMAIL.search(text):
        yield 0.5, "an address to write to"
    if manner.is_trapped:
        yield 9.0, "it filled in a field that people do not see"
    if manner.seconds is not None and manner.seconds < QUICK:
        yield 2.4, f"it was written in {manner.seconds} second{'s' if manner.seconds != 1 else ''}"
    elif manner.seconds is not None and manner.seconds > SLOW:
        yield -0.7, ""
    if manner.refused_alike:
        yield 1.6 * min(3, manner.refused_alike), f"refused {spelled(manner.refused_alike)} alike this week"
    if manner.is_known:
        yield -2.5, ""
    if manner.is_signed_in:
        yield -4.0, ""
    shared = manner.post_words & {folded(word) for word in words_of(text)}
    if manner.post_words:
        yield (-0.5 * min(4, len(shared)), "") if shared else (0.3, "")


def fingerprint(text: str) -> str:
    """What is the same of texts that differ in links, numbers and order of words: the words, sorted."""
    bare = re.sub(r"(?:https?://|www\.)\S+|\d+", " ", text)
    return " ".join(sorted({folded(word) for word in words_of(bare)} - {""}))[:2000]

"""What people type to find a post, taken apart: words, "exact phrases", -without, and filters such as tag:fuse or before:2026-03."""

from __future__ import annotations

import re
import unicodedata
from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date
from functools import lru_cache

from mobbet.core import states
from mobbet.core.timing import instant_of_wall

MOST_PARTS, LONGEST = 24, 200
BEFORE, AROUND = 5, 12
"""Words shown before and after the first hit."""
STATES = {
    "draft": states.DRAFT, "drafts": states.DRAFT, "timetable": states.IN_TIMETABLE, "placed": states.IN_TIMETABLE, "in-timetable": states.IN_TIMETABLE, "scheduled": states.IN_TIMETABLE,
    "published": states.OUT, "out": states.OUT, "came-down": states.CAME_DOWN, "down": states.CAME_DOWN, "withdrawn": states.WITHDRAWN, "set-aside": states.SET_ASIDE, "aside": states.SET_ASIDE,
}  # fmt: skip
KINDS = {"post": False, "posts": False, "page": True, "pages": True}
"""The words after `is:` that ask for posts or for pages, and whether they ask for pages."""
FILTERS = ("tag", "in", "by", "is", "before", "after")
_PART = re.compile(r'(?P<sign>-?)(?:(?P<name>[a-z]+):)?(?:"(?P<phrase>[^"]*)"?|(?P<word>[^\s"]+))')
_TOKEN = re.compile(r"[^\W_]+")
_SPACE = re.compile(r"\s+")
_UNSPACED = re.compile(
    r"([\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff\uff66-\uff9f\U00020000-\U0003134f])"
)
"""Letters of scripts that put no space between words: each stands in the index by itself, and a word is a phrase of them."""


@dataclass(frozen=True)
class Query:
    """A query. Each of `phrases` is a run of words; the last word may be the beginning of one where `is_open`."""

    phrases: tuple[tuple[str, ...], ...] = ()
    without: tuple[tuple[str, ...], ...] = ()
    is_open: bool = False
    tags: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    authors: tuple[str, ...] = ()
    states: tuple[str, ...] = ()
    is_page: bool | None = None
    before: int | None = None
    after: int | None = None
    problems: tuple[str, ...] = field(default=())

    @property
    def is_empty(self) -> bool:
        return not (
            self.phrases
            or self.tags
            or self.categories
            or self.authors
            or self.states
            or self.is_page is not None
            or self.before
            or self.after
        )


def words_of(text: str) -> tuple[str, ...]:
    """The words of a text as the index has them: letters and digits, those of unspaced scripts one by one."""
    return tuple(_TOKEN.findall(spaced(text)))


def spaced(text: str) -> str:
    """A text in composed letters (NFC), with spaces around each letter of a script that has none between words."""
    return _UNSPACED.sub(r" \1 ", unicodedata.normalize("NFC", text))


def place_of(text: str, query: Query) -> list[tuple[str, bool]]:
    """The place in a spaced text where most of a query's words stand near each other, as (words, is a hit) parts; [] where none does."""
    wanted = [_folded(word) for words in query.phrases for word in words]
    beginning = wanted[-1] if wanted and query.is_open else None
    text, is_cut_before, is_cut_after = _near_the_place(text, wanted, beginning)
    tokens = list(_TOKEN.finditer(text))
    words = [_folded(token[0]) for token in tokens]
    hits = [
        at for at, word in enumerate(words) if word in wanted or (beginning and word.startswith(beginning))
    ]
    if not hits:
        return []
    densest = max(range(len(hits)), key=lambda at: (bisect_left(hits, hits[at] + AROUND) - at, -at))
    first = hits[densest]
    begin, end = max(0, first - BEFORE), min(len(tokens), first + AROUND)
    parts: list[tuple[str, bool]] = [("…", False)] if begin or is_cut_before else []
    at, chosen = tokens[begin].start(), set(hits)
    for number in range(begin, end):
        token, gap = tokens[number], text[at : tokens[number].start()]
        is_one_word = (
            gap.isspace()
            and len(token[0]) == 1
            and _UNSPACED.fullmatch(token[0])
            and _UNSPACED.fullmatch(text[at - 1 : at])
        )
        parts += [
            ("" if is_one_word else _SPACE.sub(" ", gap) if len(gap) > 1 else gap, False),
            (token[0], number in chosen),
        ]
        at = token.end()
    return _joined([*parts, ("…" if end < len(tokens) or is_cut_after else text[at:].rstrip()[:3], False)])


LONG, NEAR_BEFORE, NEAR_AFTER, TOGETHER = 500, 60, 170, 120
"""In letters: how long a text must be for its place to be cut out first, how much is left around it, and how near to each other hits are one place."""


def _near_the_place(text: str, wanted: list[str], beginning: str | None) -> tuple[str, bool, bool]:
    """A long text cut down to around where most hits are, and whether something is cut off before and after."""
    plain = text.lower()
    if len(text) < LONG or len(plain) != len(text):
        return text, False, False
    hits = sorted({place for word in wanted for place in _places(plain, word, word == beginning)})
    if not hits:
        return text, False, False
    place = hits[max(range(len(hits)), key=lambda at: (bisect_left(hits, hits[at] + TOGETHER) - at, -at))]
    first = text.rfind(" ", 0, max(0, place - NEAR_BEFORE)) + 1
    last = text.find(" ", min(len(text), place + NEAR_AFTER))
    return text[first : last if last >= 0 else len(text)], first > 0, last >= 0


def _places(text: str, word: str, is_beginning: bool) -> Iterator[int]:
    """Where a word stands in a text, or one that begins so. Looking for the letters and then at what is beside them takes a tenth of what an expression takes."""
    place = text.find(word)
    while place >= 0:
        end = place + len(word)
        if not text[place - 1 : place].isalnum() and (is_beginning or not text[end : end + 1].isalnum()):
            yield place
        place = text.find(word, end)


def _joined(parts: list[tuple[str, bool]]) -> list[tuple[str, bool]]:
    """Neighbours of one kind as one part, as people write them."""
    found: list[tuple[str, bool]] = []
    for words, is_hit in parts:
        if words and found and found[-1][1] == is_hit:
            found[-1] = (found[-1][0] + words, is_hit)
        elif words:
            found.append((words, is_hit))
    return found


@lru_cache(maxsize=50_000)
def _folded(word: str) -> str:
    """A word as the index compares it: in small letters, without accents."""
    return "".join(
        letter
        for letter in unicodedata.normalize("NFD", word.lower())
        if unicodedata.category(letter) != "Mn"
    )


def read(text: str, zone: str) -> Query:
    """Takes a query apart. What cannot be meant is told in `problems`, and left out."""
    phrases: list[tuple[str, ...]] = []
    without: list[tuple[str, ...]] = []
    problems: list[str] = []
    if len(text) > LONGEST:
        problems.append(f"The search has {len(text):,} letters; the first {LONGEST} were looked for.")
        text = text[:LONGEST]
    text = unicodedata.normalize("NFC", text)
    kept: dict[str, list[str]] = {name: [] for name in FILTERS}
    is_open = False
    for part in list(_PART.finditer(text))[:MOST_PARTS]:
        name, value = part["name"], part["phrase"] if part["phrase"] is not None else part["word"]
        if name in FILTERS and not part["sign"]:
            if value:
                kept[name].append(value)
            continue
        words = words_of(f"{name}:{value}" if name else value)
        if not words:
            continue
        (without if part["sign"] else phrases).append(words)
        is_open = not part["sign"] and part["phrase"] is None and part.end() == len(text)
    times = {}
    for name in ("before", "after"):
        for value in kept[name]:
            found = _day(value, name == "after")
            if found is None:
                problems.append(
                    f"“{name}:{value}” is no date; write it like {name}:2026-03 or {name}:2026-03-15."
                )
            else:
                times[name] = instant_of_wall(f"{found} 00:00", zone)
    known, is_page = [], None
    for value in kept["is"]:
        if value.casefold() in STATES:
            known.append(STATES[value.casefold()])
        elif value.casefold() in KINDS:
            is_page = KINDS[value.casefold()]
        else:
            problems.append(
                f"“is:{value}” is no state; write one of: draft, timetable, published, came-down, withdrawn, set-aside, post, page."
            )
    return Query(
        tuple(phrases),
        tuple(without),
        is_open,
        tuple(kept["tag"]),
        tuple(kept["in"]),
        tuple(kept["by"]),
        tuple(known),
        is_page,
        times.get("before"),
        times.get("after"),
        tuple(problems),
    )


def read_words(text: str) -> Query:
    """Takes apart what a reader of a site typed: words, "exact phrases" and -without; what looks like a filter is words as well."""
    text = unicodedata.normalize("NFC", text[:LONGEST])
    phrases: list[tuple[str, ...]] = []
    without: list[tuple[str, ...]] = []
    is_open = False
    for part in list(_PART.finditer(text))[:MOST_PARTS]:
        value = part["phrase"] if part["phrase"] is not None else part["word"]
        words = words_of(f"{part['name']} {value}" if part["name"] else value)
        if words:
            (without if part["sign"] else phrases).append(words)
            is_open = not part["sign"] and part["phrase"] is None and part.end() == len(text)
    return Query(tuple(phrases), tuple(without), is_open)


def _day(text: str, is_after: bool) -> str | None:
    """The first day of what is named, or the day after its last one; None where that is no date."""
    match = re.fullmatch(r"(\d{4})(?:-(\d{1,2}))?(?:-(\d{1,2}))?", text)
    if match is None:
        return None
    year, month, day = (int(part or 0) for part in match.groups())
    try:
        first = date(year, month or 1, day or 1)
        if not is_after:
            return first.isoformat()
        if day:
            return date.fromordinal(first.toordinal() + 1).isoformat()
        return date(year + (month in (0, 12)), 1 if month in (0, 12) else month + 1, 1).isoformat()
    except ValueError:
        return None


def matching(query: Query) -> str:
    """The query in the words of FTS5; '' where it names no words."""
    quoted = [f'"{" ".join(words)}"' for words in query.phrases]
    if quoted and query.is_open:
        quoted[-1] += "*"
    if not quoted:
        return ""
    found = " AND ".join(quoted)
    for words in query.without:
        found = f'({found}) NOT "{" ".join(words)}"'
    return found

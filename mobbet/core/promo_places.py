"""Which saved blocks stand below a post: it follows from the rules (`core/promos.py`), from where the post is filed, and from its words."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from typing import Any, NamedTuple

from mobbet.core.canonical import digest
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.facts import Subject
from mobbet.core.filing import trail
from mobbet.core.promos import MANY_FORMS, Promo, Promos
from mobbet.core.values import existing


def folded(text: str) -> str:
    """A text as words are compared: without differences of case, of composed signs, and of kinds of space and apostrophe."""
    one = unicodedata.normalize("NFKC", text).casefold().replace("’", "'")
    return " ".join(unicodedata.normalize("NFKC", one).split())


def text_of(document: Mapping[str, Any], *titles: str) -> str:
    """Everything that a text says, as words are looked for in it: what is read, descriptions, and where its links lead."""
    parts = list(titles)
    for node in walk(dict(document)):
        children = node.get("content", ())
        if any(child["type"] == "text" for child in children):
            parts.append(plain(node))
        parts += [value for value in (node.get("attrs") or {}).values() if isinstance(value, str)]
        parts += [mark["attrs"]["href"] for mark in node.get("marks", ()) if mark["type"] == "link"]
    return folded("\n".join(parts))


def named_in(text: str, words: Iterable[str]) -> str:
    """The first of some words that a folded text names as a whole word, or with any ending where it ends in a star; '' for none. In scripts that put no
    space between words a name counts wherever it stands."""
    for word in words:
        if _names(text, word):
            return word
    return ""


def _names(text: str, word: str) -> bool:
    name, is_open = folded(word.rstrip(MANY_FORMS)), word.endswith(MANY_FORMS)
    at = text.find(name) if name else -1
    while at >= 0:
        end = at + len(name)
        if _parts(text[at - 1 : at], name[0]) and (is_open or _parts(name[-1], text[end : end + 1])):
            return True
        at = text.find(name, at + 1)
    return False


def _parts(before: str, after: str) -> bool:
    """Whether a word may end between two letters."""
    if not before or not after or not (before.isalnum() and after.isalnum()):
        return True
    return _is_unspaced(before) or _is_unspaced(after)


def _is_unspaced(letter: str) -> bool:
    """Whether a letter is of a script that puts no space between words: Chinese, Japanese, Thai, Lao, Khmer, Burmese."""
    return letter >= "\u0e00" and any(first <= letter <= last for first, last in UNSPACED)


UNSPACED = (
    ("\u0e00", "\u0eff"),
    ("\u1000", "\u109f"),
    ("\u1780", "\u17ff"),
    ("\u2e80", "\u30ff"),
    ("\u3400", "\u9fff"),
    ("\uf900", "\ufaff"),
    ("\U00020000", "\U0003ffff"),
)


class Filed(NamedTuple):
    """What of a post says where promos stand: its number, and where it is filed."""

    id: int
    categories: tuple[int, ...]
    tags: tuple[int, ...]


class Reach(NamedTuple):
    """The posts that some rules may concern: those filed in a category or below it, or with a tag; every post with `is_every`."""

    categories: tuple[int, ...]
    tags: tuple[int, ...]
    is_every: bool

    def joined(self, other: Reach) -> Reach:
        return Reach(
            (*self.categories, *other.categories), (*self.tags, *other.tags), self.is_every or other.is_every
        )


NOWHERE = Reach((), (), False)


def reach_of(rules: Iterable[Promo]) -> Reach:
    """What some rules may concern."""
    found = NOWHERE
    for rule in rules:
        found = found.joined(Reach(rule.categories, rule.tags, not (rule.categories or rule.tags)))
    return found


class Verdict(NamedTuple):
    """Whether a rule shows its block below a post, and why."""

    rule: Promo
    stands: bool
    why: str


def standing(
    promos: Promos, post: Filed, subjects: Mapping[int, Subject], text: Callable[[], str]
) -> list[Promo]:
    """The rules that show their blocks below a post, in order; `text` reads its words, folded, and is called where a rule has words to look for.
    The heavier ones come first; of equal weight they take turns from post to post."""
    here = [rule for rule in promos.rules if place_of(rule, post, subjects) is not None]
    here.sort(key=lambda rule: (-rule.weight, digest([post.id, rule.id])))
    found: list[Promo] = []
    for rule in here:
        if len(found) == promos.most:
            break
        if not (rule.never and named_in(text(), rule.never)):
            found.append(rule)
    return found


def place_of(rule: Promo, post: Filed, subjects: Mapping[int, Subject]) -> int | None:
    """The category, or as a negative number the tag, by which a post is in the reach of a rule; 0 where the rule is for every post, None where it is
    not in reach."""
    if not rule.categories and not rule.tags:
        return 0
    filed = {one.id for number in post.categories if number in subjects for one in trail(subjects, number)}
    category = next((number for number in rule.categories if number in filed), None)
    if category is not None:
        return category
    tag = next((number for number in rule.tags if number in post.tags), None)
    return -tag if tag is not None else None


def verdicts(
    promos: Promos,
    post: Filed,
    subjects: Mapping[int, Subject],
    text: str,
    instant: int,
    is_there: Callable[[int], bool],
    name: Callable[[int], str],
) -> list[Verdict]:
    """What each rule does below a post at an instant, and why. `is_there` says whether a saved block is still on the list, `name` names what
    `place_of` answers with."""
    live = [rule for rule in promos.rules if rule.shows_at(instant) and is_there(rule.block)]
    shown = standing(replace(promos, rules=tuple(live)), post, subjects, lambda: text)
    found = []
    for rule in promos.rules:
        place, word = place_of(rule, post, subjects), named_in(text, rule.never)
        if rule in shown:
            found.append(Verdict(rule, True, f"stands below it: {name(existing(place))}"))
        elif not is_there(rule.block):
            found.append(Verdict(rule, False, "its block is no longer among the saved blocks"))
        elif not rule.shows_at(instant):
            is_over = rule.shows_until is not None and rule.shows_until <= instant
            found.append(Verdict(rule, False, "its time is over" if is_over else "its time has not come yet"))
        elif place is None:
            found.append(Verdict(rule, False, "the post is filed elsewhere"))
        elif word:
            found.append(Verdict(rule, False, f"the post names “{word}”"))
        else:
            found.append(Verdict(rule, False, "others weigh more, or have their turn here"))
    return found

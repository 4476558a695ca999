"""The rules by which saved blocks stand below posts: one value of the house; each edit answers with another one."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass, replace
from typing import Any

from mobbet.core.canonical import canonical
from mobbet.core.errors import BadInput
from mobbet.core.names import one_line

MOST_RULES, MOST_WORDS, LONGEST_WORD, MOST_PLACES, MOST_BELOW = 50, 50, 60, 20, 5
HEAVIEST, USUAL_WEIGHT = 9, 5
MANY_FORMS = "*"
"""At the end of a word: with any ending."""


@dataclass(frozen=True)
class Promo:
    """One rule: its number, the saved block it shows, the categories (with what is below them) and tags it stands with (any of them; with none
    below every post), the words that no post beside it may name, the instants from which and until which it shows (None for always), and its weight
    from 1 to 9."""

    id: int
    block: int
    categories: tuple[int, ...] = ()
    tags: tuple[int, ...] = ()
    never: tuple[str, ...] = ()
    shows_from: int | None = None
    shows_until: int | None = None
    weight: int = USUAL_WEIGHT

    def shows_at(self, instant: int) -> bool:
        """Whether it is its time."""
        return (self.shows_from is None or self.shows_from <= instant) and (
            self.shows_until is None or instant < self.shows_until
        )

    @property
    def moments(self) -> tuple[int, ...]:
        """The instants at which it comes or goes by itself."""
        return tuple(at for at in (self.shows_from, self.shows_until) if at is not None)


@dataclass(frozen=True)
class Promos:
    """The rules of a blog, and how many blocks stand below one post at most."""

    rules: tuple[Promo, ...] = ()
    most: int = 1

    def rule(self, number: int) -> Promo:
        """Raises BadInput where there is none."""
        found = next((rule for rule in self.rules if rule.id == number), None)
        if found is None:
            raise BadInput(f"There is no rule {number}; somebody may have taken it out. Look again.", "rule")
        return found


def promos_text(promos: Promos) -> str:
    """The rules as they are kept."""
    return canonical(asdict(promos))


def read_promos(text: str) -> Promos:
    """Rules that were kept."""
    data = json.loads(text)
    return Promos(tuple(map(_rule, data.get("rules", ()))), data.get("most", 1))


def _rule(data: dict[str, Any]) -> Promo:
    lists = {name: tuple(data.get(name, ())) for name in ("categories", "tags", "never")}
    return Promo(**{**data, **lists})


def added(promos: Promos, block: int, **values: Any) -> Promos:
    """With one rule more. Raises BadInput where there are too many."""
    if len(promos.rules) >= MOST_RULES:
        raise BadInput(f"{MOST_RULES} rules are the most a blog can have; take one out first.", "rule")
    number = max((rule.id for rule in promos.rules), default=0) + 1
    return replace(promos, rules=(*promos.rules, checked(Promo(number, block, **values))))


def changed(promos: Promos, number: int, **values: Any) -> Promos:
    """With other values of one rule. Raises BadInput for what cannot be."""
    rule = checked(replace(promos.rule(number), **values))
    return replace(promos, rules=tuple(rule if one.id == number else one for one in promos.rules))


def removed(promos: Promos, number: int) -> Promos:
    rule = promos.rule(number)
    return replace(promos, rules=tuple(one for one in promos.rules if one != rule))


def checked(rule: Promo) -> Promo:
    """A rule that can be. Raises BadInput."""
    if not 1 <= rule.weight <= HEAVIEST:
        raise BadInput(f"A weight is 1 to {HEAVIEST}; {rule.weight} is another number.", "weight")
    if len(rule.categories) + len(rule.tags) > MOST_PLACES:
        raise BadInput(f"{MOST_PLACES} categories and tags are the most for one rule.", "places")
    if rule.shows_from is not None and rule.shows_until is not None and rule.shows_until <= rule.shows_from:
        raise BadInput(
            "It would end before it begins; choose a later end, or an earlier beginning.", "shows_until"
        )
    return rule


def read_never(text: str) -> tuple[str, ...]:
    """Words and names as somebody typed them, with commas or one a line. Raises BadInput."""
    words = [one_line(word) for line in text.splitlines() for word in line.split(",")]
    found = tuple(dict.fromkeys(word for word in words if word.rstrip(MANY_FORMS)))
    if len(found) > MOST_WORDS:
        raise BadInput(f"{len(found)} words are too many; {MOST_WORDS} is the most.", "never")
    longest = max(found, key=len, default="")
    if len(longest) > LONGEST_WORD:
        raise BadInput(f"“{longest[:30]}…” has {len(longest)} letters; {LONGEST_WORD} is the most.", "never")
    return found

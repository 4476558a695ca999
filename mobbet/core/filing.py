"""The order of categories: names typed as a path, their tree, and the trail above one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from mobbet.core.errors import BadInput
from mobbet.core.facts import Subject
from mobbet.core.keys import ListName
from mobbet.core.names import one_line
from mobbet.core.numbers import spelled

LONGEST_NAME = 60


def read_category(text: str) -> tuple[str, ...]:
    """`Lamps > Wiring` as ('Lamps', 'Wiring'). Raises BadInput for an empty or overlong name."""
    names = tuple(one_line(name) for name in text.split(">"))
    for name in names:
        if not name:
            raise BadInput(
                f"“{text}” has an empty category name; write it like Lamps > Wiring.", "categories"
            )
        if len(name) > LONGEST_NAME:
            raise BadInput(
                f"“{name[:30]}…” is longer than {LONGEST_NAME} letters; choose a shorter name for the category.",
                "categories",
            )
    return names


def read_tags(text: str) -> tuple[str, ...]:
    """Tags typed with commas, each once, in the order typed. Raises BadInput for an overlong one."""
    names = tuple(dict.fromkeys(one_line(name).lstrip("#") for name in text.split(",")))
    for name in names:
        if len(name) > LONGEST_NAME:
            raise BadInput(
                f"“{name[:30]}…” is longer than {LONGEST_NAME} letters; choose a shorter tag.", "tags"
            )
    return tuple(name for name in names if name)


def trail(subjects: Mapping[int, Subject], number: int) -> tuple[Subject, ...]:
    """The categories from the top down to this one, itself last."""
    found: dict[int, Subject] = {}
    current: int | None = number
    while current is not None and current in subjects and current not in found:
        found[current] = subjects[current]
        current = subjects[current].parent_id
    return tuple(reversed(found.values()))


def path_in_words(subjects: Mapping[int, Subject], number: int) -> str:
    """`Lamps > Wiring`, as people type it."""
    return " > ".join(step.name for step in trail(subjects, number))


def category_lists(subjects: Mapping[int, Subject], numbers: Iterable[int]) -> tuple[ListName, ...]:
    """The lists on which a post stands by its categories: `category:3` for its own and for those above that show what is
    below them, `under:3` for those above that do not and only have a page because of it. Each once.
    """
    found: dict[ListName, None] = {}
    for number in numbers:
        for at, step in enumerate(reversed(trail(subjects, number))):
            found[ListName.of("category" if at == 0 or step.shows_below else "under", step.id)] = None
    return tuple(found)


def below(subjects: Mapping[int, Subject], number: int) -> set[int]:
    """The category and everything below it."""
    children: dict[int | None, list[int]] = {}
    for subject in subjects.values():
        children.setdefault(subject.parent_id, []).append(subject.id)
    found, waiting = set(), [number]
    while waiting:
        one = waiting.pop()
        if one not in found:
            found.add(one)
            waiting += children.get(one, ())
    return found


@dataclass(frozen=True)
class Rule:
    """How many categories a post of a blog needs and may have (0 is no limit), and the owner's words about it."""

    least: int = 0
    most: int = 0
    help: str = ""

    def problem(self, count: int) -> str | None:
        """Why a post with so many categories cannot be placed, with the owner's help; None when it can."""
        if count < self.least:
            words = f"This blog asks for {_at_least(self.least)}, and the post has {spelled(count) if count else 'none'}; choose {'more' if count else 'one'} in the docket."
        elif self.most and count > self.most:
            words = f"This blog allows {_categories(self.most)} at the most, and the post has {spelled(count)}; take some out in the docket."
        else:
            return None
        return f"{words} {self.help}".strip()

    def refusal(self, count: int, own: int) -> str | None:
        """Why a post with `count` categories cannot be placed, of which `own` are no catch-all; None when it can."""
        return self.problem(own if own < self.least else count)

    def words(self) -> str:
        """The rule as a part of a sentence."""
        if self.least and self.least == self.most:
            return f"exactly {_categories(self.least)}"
        parts = [f"at least {_categories(self.least)}"] if self.least else []
        parts += (
            [f"{spelled(self.most)} at the most" if self.least else f"{_categories(self.most)} at the most"]
            if self.most
            else []
        )
        return " and ".join(parts) or "any number of categories"


def read_rule(least: str, most: str, help: str) -> Rule:
    """A rule that a person typed; an empty number is no limit. Raises BadInput."""
    numbers = []
    for field, text in (("least", least), ("most", most)):
        text = text.strip() or "0"
        if not text.isascii() or not text.isdecimal() or int(text) > 20:
            raise BadInput(f"“{text}” is no number of categories; type one from 0 to 20.", field)
        numbers.append(int(text))
    if numbers[1] and numbers[0] > numbers[1]:
        raise BadInput(
            f"A post cannot need {numbers[0]} and have {numbers[1]} at the most; make the second number larger.",
            "most",
        )
    help = " ".join(help.split())
    if len(help) > 200:
        raise BadInput(f"The sentence of help has {len(help)} letters; 200 is the most.", "help")
    return Rule(numbers[0], numbers[1], help)


def _categories(count: int) -> str:
    return f"{spelled(count)} categor{'y' if count == 1 else 'ies'}"


def _at_least(count: int) -> str:
    return _categories(count) if count == 1 else f"at least {_categories(count)}"


def replaced(numbers: Sequence[int], instead: Mapping[int, int | None]) -> tuple[int, ...]:
    """The numbers with some replaced, or left out (None); each once, in order."""
    found = (instead.get(number, number) for number in numbers)
    return tuple(dict.fromkeys(number for number in found if number is not None))


def check_move(subjects: Mapping[int, Subject], number: int, parent: int | None) -> None:
    """Raises BadInput where a category would come to stand below itself, or beside another of its name."""
    mine = subjects[number]
    if parent is not None and parent in below(subjects, number):
        raise BadInput(
            f"“{mine.name}” cannot stand below itself; choose a category that is not part of it.", "parent"
        )
    check_name(subjects, mine.name, parent, number)


def check_name(subjects: Mapping[int, Subject], name: str, parent: int | None, other_than: int = 0) -> None:
    """Raises BadInput where the parent has another category of that name."""
    for other in subjects.values():
        if other.id != other_than and other.parent_id == parent and other.name.casefold() == name.casefold():
            where = f"in “{subjects[parent].name}”" if parent else "at the top"
            raise BadInput(
                f"There is a category “{other.name}” {where} already; choose another name, or merge the two.",
                "name",
            )


def tree(subjects: Iterable[Subject]) -> list[tuple[int, Subject]]:
    """(depth, category) with every category under its parent, in the given order."""
    below: dict[int | None, list[Subject]] = {}
    for subject in subjects:
        below.setdefault(subject.parent_id, []).append(subject)

    rows: list[tuple[int, Subject]] = []
    waiting = [(0, subject) for subject in reversed(below.get(None, ()))]
    while waiting:
        depth, subject = waiting.pop()
        rows.append((depth, subject))
        waiting += [(depth + 1, child) for child in reversed(below.get(subject.id, ()))]
    return rows

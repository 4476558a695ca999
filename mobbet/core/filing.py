"""The order of categories: names typed as a path, their tree, and the trail above one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from mobbet.core.errors import BadInput
from mobbet.core.facts import Subject

LONGEST_NAME = 60


def read_category(text: str) -> tuple[str, ...]:
    """`Lamps > Wiring` as ('Lamps', 'Wiring'). Raises BadInput for an empty or overlong name."""
    names = tuple(" ".join(name.split()) for name in text.split(">"))
    for name in names:
        if not name:
            raise BadInput(f"“{text}” has an empty category name; write it like Lamps > Wiring.", "categories")
        if len(name) > LONGEST_NAME:
            raise BadInput(f"“{name[:30]}…” is longer than {LONGEST_NAME} letters; choose a shorter name for the category.", "categories")
    return names


def read_tags(text: str) -> tuple[str, ...]:
    """Tags typed with commas, each once, in the order typed. Raises BadInput for an overlong one."""
    names = tuple(dict.fromkeys(" ".join(name.split()).lstrip("#") for name in text.split(",")))
    for name in names:
        if len(name) > LONGEST_NAME:
            raise BadInput(f"“{name[:30]}…” is longer than {LONGEST_NAME} letters; choose a shorter tag.", "tags")
    return tuple(name for name in names if name)


def trail(subjects: Mapping[int, Subject], number: int) -> tuple[Subject, ...]:
    """The categories from the top down to this one, itself last."""
    found: list[Subject] = []
    current: int | None = number
    while current is not None and current in subjects and len(found) < 50:
        found.append(subjects[current])
        current = subjects[current].parent_id
    return tuple(reversed(found))


def with_parents(subjects: Mapping[int, Subject], numbers: Iterable[int]) -> tuple[int, ...]:
    """The categories and all above them, each once, in order."""
    return tuple(dict.fromkeys(step.id for number in numbers for step in reversed(trail(subjects, number))))


def tree(subjects: Iterable[Subject]) -> list[tuple[int, Subject]]:
    """(depth, category) with every category under its parent, in the given order."""
    below: dict[int | None, list[Subject]] = {}
    for subject in subjects:
        below.setdefault(subject.parent_id, []).append(subject)

    def rows(parent: int | None, depth: int) -> list[tuple[int, Subject]]:
        return [row for subject in below.get(parent, ()) for row in ((depth, subject), *rows(subject.id, depth + 1))]

    return rows(None, 0)

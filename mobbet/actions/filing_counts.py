"""How many posts each category holds, and how recent they are: what the tree and the map of the filing show."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core.facts import Subject
from mobbet.core.filing import trail
from mobbet.store import filing
from mobbet.store.blogs import Blog


@dataclass
class Count:
    """Posts that are out: filed under the category itself, and with everything below it; posts to come (with below); the newest of all (0 is none)."""

    own: int = 0
    whole: int = 0
    to_come: int = 0
    newest: int = 0


def counts(workshop: Workshop, blog: Blog, subjects: Mapping[int, Subject]) -> dict[int, Count]:
    """The counts of every category, now. A post filed under several parts of a category counts once for it."""
    found = {number: Count() for number in subjects}
    above = {number: tuple(step.id for step in trail(subjects, number)) for number in subjects}
    for text, out, newest, to_come in filing.filed_together(workshop.db, blog.id, workshop.clock()):
        numbers = [number for number in json.loads(text) if number in subjects]
        for number in set(numbers):
            found[number].own += out
        for number in {step for own in numbers for step in above[own]}:
            count = found[number]
            count.whole += out
            count.to_come += to_come
            count.newest = max(count.newest, newest)
    return found

"""The pages that posts which come, leave or move alter are those that differ when the whole list is divided."""

import random
import unittest
from bisect import bisect_left

from mobbet.core.division import Place, has_address, pages
from mobbet.publish.changes import redivision
from mobbet.publish.changes.redivision import MovedPlace, redivided


class Posts:
    def __init__(self, order: list[Place]) -> None:
        self._order = order
        self.count = len(order)

    def places(self, start: int, most: int) -> list[Place]:
        return self._order[start : start + most]

    def rank(self, place: Place) -> int:
        return bisect_left(self._order, place)


def shown(order: list[Place], size: int) -> dict[int, tuple[object, ...]]:
    """{first post of a page with an address: its posts, and the pages beside it}."""
    ids = [number for _, number in order]
    parts = [part for part in pages(ids, size) if has_address(part, len(ids), size)]
    firsts = [0, *(ids[start] for start, _ in parts), 0]
    return {
        ids[part[0]]: (ids[part[0] : part[1]], firsts[at - 1], firsts[at + 1])
        for at, part in enumerate(parts, 1)
    }


class RedivisionTests(unittest.TestCase):
    def check(self, before: list[Place], after: list[Place], size: int, words: str) -> redivision.Redivision:
        old, new = ({number: (at, number) for at, number in order} for order in (before, after))
        moves = [
            MovedPlace(old.get(number), new.get(number))
            for number in old.keys() | new.keys()
            if old.get(number) != new.get(number)
        ]
        found = redivided(moves, Posts(after), size)
        was, now = shown(before, size), shown(after, size)
        differing = {first for first in was.keys() | now.keys() if was.get(first) != now.get(first)}
        self.assertEqual(found.pages, differing, words)
        others = {first for first in was.keys() & now.keys() if was[first][0] != now[first][0]}
        self.assertLessEqual(
            found.showing_others, others, words
        )  # all but those that begin with a post that moved far
        return found

    def test_pages_that_differ_are_found_around_the_posts_that_moved(self) -> None:
        for seed in range(60):
            chance = random.Random(seed)
            size = chance.choice((1, 2, 3, 5, 10))
            length = chance.choice((0, 5, 60, 400, 900))
            numbers = chance.sample(range(1, 5000), length + 6)
            before = sorted((chance.randrange(0, 3000), number) for number in numbers[:length])
            after = set(before)
            for number in numbers[length : length + chance.randint(0, 6)]:
                after.add((chance.randrange(0, 3000), number))
            for place in chance.sample(before, min(len(before), chance.randint(0, 4))):
                after.discard(place)
                if chance.random() < 0.4:
                    after.add((chance.randrange(0, 3000), place[1]))
            self.check(before, sorted(after), size, f"seed {seed}")

    def test_what_differs_near_the_ends_is_found_too(self) -> None:
        order = [(at, at * 7 % 1009 + 1) for at in range(500)]
        for place in (0, 1, 5, 489, 490, 494, 498, 499):
            for size in (3, 10):
                found = self.check(order, order[:place] + order[place + 1 :], size, f"{place} {size}")
                self.assertLess(len(found.pages), 20)
                self.assertTrue(any(low <= order[place] <= high for low, high in found.stretches))

    def test_nothing_is_asked_of_a_list_on_which_none_moved(self) -> None:
        found = redivided([MovedPlace((1, 1), (1, 1))], Posts([]), 10)
        self.assertEqual((found.pages, found.stretches), (set(), []))

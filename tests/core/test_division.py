"""Lists are divided so that a post that comes or goes alters few pages, wherever it stands."""

import random
import unittest

from mobbet.core.division import Division, has_address, pages


def contents(ids: list[int], size: int) -> dict[int, list[int]]:
    return {ids[start]: ids[start:end] for start, end in pages(ids, size)}


def addresses(ids: list[int], size: int) -> set[int]:
    return {ids[part[0]] for part in pages(ids, size) if has_address(part, len(ids), size)}


class DivisionTests(unittest.TestCase):
    def test_pages_hold_all_posts_in_order_and_neither_few_nor_many(self) -> None:
        for size in (1, 2, 3, 10, 25, 100):
            ids = list(range(1, 3001))
            parts = pages(ids, size)
            self.assertEqual([at for start, end in parts for at in range(start, end)], list(range(3000)))
            lengths = [end - start for start, end in parts[:-1]]
            self.assertTrue(all(size / 2 <= length < 1.5 * size for length in lengths), size)

    def test_a_post_that_comes_or_goes_alters_few_pages_at_every_place(self) -> None:
        chance = random.Random(3)
        ids = chance.sample(range(1, 100_000), 4000)
        for size in (3, 10, 20):
            before = contents(ids, size)
            for place in (0, 1, 5, *chance.sample(range(4000), 60), 3990, 3998, 3999):
                without = ids[:place] + ids[place + 1 :]
                after = contents(without, size)
                differing = [key for key in before.keys() | after.keys() if before.get(key) != after.get(key)]
                self.assertLess(len(differing), 16, (size, place))

    def test_a_list_that_grows_keeps_the_address_of_every_page(self) -> None:
        for size in (1, 2, 3, 7, 10):
            chance = random.Random(size)
            ids: list[int] = []
            known: set[int] = set()
            for post_id in chance.sample(range(1, 10_000), 600):
                ids.append(post_id)
                now = addresses(ids, size)
                self.assertLessEqual(known, now, size)
                known = now

    def test_a_page_is_found_without_dividing_the_whole_list(self) -> None:
        chance = random.Random(5)
        ids = chance.sample(range(1, 1_000_000), 20_000)
        asked = []

        def window(start: int, most: int) -> list[int]:
            asked.append(most)
            return ids[start : start + most]

        expected = pages(ids, 10)
        division = Division(10, len(ids), window)
        for place in (0, 7, 9_999, 10_050, 19_999):
            part = division.holding(place)
            self.assertIn(part, expected)
            self.assertTrue(part[0] <= place < part[1])
        self.assertLess(sum(asked), 2000)
        with self.assertRaises(IndexError):
            division.holding(20_000)

    def test_short_lists_are_one_page(self) -> None:
        self.assertEqual([pages(list(range(count)), 10) for count in (0, 1, 3)], [[], [(0, 1)], [(0, 3)]])

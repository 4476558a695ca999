import unittest

from mobbet.core.numbers import counted_to, spelled, times_in_words


class SpelledTests(unittest.TestCase):
    def test_small_numbers_are_words_and_large_ones_digits(self) -> None:
        self.assertEqual(
            [spelled(number) for number in (0, 1, 12, 13, 1432)], ["no", "one", "twelve", "13", "1,432"]
        )

    def test_how_often_is_told_as_people_say_it(self) -> None:
        self.assertEqual(
            [times_in_words(number) for number in (1, 2, 3, 1432)],
            ["once", "twice", "3 times", "1,432 times"],
        )

    def test_long_lists_are_counted_no_further(self) -> None:
        self.assertEqual(
            [counted_to(count, "post") for count in (1, 100, 101, 5000)],
            ["1 post", "100 posts", "more than 100 posts", "more than 100 posts"],
        )

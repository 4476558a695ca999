import unittest

from mobbet.core.numbers import spelled


class SpelledTests(unittest.TestCase):
    def test_small_numbers_are_words_and_large_ones_digits(self) -> None:
        self.assertEqual(
            [spelled(number) for number in (0, 1, 12, 13, 1432)], ["no", "one", "twelve", "13", "1,432"]
        )

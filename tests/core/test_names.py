import unittest

from mobbet.core.filing import read_category, read_tags
from mobbet.core.names import one_line
from mobbet.core.searching import read, spaced

COMPOSED = ("čaj", "Café", "한국", "ใคร")
DECOMPOSED = ("c\u030caj", "Cafe\u0301", "\u1112\u1161\u11ab\u1100\u116e\u11a8", "ใคร")


class NameTests(unittest.TestCase):
    def test_a_name_is_one_however_a_keyboard_composes_it(self) -> None:
        for composed, decomposed in zip(COMPOSED, DECOMPOSED, strict=True):
            with self.subTest(composed):
                self.assertEqual(one_line(f"  {decomposed}\t{decomposed} "), f"{composed} {composed}")
                self.assertEqual(read_tags(f"{decomposed}, {composed}"), (composed,))
                self.assertEqual(read_category(f"{decomposed} > {decomposed}"), (composed, composed))

    def test_a_search_finds_a_word_however_it_is_composed(self) -> None:
        for composed, decomposed in zip(COMPOSED, DECOMPOSED, strict=True):
            with self.subTest(composed):
                self.assertEqual(spaced(decomposed), spaced(composed))
                self.assertEqual(
                    read(f"{decomposed} tag:{decomposed}", "UTC"), read(f"{composed} tag:{composed}", "UTC")
                )

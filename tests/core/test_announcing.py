import unittest

from mobbet.core.announcing import read_delay, read_longest, read_pattern, text_of
from mobbet.core.errors import BadInput

VALUES = {
    "title": "Why your lamp flickers", "description": "A tram passes, " * 40, "address": "https://bench.example/lamps/why/", "subtitle": "", "tags": "#flex",
}  # fmt: skip


class TextTests(unittest.TestCase):
    def test_what_is_too_long_is_cut_and_the_address_never(self) -> None:
        for longest in (60, 80, 140, 500, 5000):
            with self.subTest(longest):
                text = text_of("{title}: {description} {address} {tags}", VALUES, longest)
                self.assertLessEqual(len(text), longest)
                self.assertIn(VALUES["address"], text)

    def test_a_short_one_stands_as_it_is(self) -> None:
        self.assertEqual(
            text_of("{title} {address}", VALUES, 500),
            "Why your lamp flickers https://bench.example/lamps/why/",
        )

    def test_nonsense_is_told(self) -> None:
        for read, typed in (
            (read_pattern, "{nothing} {address}"), (read_pattern, "no address"), (read_longest, "5"), (read_longest, "many"), (read_delay, "-1"),
        ):  # fmt: skip
            with self.subTest(typed), self.assertRaises(BadInput):
                read(typed)

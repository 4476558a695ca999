import unittest

from mobbet.core.emails import is_email, split_line
from mobbet.core.errors import BadInput
from mobbet.core.geo import read_point
from mobbet.core.link_rules import read_rules
from tests.patterns import patterns, seconds, worst

LINEAR, QUADRATIC = 4, 16
"""How many times longer four times the length takes."""


class PatternTests(unittest.TestCase):
    def test_every_regular_expression_takes_time_in_proportion_to_its_text(self) -> None:
        tried = 0
        for where, pattern, flags, how in patterns():
            with self.subTest(f"{where} {pattern!r}"):
                ratio, text = worst(pattern, flags, how)
                self.assertLess(ratio, (LINEAR + QUADRATIC) / 2, text)
            tried += 1
        self.assertGreater(tried, 120)

    def test_the_test_finds_one_that_is_quadratic(self) -> None:
        for pattern in (r"^[^@\s]+@[^@\s]+\.[^@\s]+$", r"<[^>]+>", r"\s+$"):
            with self.subTest(pattern):
                self.assertGreater(worst(pattern, 0, "search")[0], (LINEAR + QUADRATIC) / 2)

    def test_what_is_typed_is_read_in_proportion_to_its_length(self) -> None:
        for read, piece in ((is_email, "."), (is_email, "a@"), (split_line, '"'), (split_line, " <")):
            with self.subTest(f"{read.__name__} {piece}"):
                self.assertLess(
                    seconds(read, "a@" + piece * 200_000 + "@")
                    / max(seconds(read, "a@" + piece * 50_000 + "@"), 1e-4),
                    (LINEAR + QUADRATIC) / 2,
                )


class EmailTests(unittest.TestCase):
    def test_addresses_as_mail_servers_take_them(self) -> None:
        for text in (
            "a@b.example",
            "first.last+tag@sub.domain.example",
            "o'neil@x-y.example",
            "ü@bücher.example",
        ):
            self.assertTrue(is_email(text), text)
        for text in (
            "",
            "a",
            "a@b",
            "a@@b.example",
            "a b@c.example",
            "a@b..example",
            ".a@b.example",
            "a.@b.example",
            "a..b@c.example",
            "a@-b.example",
            "a@b.example\nBcc: c@d.example",
            "a@b_c.example",
            "a" * 65 + "@b.example",
            "a@" + "b" * 64 + ".example",
            "<a@b.example>",
            "a@b.example,c@d.example",
        ):
            self.assertFalse(is_email(text), text)

    def test_a_line_has_a_name_or_none(self) -> None:
        self.assertEqual(split_line('"Mira Holm" <mira@b.example>'), ("Mira Holm", "mira@b.example"))
        self.assertEqual(split_line("Mira <mira@b.example>"), ("Mira", "mira@b.example"))
        self.assertEqual(split_line(" mira@b.example "), ("", "mira@b.example"))


class TypedTests(unittest.TestCase):
    def test_a_point_is_read_in_its_spellings(self) -> None:
        for text in (
            "38.72, -9.14",
            "38.72 N 9.14 W",
            "geo:38.72,-9.14",
            "38.72° N, 9.14° W",
            " 38.72 ,-9.14;u=10",
        ):
            self.assertEqual(read_point(text), (38.72, -9.14), text)

    def test_a_rule_names_a_domain(self) -> None:
        self.assertEqual(read_rules("https://www.shop.example/ paid"), (("shop.example", "paid"),))
        for text in ("shop paid", "-shop.example paid", "shop..example paid", "a" * 64 + ".example paid"):
            with self.assertRaisesRegex(BadInput, "names no domain"):
                read_rules(text)

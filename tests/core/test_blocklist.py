import unittest

from mobbet.core.blocklist import LONGEST, MOST, blocked_by, read_blocklist
from mobbet.core.errors import BadInput


class BlocklistTests(unittest.TestCase):
    def test_entries_are_read_one_a_line_and_kept_once(self) -> None:
        self.assertEqual(
            read_blocklist("  Cheap  lamps \n\npills.example\ncheap lamps\nMax@Pills.example\n"),
            ("Cheap lamps", "pills.example", "Max@Pills.example"),
        )

    def test_what_would_refuse_everything_or_nothing_is_told_by_name(self) -> None:
        many = "\n".join(f"word{number}" for number in range(MOST + 1))
        for typed in ("a", "…", "x" * (LONGEST + 1), many):
            with self.subTest(typed[:9]), self.assertRaises(BadInput):
                read_blocklist(typed)

    def test_words_are_found_as_whole_words_whatever_their_letters_look_like(self) -> None:
        for entry, text in (
            ("cheap lamps", "Buy CHEAP, lamps!"),
            ("café", "the cafe\u0301 here"),
            ("lamps", "ｌａｍｐｓ"),
            ("lamps", "la\u200bm\u00adps"),
            ("Лампы", "купи лампы"),
            ("电灯", "便宜电灯吗"),
            ("مصباح", "هذا مصباح رخيص"),
        ):
            with self.subTest(entry):
                self.assertEqual(blocked_by((entry,), "Ada", "", text), entry)
        for text in ("headlamps", "cheap and lamps", "lamps, cheap"):
            with self.subTest(text):
                self.assertEqual(blocked_by(("cheap lamps", "lamp", "heads"), "Ada", "", text), "")

    def test_a_name_and_a_text_are_not_read_as_one_phrase_but_each_counts(self) -> None:
        self.assertEqual(blocked_by(("cheap lamps",), "Cheap Lamps", "", "Hello."), "cheap lamps")

    def test_a_domain_is_found_with_what_is_below_it_and_nothing_beside_it(self) -> None:
        for text in ("see https://pills.example/x", "www.Pills.example.", "HTTP://a.b.pills.example:80", "(pills.example)"):  # fmt: skip
            with self.subTest(text):
                self.assertTrue(blocked_by(("pills.example",), "Ada", "", text))
        self.assertTrue(blocked_by(("pills.example",), "Ada", "ada@mail.pills.example", "Hello"))
        for text in ("https://mypills.example", "https://pills.example.org", "pills, example"):
            with self.subTest(text):
                self.assertFalse(blocked_by(("pills.example",), "Ada", "", text))
        self.assertTrue(blocked_by(("bücher.example",), "Ada", "", "https://xn--bcher-kva.example/"))

    def test_an_email_address_is_found_as_a_whole(self) -> None:
        self.assertTrue(blocked_by(("max@pills.example",), "Ada", "Max@Pills.example", "Hello"))
        self.assertTrue(blocked_by(("max@pills.example",), "Ada", "", "write <max@pills.example>."))
        self.assertFalse(blocked_by(("max@pills.example",), "Ada", "climax@pills.example", "Hello"))

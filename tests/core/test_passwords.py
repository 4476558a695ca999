import unittest

from mobbet.core import passwords
from mobbet.core.errors import BadInput
from mobbet.core.sealing import read_post_password
from mobbet.services.common_passwords import is_common

ABOUT = ("Ines Farrow", "ines@mending-bench.example", "The Mending Bench")


class PasswordTests(unittest.TestCase):
    def test_what_is_refused_and_why(self) -> None:
        for text, message in (
            ("short", "use at least 15"), ("a" * 1001, "longer than 1,000"), ("passwordpassword", "tried first"), ("123456123456123456", "tried first"), ("1qaz2wsx3edc4rfv", "tried first"), ("pass-word-pass-word", "tried first"), ("aaaaaaaaaaaaaaaaaaa", "tried first"),
            ("InesFarrow-bench", "little more than your name"), ("the mending bench 1", "little more than your name"), ("ines@mending-bench.example", "little more than your name"),
        ):  # fmt: skip
            with self.subTest(text[:30]), self.assertRaisesRegex(BadInput, message):
                passwords.check(text, is_common, ABOUT)

    def test_any_characters_are_taken_and_kept_in_one_form(self) -> None:
        for text in (
            "a kettle of rust",
            "ünïcödé wörds hère",
            "日本語のパスワードを十五文字以上",
            "x" * 7 + "y z w v u " * 5,
        ):
            self.assertEqual(passwords.check(text, is_common, ABOUT), passwords.normalised(text))
        self.assertEqual(passwords.normalised("Cafe\u0301"), "Café")

    def test_a_hundred_thousand_common_ones_are_known(self) -> None:
        for text in ("123456", "password", "qwertyuiop", "letmein"):
            self.assertTrue(is_common(text), text)
        for text in ("", "a kettle of rust", "password\n123456"):
            self.assertFalse(is_common(text), text)

    def test_the_password_of_a_post_is_long_enough_to_be_tried_offline(self) -> None:
        with self.assertRaisesRegex(BadInput, "at least 8"):
            read_post_password("springs")
        made = {passwords.generated_for_post() for _ in range(50)}
        self.assertEqual(len(made), 50)
        for one in made:
            self.assertEqual(read_post_password(one), one)

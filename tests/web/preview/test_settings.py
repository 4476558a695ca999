"""How a preview is looked at, and whose cookies these are."""

from __future__ import annotations

import unittest

from mobbet.core.audience import STRANGER
from mobbet.web.preview.settings import LARGE, View, read_view
from mobbet.web.public.guests import reader_of_request
from mobbet.web.shell.cookies import SESSION, guest_cookie, of_headers, proofs_cookie
from tests.shops import ShopCase


class ViewTests(unittest.TestCase):
    def test_a_view_comes_back_from_its_address(self) -> None:
        for view in (
            View(),
            View("group:3", "dark", "large", "print", "2026-12-01T09:00"),
            View("signed-in"),
        ):
            with self.subTest(view):
                self.assertEqual(read_view(str(view)), view)

    def test_what_is_not_understood_is_as_usual(self) -> None:
        for text in ("", ",,,,", "everyone,twilight,huge,papyrus", "everyone"):
            with self.subTest(text):
                self.assertEqual(read_view(text), View())

    def test_light_and_paper_do_not_depend_on_the_machine(self) -> None:
        source = ":root { color-scheme: light dark; }\n@media (prefers-color-scheme: dark) { a {} }\n@media print { b {} }"
        self.assertIn("@media not all { a {} }", View().styled(source))
        self.assertIn("color-scheme: light;", View().styled(source))
        dark = View(light="dark", media="print", type="large").styled(source)
        for part in (
            "color-scheme: dark;",
            "@media all { a {} }",
            "@media all { b {} }",
            f"font-size: {LARGE}",
        ):
            self.assertIn(part, dark)


class GuestTests(ShopCase):
    def test_cookies_are_read_as_they_are_and_the_first_of_a_name_holds(self) -> None:
        self.assertEqual(of_headers({b"cookie": b"a=1; b=two; a=3; c"}), {"a": "1", "b": "two", "c": ""})
        self.assertEqual(
            of_headers({b"cookie": b'q="' + b"\\" * 2000 + b'"'}), {"q": '"' + "\\" * 2000 + '"'}
        )
        self.assertEqual(of_headers({}), {"": ""})
        self.assertLess(
            len(of_headers({b"cookie": b";".join(b"n%d=1" % number for number in range(1000))})), 100
        )

    def test_whoever_has_no_cookie_or_a_wrong_one_is_a_stranger(self) -> None:
        for cookies in (
            {},
            {SESSION: "wrong"},
            {
                guest_cookie(self.shop.settings, self.blog): "wrong",
                proofs_cookie(self.shop.settings, self.blog): "",
            },
        ):
            with self.subTest(cookies):
                self.assertEqual(reader_of_request(self.shop, self.blog, cookies), STRANGER)

    def test_a_password_that_was_typed_is_no_name(self) -> None:
        reader = reader_of_request(
            self.shop, self.blog, {proofs_cookie(self.shop.settings, self.blog): "one.two..one"}
        )
        self.assertEqual((reader.person_id, reader.is_signed_in), (None, False))

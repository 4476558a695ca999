"""How a preview is looked at, and whose cookies these are."""

from __future__ import annotations

import unittest

from mobbet.core.audience import STRANGER
from mobbet.web.guests import cookies_in, guest_cookie, proofs_cookie, reader_of_request
from mobbet.web.session import COOKIE
from mobbet.web.views import LARGE, View, read_view
from tests.shops import ShopCase


class ViewTests(unittest.TestCase):
    def test_a_view_comes_back_from_its_address(self) -> None:
        for view in (View(), View("group:3", "dark", "large", "print", "2026-12-01T09:00"), View("signed-in")):
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
        for part in ("color-scheme: dark;", "@media all { a {} }", "@media all { b {} }", f"font-size: {LARGE}"):
            self.assertIn(part, dark)


class GuestTests(ShopCase):
    def test_cookies_that_cannot_be_read_are_none(self) -> None:
        self.assertEqual(cookies_in({b"cookie": b"a=1; b=two"}), {"a": "1", "b": "two"})
        for sent in ({}, {b"cookie": b""}, {b"cookie": b"\xff\xfe=[;;;"}):
            with self.subTest(sent):
                self.assertEqual(cookies_in(sent), {})

    def test_whoever_has_no_cookie_or_a_wrong_one_is_a_stranger(self) -> None:
        for cookies in ({}, {COOKIE: "wrong"}, {guest_cookie(self.blog): "wrong", proofs_cookie(self.blog): ""}):
            with self.subTest(cookies):
                self.assertEqual(reader_of_request(self.shop, self.blog, cookies), STRANGER)

    def test_a_password_that_was_typed_is_no_name(self) -> None:
        reader = reader_of_request(self.shop, self.blog, {proofs_cookie(self.blog): "one.two..one"})
        self.assertEqual((reader.person_id, reader.is_signed_in), (None, False))

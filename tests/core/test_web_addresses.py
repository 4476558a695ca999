"""Addresses on the web that somebody typed or pasted."""

import unittest

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import read_web_address, split_address


class SplittingTests(unittest.TestCase):
    def test_text_that_is_no_address_is_all_path(self) -> None:
        for text in ("http://[x/", "http://a:b/", "http://a:99999/", "https://[::1", "//[", "http://a]/"):
            with self.subTest(text):
                parts = split_address(text)
                self.assertEqual(
                    (parts.scheme, parts.hostname, parts.port, parts.path), ("", None, None, text)
                )

    def test_an_address_has_its_parts(self) -> None:
        parts = split_address("https://a.example:8443/b?c#d")
        self.assertEqual(
            (parts.hostname, parts.port, parts.path, parts.query), ("a.example", 8443, "/b", "c")
        )


class WebAddressTests(unittest.TestCase):
    def test_addresses_as_people_type_them(self) -> None:
        for text in ("", "https://ines.example/", "http://ines.example/about?me", " https://ines.example "):
            self.assertEqual(read_web_address(text), text.strip())
        for text in ("ines.example", "javascript:alert(1)", "https://", "https://a b/", "http://[x/", "https://a@b.example/",
                     "https://a.example/\"><script>", "https://a.example/" + "x" * 300):  # fmt: skip
            with self.subTest(text), self.assertRaisesRegex(BadInput, "is no web address; write it like"):
                read_web_address(text)

import unittest
from xml.etree import ElementTree

from mobbet.core.qr_codes import drawn


class QrCodeTests(unittest.TestCase):
    def test_a_code_is_one_well_formed_drawing_with_a_name(self) -> None:
        for text in ("https://bench.example/~k7q/", "https://bench.example/" + "щ" * 300, "a"):
            with self.subTest(text[:30]):
                svg = ElementTree.fromstring(drawn(text, "<A> & “B”"))
                self.assertEqual((svg.get("class"), svg.get("role")), ("qr", "img"))
                self.assertEqual([part.text for part in svg if part.tag == "title"], ["<A> & “B”"])

    def test_another_text_is_another_drawing(self) -> None:
        self.assertNotEqual(drawn("https://bench.example/~a/", ""), drawn("https://bench.example/~b/", ""))

import unittest

from mobbet.core.document import schema
from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.document.from_html import from_html
from mobbet.core.document.raw import clean_html
from mobbet.core.document.write import to_html


class RawTests(unittest.TestCase):
    def test_what_no_document_holds_does_not_come_in_as_a_reference(self) -> None:
        for source in (
            "<p>a&#1;b</p>",
            "<p title='a&#x1f;b'>x</p>",
            "<p>&#xFFFE;</p>",
            "<p>\x0bx</p>",
            "<p>&#1;&#x3c;script&#62;</p>",
        ):
            html, removed = clean_html(source)
            with self.subTest(source):
                self.assertIsNone(UNPRINTABLE.search(html))
                self.assertEqual(removed, ())
                document = schema.check(
                    {"type": "doc", "content": [{"type": "rawHtml", "attrs": {"html": source}}]}
                )
                self.assertEqual(from_html(to_html(document)), document)

    def test_taking_characters_away_makes_nothing_that_runs(self) -> None:
        for source in (
            '<a href="java&#1;script:alert(1)">x</a>',
            "<&#1;script>alert(1)</script>",
            '<img src="x" on&#1;error="alert(1)">',
        ):
            with self.subTest(source):
                self.assertNotRegex(clean_html(source)[0], r"<script|javascript:|onerror=")

import unittest
from pathlib import Path

from mobbet.core.document.from_html import read_html
from mobbet.core.document.links import unwrapped
from mobbet.core.document.write import to_html, to_markdown

SAMPLES = sorted((Path(__file__).parents[2] / "fixtures" / "pasted").glob("*.html"))
"""What programs put on the clipboard; beside each stands, as Markdown, what is to come of it."""


class PastedTests(unittest.TestCase):
    def test_structure_is_kept_and_rubbish_dropped(self) -> None:
        self.assertGreater(len(SAMPLES), 4)
        for sample in SAMPLES:
            with self.subTest(sample.name):
                self.assertEqual(
                    to_markdown(read_html(sample.read_text()).document),
                    sample.with_suffix(".txt").read_text(),
                )

    def test_what_was_dropped_is_counted(self) -> None:
        dropped = read_html((SAMPLES[0].parent / "word-processor.html").read_text()).dropped
        self.assertEqual(
            (dropped["comments"], dropped["deleted text"], dropped["empty paragraphs"]), (2, 1, 1)
        )

    def test_redirecting_addresses_lead_straight_there(self) -> None:
        for address, wanted in (
            ("https://www.search.example/url?q=https://a.example/x&sa=D", "https://a.example/x"),
            (
                "https://eu.safelinks.mail.example/?url=https%3A%2F%2Fa.example%2Fb&data=1",
                "https://a.example/b",
            ),
            ("https://defence.example/v3/__https://a.example/c__;!!x", "https://a.example/c"),
            ("https://a.example/search?q=https://b.example", "https://a.example/search?q=https://b.example"),
            ("https://a.example/url?q=javascript:x", "https://a.example/url?q=javascript:x"),
        ):
            with self.subTest(address):
                self.assertEqual(unwrapped(address), wanted)

    def test_numbers_go_on_where_a_list_begins_later(self) -> None:
        html = "<p>3. three</p><p>4. four</p><p>A plain end.</p><p>5. alone</p>"
        self.assertEqual(
            to_markdown(read_html(html).document), "3. three\n4. four\n\nA plain end.\n\n5\\. alone\n"
        )

    def test_embedded_pictures_are_handed_over_and_others_counted(self) -> None:
        handed: list[str] = []
        reading = read_html(
            "<p><img src='data:image/png;base64,AA=='><img src='javascript:x'></p>",
            lambda src: handed.append(src) or ("media:7" if src.startswith("data:") else None),
        )
        self.assertEqual(handed, ["data:image/png;base64,AA==", "javascript:x"])
        self.assertEqual(
            (reading.document["content"][0]["attrs"]["src"], reading.dropped["pictures"]), ("media:7", 1)
        )

    def test_a_hand_written_block_loses_what_could_run(self) -> None:
        html = to_html(
            read_html(
                '<div data-source="&lt;b onclick=x()&gt;a&lt;/b&gt;&lt;script&gt;x&lt;/script&gt;"></div>'
            ).document
        )
        self.assertEqual(html, '<div class="by-hand" data-source="&lt;b&gt;a&lt;/b&gt;"><b>a</b></div>')

"""Anchors, splitting, standing copies, reviews, palette, HTML by hand: the smaller rules about documents."""

import unittest
from pathlib import Path

from mobbet.core.document import anchors, palette, schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.html import Html, entries
from mobbet.core.document.mentions import expanded, linked_posts, standing_copies
from mobbet.core.document.raw import clean_html
from mobbet.core.document.review import overall, structured
from mobbet.core.document.splitting import split
from mobbet.core.document.tables import squared
from mobbet.core.document.unclosed import mistakes
from mobbet.core.document.write import to_html
from mobbet.core.errors import BadInput
from mobbet.core.look.begun import BEGUN, begun_look
from mobbet.core.look.look import read_look_file
from mobbet.core.look.palette import paper_of
from mobbet.publish.design import FOLDER


def anchors_of(document: dict) -> list[str]:
    return [node["attrs"]["anchor"] for node in document["content"] if node["type"] == "heading"]


class AnchorTests(unittest.TestCase):
    def test_a_fixed_anchor_survives_rewording_and_moving(self) -> None:
        before = anchors.fixed(from_markdown("## One\n\n## Two\n\n## Three"))
        self.assertEqual(anchors_of(before), ["one", "two", "three"])
        for source, wanted in (
            ("## One\n\n## Two, reworded\n\n## Three", ["one", "two", "three"]),
            ("## Three\n\n## One\n\n## Two", ["three", "one", "two"]),
            ("## One\n\n## Between\n\n## Two\n\n## Three", ["one", "", "two", "three"]),
            ("## Three", ["three"]),
        ):
            with self.subTest(source):
                self.assertEqual(anchors_of(anchors.carried(from_markdown(source), before)), wanted)

    def test_no_two_headings_have_one_anchor(self) -> None:
        document = from_markdown('## Same\n\n## Same\n\n## Other <a id="same"></a>')
        self.assertEqual([entry.anchor for entry in entries(document)], ["same-2", "same-3", "same"])


class SplittingTests(unittest.TestCase):
    def test_a_post_is_cut_before_its_headings(self) -> None:
        document = from_markdown("Start.\n\n## Flex\n\nWords.\n\n![a](media:3)\n\n## Plug\n\nMore.")
        parts = split(document, [1, 4], "Lamps")
        self.assertEqual([title for title, _ in parts], ["Lamps", "Flex", "Plug"])
        self.assertEqual(parts[1][1]["content"][1]["attrs"]["src"], "media:3")
        self.assertEqual(parts[2][1], from_markdown("More."))

    def test_cuts_outside_the_text_are_refused(self) -> None:
        for blocks in ([], [0], [9]):
            with self.subTest(blocks), self.assertRaisesRegex(BadInput, "Choose at least one heading"):
                split(from_markdown("a\n\n## b"), blocks, "t")


class StandingTests(unittest.TestCase):
    def test_a_copy_is_put_in_wherever_it_stands(self) -> None:
        document = from_markdown(
            "a\n\n~~~ mobbet:standing copy=7\n~~~\n\n> ~~~ mobbet:standing copy=8\n> ~~~"
        )
        self.assertEqual(standing_copies(document), (7, 8))
        whole = expanded(document, lambda number: from_markdown(f"text of {number}"))
        self.assertEqual(
            to_html(whole), "<p>a</p>\n<p>text of 7</p>\n<blockquote>\n<p>text of 8</p>\n</blockquote>"
        )

    def test_a_copy_in_itself_ends(self) -> None:
        document = from_markdown("~~~ mobbet:standing copy=7\n~~~")
        self.assertEqual(
            schema.check(expanded(document, lambda number: document))["content"], [schema.PARAGRAPH]
        )

    def test_links_to_posts_are_named_once(self) -> None:
        self.assertEqual(
            linked_posts(from_markdown("[a](post:3) [b](post:9#x) [c](post:3) [d](https://a.example)")),
            (3, 9),
        )


class ReviewTests(unittest.TestCase):
    def test_the_score_is_the_weighted_mean(self) -> None:
        for criteria, wanted in (
            ([], None),
            ([["a", 8, 2], ["b", 6.5, 1]], 7.5),
            ([["a", 7.25, 1]], 7.3),
            ([["a", 0, 1], ["b", 10, 3]], 7.5),
        ):
            with self.subTest(criteria):
                self.assertEqual(overall(criteria), wanted)

    def test_search_engines_get_a_review(self) -> None:
        attrs = {
            "name": "Stripper",
            "criteria": [["Grip", 8, 1]],
            "points_for": ["light"],
            "points_against": [],
            "verdict": "Good.",
            "kind": "product",
        }
        facts = structured(attrs, {"@type": "Person", "name": "Ines"})
        self.assertEqual(
            facts["reviewRating"], {"@type": "Rating", "ratingValue": 8.0, "bestRating": 10, "worstRating": 0}
        )
        self.assertEqual(
            (facts["@type"], facts["itemReviewed"]["name"], facts["reviewBody"]),
            ("Review", "Stripper", "Good."),
        )


LOOKS = [read_look_file(begun_look(name)) for name in BEGUN]
PAPERS = [(paper_of(look.light), paper_of(look.in_dark)) for look in LOOKS]


class PaletteTests(unittest.TestCase):
    def test_only_pairs_that_can_be_read_are_offered(self) -> None:
        self.assertAlmostEqual(palette.contrast("#000000", "#ffffff"), 21.0)
        for papers in PAPERS:
            for paper in papers:
                self.assertTrue(palette.tints_on(papers))
                for tint in palette.tints_on(papers):
                    self.assertGreaterEqual(palette.contrast(paper.tints[tint], paper.ground), 4.5)
        pale = palette.Paper(
            "#000000",
            "#ffffff",
            dict.fromkeys(palette.NAMES, "#dddddd"),
            dict.fromkeys(palette.NAMES, "#eeeeee"),
        )
        self.assertEqual((palette.tints_on((pale,)), palette.markers_under((pale,), "sea")), ((), ()))

    def test_the_style_sheets_of_the_room_have_the_palettes_values(self) -> None:
        for words, name in ((palette.LIGHT_WORDS, "palette.css"), (palette.DARK_WORDS, "palette-dark.css")):
            paper = palette.Paper("", "", *words)
            self.assertIn(palette.style(paper), (FOLDER / name).read_text())


HOSTILE = (
    "<script>alert(1)</script>", "<img src=x onerror=alert(1)>", "<svg onload=alert(1)>", "<a href='javascript:x'>a</a>", "<iframe src=x>", "<p style='x'>",
    "<form action=x><input>", "<math><mi xlink:href='javascript:x'>", "<a href=\"&#x6A;avascript:x\">", "<base href=x>", "<object data=x>", "<div onclick=x>",
    "<details ontoggle=x open>", "<noscript><p title=\"</noscript><img src=x onerror=alert(1)>\">", "<style>@import 'x'</style>", "<meta http-equiv=refresh>",
)  # fmt: skip


class RawTests(unittest.TestCase):
    def test_nothing_runs_or_loads_and_what_went_is_said(self) -> None:
        for source in HOSTILE:
            with self.subTest(source):
                cleaned, removed = clean_html(source)
                self.assertNotRegex(
                    cleaned,
                    r"<script|onerror|onload|onclick|ontoggle|javascript:|<iframe|<img|<form|<style|<base|<object|style=|<meta",
                )
                self.assertTrue(removed or "href" not in cleaned)

    def test_what_may_stand_stays_as_it_is(self) -> None:
        source = (
            '<details open=""><summary>More</summary><p>a <a href="https://a.example/">b</a></p></details>'
        )
        self.assertEqual(clean_html(source), (source, ()))

    def test_tags_that_are_not_closed_are_named_with_their_line(self) -> None:
        for source, wanted in (
            ("<p>a\n<b>x", ["Line 2: <b> is not closed."]),
            ("a</i>", ["Line 1: </i> closes nothing."]),
            ("<ul><li>a</ul><br>", []),
        ):
            with self.subTest(source):
                self.assertEqual(mistakes(source), wanted)


class TableTests(unittest.TestCase):
    def test_every_row_is_filled_and_spans_stay_inside(self) -> None:
        html = "<table class=data><tr><td colspan=2 rowspan=9>a</td><td>b</td></tr><tr><td>c</td><td>d</td></tr></table>"
        from mobbet.core.document.from_html import from_html

        table = from_html(html)["content"][0]
        self.assertEqual([len(row["content"]) for row in table["content"]], [3, 2])
        self.assertEqual(table["content"][0]["content"][0]["attrs"]["rowspan"], 2)
        self.assertEqual(squared(table), table)


class PageTests(unittest.TestCase):
    def test_a_page_has_anchors_contents_and_coloured_code(self) -> None:
        document = from_markdown(
            "~~~ mobbet:contents depth=3\n~~~\n\n## A & b\n\n### Under\n\n#### Deep\n\n```python\ndef x(): pass\n```"
        )
        html = to_html(document, Html(is_page=True))
        self.assertIn(
            '<ol><li><a href="#a-b">A &amp; b</a><ol><li><a href="#under">Under</a></li></ol></li></ol>', html
        )
        self.assertIn('<h2 id="a-b">', html)
        self.assertIn('<span class="c-k">def</span>', html)

    def test_a_page_leaves_out_what_is_not_finished(self) -> None:
        document = from_markdown(
            "~~~ mobbet:button words=Go\n~~~\n\n~~~ mobbet:contents\n~~~\n\n~~~ mobbet:teaser-line\n~~~"
        )
        self.assertEqual(to_html(document, Html(is_page=True)).strip(), "")

    def test_every_class_of_the_text_has_its_style(self) -> None:
        css = (Path(FOLDER) / "text.css").read_text()
        for name in (
            "callout",
            "beside",
            "put-button",
            "review",
            "contents",
            "sign-tick",
            "numbers-greek",
            "step-3",
            "tint-sea",
            "marker-clay",
            "as-typed",
        ):
            with self.subTest(name):
                self.assertIn(f".{name}", css)

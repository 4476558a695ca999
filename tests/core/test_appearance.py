import random
import unittest

from mobbet.core import geo, search_results
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.leading import carried, lead, link_alone, place_of, reference, words_of
from mobbet.core.errors import BadInput
from mobbet.core.filing import Rule, read_rule
from mobbet.core.headings import heading_in_words, read_heading, shown_parts
from mobbet.core.treemap import Box, squarified

REVIEW = '~~~ mobbet:review name="A cutter"\n- Grip: 8\n~~~'


class LeadTests(unittest.TestCase):
    def test_untold_the_first_picture_leads_and_else_what_opens_the_text(self) -> None:
        for source, form, at in (
            ("words\n\n![a](media:3)\n\n![b](media:4)", "picture", 1), ("> said\n\n![a](media:3)", "picture", 1), ("> said\n\nwords", "quotation", 0),
            ("[a shop](https://a.example)\n\nwords", "link", 0), ("words", "text", None), ("words\n\n> said", "text", None), ("![a](elsewhere.png)", "text", None),
        ):  # fmt: skip
            with self.subTest(source):
                found = lead(from_markdown(source))
                self.assertEqual((found.form, found.at, found.why), (form, at, "rule"))

    def test_a_picture_that_is_wide_enough_comes_before_a_small_one(self) -> None:
        self.assertEqual(
            lead(from_markdown("![a](media:3)\n\n![b](media:4)"), "", lambda number: number == 4).at, 1
        )

    def test_any_block_leads_when_it_was_chosen_and_the_rule_takes_over_when_it_is_gone(self) -> None:
        document = from_markdown("words\n\n> said\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n![a](media:3)")
        for at, form in ((0, "block"), (1, "quotation"), (2, "table"), (3, "picture")):
            chosen = reference(document, at)
            with self.subTest(form):
                self.assertEqual(
                    (lead(document, chosen.digest).form, lead(document, chosen.digest).why), (form, "chosen")
                )
        self.assertEqual((lead(document, "gone").form, lead(document, "gone").why), ("picture", "lost"))
        for words in ("## Only a heading", "---"):
            self.assertIsNotNone(reference(from_markdown(words), 0))
        self.assertIsNone(reference(from_markdown("words"), 7))

    def test_a_chosen_block_is_followed_when_it_moves_or_is_reworded(self) -> None:
        before = from_markdown("one\n\n> said here\n\ntwo")
        chosen = reference(before, 1)
        moved = from_markdown("new\n\none\n\ntwo\n\n> said here")
        self.assertEqual(place_of(moved, carried(chosen, before, moved).digest), 3)
        reworded = from_markdown("one, again\n\n> said here and there\n\ntwo")
        self.assertEqual(place_of(reworded, carried(chosen, before, reworded).digest), 1)
        self.assertEqual(carried(chosen, before, from_markdown("one\n\ntwo")), chosen)

    def test_of_two_reworded_paragraphs_the_one_in_its_place_is_followed(self) -> None:
        before = from_markdown("one\n\ntwo\n\nthree")
        after = from_markdown("one\n\ntwo!\n\nthree!")
        self.assertEqual(place_of(after, carried(reference(before, 1), before, after).digest), 1)

    def test_a_link_on_a_line_of_its_own_is_told_from_one_in_a_sentence(self) -> None:
        self.assertEqual(
            link_alone(from_markdown("[a shop](https://a.example)")["content"][0]),
            ("https://a.example", "a shop"),
        )
        self.assertIsNone(link_alone(from_markdown("see [a shop](https://a.example)")["content"][0]))

    def test_blocks_are_told_in_a_few_words(self) -> None:
        self.assertEqual(words_of(from_markdown("> To be mended")["content"][0]), "quotation “To be mended”")


class HeadingTests(unittest.TestCase):
    def test_a_heading_is_standard_without_some_parts_or_none(self) -> None:
        self.assertEqual(
            read_heading("standard", ["categories", "title", "subtitle", "byline", "date", "lead"]), ""
        )
        kept = read_heading("standard", ["categories", "title", "subtitle", "byline"])
        self.assertEqual(
            (kept, heading_in_words(kept)),
            ("without:date,lead", "a heading without the date and what leads it"),
        )
        self.assertNotIn("date", shown_parts(kept))
        self.assertEqual((read_heading("none", []), shown_parts("none")), ("none", frozenset()))


class SearchResultTests(unittest.TestCase):
    def test_a_title_is_measured_and_cut_after_a_word(self) -> None:
        short, long = (
            search_results.title("A lamp"),
            search_results.title(
                "Rewiring a desk lamp without losing the switch, the shade or the patience you came with"
            ),
        )
        self.assertEqual((short.is_cut, short.shown), (False, "A lamp"))
        self.assertTrue(long.is_cut and long.shown.endswith(" …"))
        self.assertLessEqual(search_results.pixels(long.shown, 20), 580)

    def test_the_usual_title_leaves_out_what_results_would_cut(self) -> None:
        self.assertEqual(
            search_results.usual_title("A lamp", "Notes", "The Bench"), "A lamp · Notes · The Bench"
        )
        self.assertEqual(search_results.usual_title("A lamp", "Posts", "The Bench"), "A lamp · The Bench")
        self.assertEqual(search_results.usual_title("w" * 40, "Notes", "The Bench"), "w" * 40)

    def test_a_description_is_proposed_in_whole_sentences(self) -> None:
        self.assertEqual(
            search_results.proposed_description(
                ["One thing. Another thing.", "A third one " + "that goes on " * 20]
            ),
            "One thing. Another thing.",
        )
        self.assertTrue(search_results.proposed_description(["word " * 60]).endswith("word…"))


class PlaceTests(unittest.TestCase):
    def test_points_are_read_as_people_write_them(self) -> None:
        for text in ("38.72, -9.14", "38.72 N 9.14 W", "geo:38.72,-9.14", "38.72° N, 9.14° W"):
            with self.subTest(text):
                self.assertEqual(geo.read_point(text), (38.72, -9.14))
        self.assertEqual(geo.point_in_words((38.72, -9.14)), "38.72° N, 9.14° W")

    def test_what_is_no_place_is_refused_in_words(self) -> None:
        for name, point, has_map, words in (
            ("A", "91, 0", False, "is no point on the earth"),
            ("", "1, 1", False, "has no name"),
            ("A", "", True, "A map needs a point"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                geo.read_place(name, point, has_map)
        self.assertIsNone(geo.read_place("", "", False))

    def test_a_place_is_kept_and_structured(self) -> None:
        place = geo.read_place("Port Alder", "39.6, -9.1", True)
        self.assertEqual(geo.read_kept(geo.kept(place)), place)
        self.assertEqual(geo.structured(place)["geo"]["latitude"], 39.6)

    def test_land_is_cut_to_the_window_even_across_the_date_line(self) -> None:
        ring = [(170.0, -10.0), (190.0, -10.0), (190.0, 10.0), (170.0, 10.0)]
        for lon in (179.0, -179.0):
            self.assertIn("M", geo.outlines([ring], geo.window_around((0.0, lon), 8, 100, 50)))
        self.assertEqual(geo.outlines([ring], geo.window_around((0.0, 0.0), 8, 100, 50)), "")


class RuleTests(unittest.TestCase):
    def test_the_rule_speaks_and_refuses_in_words(self) -> None:
        self.assertEqual(Rule(1, 3).words(), "at least one category and three at the most")
        self.assertEqual(Rule(2, 2).words(), "exactly two categories")
        self.assertIsNone(Rule(0, 2).problem(2))
        for least, most in (("x", ""), ("3", "2"), ("99", "")):
            with self.subTest(least), self.assertRaises(BadInput):
                read_rule(least, most, "")


class TreemapTests(unittest.TestCase):
    def test_areas_are_in_proportion_and_fill_the_box(self) -> None:
        chance = random.Random(3)
        for _ in range(30):
            sizes = sorted((chance.uniform(0.2, 50) for _ in range(chance.randrange(1, 30))), reverse=True)
            boxes = squarified(sizes, Box(0, 0, 800, 300))
            whole = sum(sizes)
            for size, box in zip(sizes, boxes, strict=True):
                self.assertAlmostEqual(box.width * box.height, size / whole * 240_000, places=3)
                self.assertTrue(
                    -1e-6 <= box.x and box.x + box.width <= 800.001 and box.y + box.height <= 300.001
                )
        self.assertEqual(squarified([], Box(0, 0, 1, 1)), [])


if __name__ == "__main__":
    unittest.main()

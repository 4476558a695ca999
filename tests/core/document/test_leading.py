"""The block a post opens with and is shown by: by rule, as chosen, and carried through changes."""

from __future__ import annotations

import unittest

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.leading import CHOSEN, LOST, RULE, Reference, carried, form_of, lead, link_alone, mark_of, place_of, reference, score_of, words_of

LIBRARY = "![A lamp](media:7)"
WIDE = "![A wide lamp](media:9)"


def text(*blocks: str) -> dict:
    return from_markdown("\n\n".join(blocks))


class RuleTests(unittest.TestCase):
    def test_the_first_picture_that_is_wide_enough_leads(self) -> None:
        found = lead(text("Words.", LIBRARY, WIDE), is_wide=lambda number: number == 9)
        self.assertEqual((found.form, found.at, found.alt, found.why), ("picture", 2, "A wide lamp", RULE))

    def test_a_narrow_picture_leads_where_there_is_no_wide_one(self) -> None:
        found = lead(text("Words.", LIBRARY), is_wide=lambda number: False)
        self.assertEqual((found.at, found.src), (1, "media:7"))

    def test_a_picture_of_elsewhere_does_not_lead(self) -> None:
        self.assertEqual(lead(text("Words.", "![x](https://a.example/x.jpg)")).form, "text")

    def test_what_opens_the_text_gives_it_its_form(self) -> None:
        for source, form in (("> Said by somebody.", "quotation"), ("| a | b |\n| - | - |\n| 1 | 2 |", "table"), ("[A shop](https://shop.example/)", "link"), ("Words.", "text")):
            with self.subTest(form):
                self.assertEqual(lead(text(source, "More words.")).form, form)

    def test_a_quotation_further_down_does_not_lead(self) -> None:
        self.assertEqual(lead(text("Words first.", "> Said by somebody.")).form, "text")


class ChosenTests(unittest.TestCase):
    def test_a_block_that_was_chosen_leads(self) -> None:
        document = text("One.", "Two.", LIBRARY)
        found = lead(document, mark_of(document["content"][1]))
        self.assertEqual((found.form, found.at, found.why), ("block", 1, CHOSEN))

    def test_the_rule_takes_over_where_the_chosen_block_is_gone(self) -> None:
        found = lead(text("One.", LIBRARY), "a mark of nothing")
        self.assertEqual((found.form, found.at, found.why), ("picture", 1, LOST))

    def test_an_empty_paragraph_and_a_place_outside_cannot_be_referred_to(self) -> None:
        document = text("One.")
        document["content"].append({"type": "paragraph", "attrs": {"align": "start"}})
        self.assertEqual([reference(document, at) for at in (-1, 1, 2)], [None, None, None])
        self.assertEqual(reference(document, 0), Reference(mark_of(document["content"][0]), "paragraph", 0))


class CarriedTests(unittest.TestCase):
    def setUp(self) -> None:
        self.before = text("One.", "Two.", "Three.")
        self.found = reference(self.before, 1)

    def carried(self, *blocks: str) -> Reference:
        return carried(self.found, self.before, text(*blocks))

    def test_a_block_that_moved_is_followed(self) -> None:
        self.assertEqual(self.carried("Two.", "One.", "Three.").at, 0)

    def test_a_block_that_was_reworded_is_followed(self) -> None:
        after = self.carried("One.", "Two and a half.", "Three.")
        self.assertEqual((after.at, after.digest), (1, mark_of(text("Two and a half.")["content"][0])))

    def test_a_block_that_is_gone_keeps_its_reference(self) -> None:
        self.assertEqual(self.carried("One.", "Three."), self.found)

    def test_of_two_alike_the_nearer_one_is_taken(self) -> None:
        self.assertEqual(self.carried("Two.", "One.", "A.", "B.", "Two.").at, 0)

    def test_a_reference_that_meant_nothing_before_stays(self) -> None:
        lost = Reference("nothing", "paragraph", 4)
        self.assertEqual(carried(lost, self.before, text("One.")), lost)


class WordsTests(unittest.TestCase):
    def test_blocks_are_told_in_a_few_words(self) -> None:
        for source, words in (
            ("Some words.", "paragraph “Some words.”"),
            ("[A shop](https://shop.example/)", "link “A shop”"),
            (LIBRARY, "picture “A lamp”"),
            ("A sentence that goes on for longer than one would care to read.", "paragraph “A sentence that goes on for…”"),
        ):
            with self.subTest(source):
                self.assertEqual(words_of(text(source)["content"][0]), words)

    def test_only_a_link_by_itself_is_a_link_alone(self) -> None:
        for source, found in (("[a](https://a.example/)", ("https://a.example/", "a")), ("See [a](https://a.example/)", None), ("[a](https://a.example/) [b](https://b.example/)", None)):
            with self.subTest(source):
                self.assertEqual(link_alone(text(source)["content"][0]), found)
        self.assertEqual(form_of(text("# A heading")["content"][0]), "block")
        self.assertEqual(score_of(text("Words.")["content"][0]), "")

    def test_a_mark_without_letters_stands_nowhere(self) -> None:
        self.assertIsNone(place_of(text("One."), ""))

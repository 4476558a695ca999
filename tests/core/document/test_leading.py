"""References to the block that leads a post, at their edges."""

from __future__ import annotations

import unittest

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.leading import (
    CHOSEN,
    Reference,
    carried,
    form_of,
    lead,
    link_alone,
    mark_of,
    place_of,
    reference,
    score_of,
)

LIBRARY = "![A lamp](media:7)"


def text(*blocks: str) -> dict:
    return from_markdown("\n\n".join(blocks))


class ChosenTests(unittest.TestCase):
    def test_a_block_that_was_chosen_leads(self) -> None:
        document = text("One.", "Two.", LIBRARY)
        found = lead(document, mark_of(document["content"][1]))
        self.assertEqual((found.form, found.at, found.why), ("block", 1, CHOSEN))

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

    def test_a_block_that_is_gone_keeps_its_reference(self) -> None:
        self.assertEqual(self.carried("One.", "Three."), self.found)

    def test_of_two_alike_the_nearer_one_is_taken(self) -> None:
        self.assertEqual(self.carried("Two.", "One.", "A.", "B.", "Two.").at, 0)

    def test_a_reference_that_meant_nothing_before_stays(self) -> None:
        lost = Reference("nothing", "paragraph", 4)
        self.assertEqual(carried(lost, self.before, text("One.")), lost)


class WordsTests(unittest.TestCase):
    def test_only_a_link_by_itself_is_a_link_alone(self) -> None:
        for source, found in (
            ("[a](https://a.example/)", ("https://a.example/", "a")),
            ("See [a](https://a.example/)", None),
            ("[a](https://a.example/) [b](https://b.example/)", None),
        ):
            with self.subTest(source):
                self.assertEqual(link_alone(text(source)["content"][0]), found)
        self.assertEqual(form_of(text("# A heading")["content"][0]), "block")
        self.assertEqual(score_of(text("Words.")["content"][0]), "")

    def test_a_mark_without_letters_stands_nowhere(self) -> None:
        self.assertIsNone(place_of(text("One."), ""))

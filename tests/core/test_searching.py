"""Queries taken apart: words, phrases, what is left out, filters, and scripts without spaces."""

from __future__ import annotations

import random
import re
import unittest

from mobbet.core.searching import _places, matching, place_of, read, spaced


class QueryTests(unittest.TestCase):
    def test_a_query_is_taken_apart(self) -> None:
        query = read('fuse "desk lamp" -glue tag:flex in:Lamps by:ines is:draft rewi', "UTC")
        self.assertEqual(query.phrases, (("fuse",), ("desk", "lamp"), ("rewi",)))
        self.assertEqual(
            (query.without, query.tags, query.categories, query.authors, query.states),
            ((("glue",),), ("flex",), ("Lamps",), ("ines",), ("draft",)),
        )
        self.assertEqual(matching(query), '("fuse" AND "desk lamp" AND "rewi"*) NOT "glue"')

    def test_a_word_that_is_done_is_no_beginning(self) -> None:
        self.assertEqual(
            [matching(read(text, "UTC")) for text in ("fuse", "fuse ", '"fuse"', "-fuse", "'; DROP")],
            ['"fuse"*', '"fuse"', '"fuse"', "", '"DROP"*'],
        )

    def test_times_are_whole_years_months_or_days(self) -> None:
        for typed, before, after in (
            ("before:2026", 1767225600, None),
            ("before:2026-03", 1772323200, None),
            ("after:2025-12", None, 1767225600),
            ("after:2025-12-31", None, 1767225600),
        ):
            with self.subTest(typed):
                query = read(typed, "UTC")
                self.assertEqual((query.before, query.after), (before, after))

    def test_what_cannot_be_meant_is_told_and_left_out(self) -> None:
        self.assertEqual(
            [read(f"is:{word}", "UTC").is_page for word in ("page", "Posts", "draft")], [True, False, None]
        )
        query = read("lamp before:soon is:lost before:2026-13", "UTC")
        self.assertEqual(len(query.problems), 3)
        self.assertIn("“is:lost” is no state", " ".join(query.problems))
        self.assertEqual((query.phrases, query.before, query.states), ((("lamp",),), None, ()))

    def test_scripts_without_spaces_are_read_letter_by_letter(self) -> None:
        self.assertEqual(matching(read("修理", "UTC")), '"修 理"*')

    def test_a_place_is_parted_into_hits_and_what_is_around_them(self) -> None:
        self.assertEqual(
            place_of("The Désk lamp.", read("desk ", "UTC")),
            [("The ", False), ("Désk", True), (" lamp.", False)],
        )
        self.assertEqual(
            place_of(spaced("私の電気を"), read("電気 ", "UTC")),
            [("私の", False), ("電気", True), ("を", False)],
        )
        self.assertEqual(place_of("Nothing", read("lamp", "UTC")), [])


class PlaceInLongTextTests(unittest.TestCase):
    def test_the_place_of_a_long_text_is_where_most_words_stand(self) -> None:
        text = (
            "One lamp here. "
            + "Nothing of note is said. " * 80
            + "Then the lamp has a fuse, at last, in its own plug."
            + " More of the same." * 60
        )
        parts = place_of(text, read("lamp fuse", "UTC"))
        words = "".join(part for part, _ in parts)
        self.assertIn("the lamp has a fuse, at last", words)
        self.assertTrue(words.startswith("…") and words.endswith("…"))
        self.assertEqual([part for part, is_hit in parts if is_hit], ["lamp", "fuse"])

    def test_accents_in_a_long_text_are_found_as_before(self) -> None:
        text = "Nichts. " * 200 + "Ein Café am Hafen." + " Nichts." * 200
        self.assertIn(("Café", True), place_of(text, read("cafe", "UTC")))


class WordPlacesTests(unittest.TestCase):
    def test_words_are_found_where_an_expression_finds_them(self) -> None:
        chance = random.Random(5)
        for _ in range(300):
            text = "".join(chance.choice("aab é1_-. \n") for _ in range(60))
            word, is_beginning = (
                "".join(chance.choice("ab1é") for _ in range(chance.randint(1, 3))),
                chance.random() < 0.5,
            )
            expression = rf"(?<![^\W_]){re.escape(word)}" + ("" if is_beginning else r"(?![^\W_])")
            with self.subTest(text=text, word=word):
                self.assertEqual(
                    list(_places(text, word, is_beginning)),
                    [match.start() for match in re.finditer(expression, text)],
                )

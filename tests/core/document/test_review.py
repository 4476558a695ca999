"""What a review comes to, and how search engines are told."""

from __future__ import annotations

import unittest

from mobbet.core.document.review import overall, shown, structured

INES = {"@type": "Person", "name": "Ines"}


class ReviewTests(unittest.TestCase):
    def test_the_overall_score_is_the_weighted_mean_to_one_decimal(self) -> None:
        for criteria, score in (
            ([["Grip", 8, 1], ["Price", 5, 1]], 6.5),
            ([["Grip", 8, 3], ["Price", 4, 1]], 7.0),
            ([["A", 7.25, 1]], 7.3),
            ([], None),
            ([["A", 7, 0]], None),
        ):
            with self.subTest(criteria):
                self.assertEqual(overall(criteria), score)

    def test_a_whole_score_is_printed_without_a_decimal(self) -> None:
        self.assertEqual([shown(score) for score in (7.0, 6.5, 10.0)], ["7", "6.5", "10"])

    def test_search_engines_are_told_what_was_written_and_no_more(self) -> None:
        bare = {
            "name": "A crimper",
            "criteria": [],
            "verdict": "",
            "points_for": [],
            "points_against": [],
            "kind": "",
        }
        self.assertEqual(sorted(structured(bare, INES)), ["@context", "@type", "author", "itemReviewed"])
        full = structured(
            {
                **bare,
                "criteria": [["Grip", 8, 1]],
                "verdict": "Buy it.",
                "points_for": ["light"],
                "points_against": ["dear", "blue"],
            },
            INES,
        )
        self.assertEqual(
            full["reviewRating"], {"@type": "Rating", "ratingValue": 8.0, "bestRating": 10, "worstRating": 0}
        )
        self.assertEqual(
            [item["name"] for item in full["negativeNotes"]["itemListElement"]], ["dear", "blue"]
        )
        self.assertEqual(full["reviewBody"], "Buy it.")

    def test_search_engines_are_told_which_kind_of_thing_was_reviewed(self) -> None:
        bare = {"name": "A crimper", "criteria": [], "verdict": "", "points_for": [], "points_against": []}
        self.assertEqual(
            [structured({**bare, "kind": kind}, INES)["itemReviewed"]["@type"] for kind in ("", "product")],
            ["Thing", "Product"],
        )

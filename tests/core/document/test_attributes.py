"""How attributes are read: as they are kept, or refused."""

from __future__ import annotations

import unittest

from mobbet.core.document import attributes as read


class AttributeTests(unittest.TestCase):
    def check(self, reader, *pairs: tuple[object, object]) -> None:  # noqa: ANN001
        for given, kept in pairs:
            with self.subTest(given):
                self.assertEqual(reader(given), kept)

    def test_whole_numbers_have_limits_and_truth_is_no_number(self) -> None:
        self.check(
            read.whole(1, 6), (1, 1), (6, 6), (0, None), (7, None), (True, None), ("3", None), (2.0, None)
        )

    def test_words_stand_in_one_line_without_what_cannot_be_printed(self) -> None:
        self.check(read.words(12), ("a  b\n c", "a b c"), ("a\x00b\ud800", "ab"), ("x" * 13, None), (5, None))

    def test_one_of_several_does_not_take_truth_for_a_number(self) -> None:
        self.check(
            read.one_of(1, 2, "start"), (1, 1), ("start", "start"), (True, None), ([1], None), ("end", None)
        )

    def test_a_programming_language_is_one_word(self) -> None:
        self.check(
            read.language,
            (None, ""),
            ("python", "python"),
            ("c++", "c++"),
            ("two words", None),
            ('a"b', None),
            ("x" * 41, None),
            (3, None),
        )

    def test_an_address_is_clean_or_none(self) -> None:
        self.check(
            read.address_or_none,
            ("", ""),
            ("https://a.example/x", "https://a.example/x"),
            ("java\tscript:alert(1)", None),
        )
        self.check(read.picture_or_none, ("", ""), ("media:7", "media:7"), ("javascript:x", None))

    def test_lines_leave_out_empty_ones(self) -> None:
        self.check(
            read.lines(3, 5),
            (["a", " ", "b"], ["a", "b"]),
            (["a"] * 4, None),
            (["toolong"], None),
            ("a", None),
            ([1], None),
        )

    def test_criteria_have_words_a_score_and_a_weight(self) -> None:
        self.check(
            read.criteria, ([["Grip", 7.25, 2]], [["Grip", 7.2, 2]]), ([["Grip", 7.0, 1]], [["Grip", 7, 1]]), ([["", 7, 1]], None), ([["Grip", 11, 1]], None),
            ([["Grip", 7, 0]], None), ([["Grip", True, 1]], None), ([["Grip", 7]], None), ([["Grip", 7, 1]] * 31, None), ("x", None),
        )  # fmt: skip

    def test_html_by_hand_is_cleaned(self) -> None:
        self.assertNotIn("script", read.raw_html("<p onclick=x>a<script>b</script></p>\x00"))
        self.assertIsNone(read.raw_html(3))

    def test_an_attribute_without_a_usual_value_must_be_given(self) -> None:
        self.assertTrue(read.Attribute("src", read.words(9)).is_required)
        self.assertFalse(read.Attribute("alt", read.words(9), "").is_required)

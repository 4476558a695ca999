from __future__ import annotations

import unittest

from mobbet.core.errors import BadInput
from mobbet.core.exporting import post_files


class PostFileTests(unittest.TestCase):
    def test_a_file_is_read_as_it_is_written(self) -> None:
        facts = {"number": 3, "title": 'A "lamp":\n--- \u2028 &x *y', "tags": ["ü", "b"], "lead": 0}
        for markdown in ("", "Words.\n", "---\n\nA rule above.\n"):
            with self.subTest(markdown=markdown):
                self.assertEqual(post_files.read(post_files.written(facts, markdown)), (facts, markdown))

    def test_yaml_by_hand_is_read_with_its_dates_as_text(self) -> None:
        text = "---\ntitle: A *lamp*\nsaved_at: 2026-12-01T09:00:00Z\ntags:\n  - flex\n---\nWords."
        facts, markdown = post_files.read(text.replace("\n", "\r\n"))
        self.assertEqual(facts, {"title": "A *lamp*", "saved_at": "2026-12-01T09:00:00Z", "tags": ["flex"]})
        self.assertEqual(markdown, "Words.")

    def test_what_is_no_file_of_a_post_is_refused(self) -> None:
        cases = (
            ("No facts", "between two lines"), ("---\n[a\n---\n", "no YAML"), ("---\n- a\n---\n", "no list of names"),
            ("---\na: &x [1]\nb: [*x, *x]\n---\n", "aliases"), (f"---\n{'a' * 1_000_001}\n---\n", "between two lines"),
        )  # fmt: skip
        for text, message in cases:
            with self.subTest(text=text[:20]), self.assertRaisesRegex(BadInput, message):
                post_files.read(text)

    def test_names_begin_with_their_number(self) -> None:
        self.assertEqual(post_files.stem(12, "A desk lamp"), "0012-a-desk-lamp")
        self.assertEqual(post_files.stem(7, "日本"), "0007-ri-ben")
        self.assertEqual(post_files.number_in("0012-a-desk-lamp"), 12)
        for name in ("lamp", "0000-lamp", "-1", "1/2"):
            with self.subTest(name=name), self.assertRaisesRegex(BadInput, "begins with no number"):
                post_files.number_in(name)

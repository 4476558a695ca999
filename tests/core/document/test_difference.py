import unittest

from mobbet.core.document import schema
from mobbet.core.document.difference import as_text, bare, compare
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_html


def kinds(before: str, now: str) -> list[str]:
    return [row.kind for row in compare(from_markdown(before), from_markdown(now)).rows]


class DifferenceTests(unittest.TestCase):
    def test_each_block_has_its_kind(self) -> None:
        for before, now, wanted in (
            ("a", "a", ["same"]),
            ("a", "a\n\nquite new", ["same", "added"]),
            ("a\n\nquite gone", "a", ["same", "removed"]),
            ("one two three four", "one two three five", ["changed"]),
            (
                "first stands here\n\nsecond one\n\nthird part",
                "second one\n\nthird part\n\nfirst stands here",
                ["moved", "same", "same", "moved"],
            ),
        ):
            with self.subTest(now):
                self.assertEqual(kinds(before, now), wanted)

    def test_words_are_marked_in_the_rendered_text(self) -> None:
        row = compare(
            from_markdown("Unplug the old lamp now."), from_markdown("Unplug the **new** lamp now.")
        ).rows[0]
        self.assertEqual(to_html({"content": [row.before]}), "<p>Unplug the <del>old</del> lamp now.</p>")
        self.assertEqual(
            to_html({"content": [row.now]}), "<p>Unplug the <ins><strong>new</strong></ins> lamp now.</p>"
        )

    def test_lists_are_compared_item_by_item(self) -> None:
        row = compare(from_markdown("- flex\n- plug"), from_markdown("- flex\n- fuse\n- plug")).rows[0]
        self.assertEqual(row.kind, "changed")
        self.assertIn("<li><ins>fuse</ins></li>", to_html({"content": [row.now]}))

    def test_words_added_and_removed_are_counted(self) -> None:
        found = compare(from_markdown("one two\n\nthree"), from_markdown("one two four five\n\nthree"))
        self.assertEqual((found.added, found.removed), (2, 0))

    def test_as_text_each_line_tells_what_became_of_it(self) -> None:
        text = as_text(
            compare(
                from_markdown("same\n\nunplug the old lamp\n\ngone away"),
                from_markdown("same\n\nunplug the new lamp\n\nentirely other words"),
            )
        )
        self.assertEqual(
            text, "  same\n~ unplug the [-old-]{+new+} lamp\n+ entirely other words\n- gone away\n"
        )

    def test_the_marks_of_a_comparison_can_be_taken_off(self) -> None:
        before, now = from_markdown("- a b c\n- d"), from_markdown("- a x c\n- d")
        rows = compare(before, now).rows
        for side, wanted in (
            ([bare(row.now) for row in rows], now),
            ([bare(row.before) for row in rows], before),
        ):
            self.assertEqual(schema.check({"type": "doc", "content": side}), wanted)

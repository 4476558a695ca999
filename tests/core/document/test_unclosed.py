"""Mistakes in HTML written by hand, each with its line."""

from __future__ import annotations

import unittest

from mobbet.core.document.unclosed import MOST, mistakes


class MistakesTests(unittest.TestCase):
    def test_mistakes_are_told_with_their_lines(self) -> None:
        for source, told in (
            ("<p>Fine</p>", []),
            ("<p>An open end is fine<p>as browsers have it", []),
            ("<img src=x><br>and <hr/>", []),
            ("<div>\n<b>bold</div>", ["Line 2: <b> is not closed."]),
            ("words\n</em>", ["Line 2: </em> closes nothing."]),
            ("<table><tr><td>x</table>", []),
            ("<section>\n\n<h2>x</h2>", ["Line 1: <section> is not closed."]),
        ):
            with self.subTest(source):
                self.assertEqual(mistakes(source), told)

    def test_only_the_first_few_are_told(self) -> None:
        self.assertEqual(len(mistakes("<b>" * 20)), MOST)

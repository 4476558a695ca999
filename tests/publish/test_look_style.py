"""The style sheet of a look."""

from __future__ import annotations

import gzip
import re
import unittest

from mobbet.actions import looks
from mobbet.core.look.begun import BEGUN, begun_look
from mobbet.core.look.look import read_look_file
from mobbet.publish.design import assets
from mobbet.publish.look_style import STYLE_PATH, column, style_of
from mobbet.store import editions
from tests.shops import ShopCase


class StyleTests(unittest.TestCase):
    def test_each_is_small_and_names_only_files_that_are_there(self) -> None:
        paths = {asset.path for asset in assets()}
        base = len(gzip.compress(next(asset.body for asset in assets() if asset.name == "site.css")))
        for name in BEGUN:
            with self.subTest(name):
                style = style_of(read_look_file(begun_look(name)))
                self.assertLess(base + len(gzip.compress(style)), 25_000)
                self.assertLessEqual(
                    {f"/{url}" for url in re.findall(r"url\(\./([^)]+)\)", style.decode())}, paths
                )
                self.assertNotRegex(style.decode(), r"https?:|@import|expression")

    def test_a_line_has_as_many_letters_as_the_look_says(self) -> None:
        look = read_look_file(begun_look("bench"))
        self.assertGreater(column(look.with_value("letters.measure", 80)), column(look))
        self.assertGreater(column(look.with_value("letters.size", 20)), column(look))


class GivingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("A lamp", date="2026-01-01", categories="Lamps")

    def rows(self) -> dict[str, str]:
        return {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}

    def give(self, where: str, value: object) -> set[str]:
        """The paths that a change of the look alters."""
        before = self.rows()
        looks.try_change(self.shop, self.me, "bench", where, value)
        looks.give(self.shop, self.me, "bench")
        now = self.rows()
        return {path for path in before.keys() | now.keys() if before.get(path) != now.get(path)}

    def test_another_colour_rewrites_the_style_sheet_alone(self) -> None:
        self.assertEqual(self.give("light.accent", "#5b2a5e"), {STYLE_PATH})
        self.assertEqual(self.give("light.paper", "#ffffff"), {STYLE_PATH, "/site.webmanifest"})
        self.assertEqual(self.give("letters.size", 20), {STYLE_PATH})

    def test_other_letters_alter_every_page_that_loads_them(self) -> None:
        self.assertIn("/lamps/a-lamp/", self.give("letters.text", "vollkorn"))

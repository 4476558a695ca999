"""A look as a value: read from files, refused with reasons, measured."""

from __future__ import annotations

import json
import random
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.look.begun import BEGUN, begun_look, read_begun
from mobbet.core.look.check import checked, failing
from mobbet.core.look.colours import contrast, holds, read_colour
from mobbet.core.look.look import LARGEST, Look, look_file, read_look, read_look_file
from mobbet.core.look.palette import COLOURS, Palette, in_the_dark, pairs, words_on


def begun(name: str = "bench") -> Look:
    return read_look_file(begun_look(name))


def chance_palette(chance: random.Random) -> Palette:
    return Palette(**{name: f"#{chance.randrange(1 << 24):06x}" for name in COLOURS})


class BegunTests(unittest.TestCase):
    def test_each_can_be_read_in_light_and_dark(self) -> None:
        for name in BEGUN:
            with self.subTest(name):
                self.assertEqual([one.where for one in failing(begun(name))], [])

    def test_no_two_are_alike_in_structure(self) -> None:
        structures = {
            (look.top.size, look.top.at, look.top.menu, look.front.shows, look.post.columns, look.page.lines)
            for look in map(begun, BEGUN)
        }
        self.assertEqual(len(structures), len(BEGUN))

    def test_an_unknown_one_is_refused_by_name(self) -> None:
        with self.assertRaisesRegex(BadInput, "There is no look “beach”; choose one of bench, ferry"):
            read_begun("beach")


class FileTests(unittest.TestCase):
    def test_a_look_comes_back_from_its_file(self) -> None:
        for name in BEGUN:
            self.assertEqual(read_look_file(look_file(begun(name))), begun(name))

    def test_colours_are_spelled_one_way(self) -> None:
        self.assertEqual(begun().with_value("light.accent", "A31").light.accent, "#aa3311")

    def test_what_is_wrong_is_named_with_its_place_and_value(self) -> None:
        for where, value, told in (
            (
                "light.ink",
                "red",
                "“light.ink” cannot be “red”: write six digits from 0 to f, such as #8a3b12.",
            ),
            ("letters.size", 99, "“letters.size” cannot be “99”: write a number up to 24."),
            ("letters.size", "17", "“letters.size” cannot be “17”: "),
            ("letters.text", "comic", "“letters.text” cannot be “comic”: choose one of literata, "),
            ("front.shows", "wall", "“front.shows” cannot be “wall”: write 'newest-large', "),
            ("name", "x" * 99, "“name” cannot be “xxx"),
            ("light.pink", "#ffffff", "A look has nothing called “light.pink”"),
            ("light.ink.x", 1, "A look has nothing called “light.ink.x”"),
        ):
            with self.subTest(where), self.assertRaises(BadInput) as caught:
                begun().with_value(where, value)
            self.assertIn(told, str(caught.exception))

    def test_files_that_are_no_look_are_refused(self) -> None:
        for text in (
            "",
            "[]",
            "{}",
            "[" * 5000,
            '{"light": 1}',
            json.dumps({**begun().dump(), "script": "x"}),
            " " * (LARGEST + 1),
        ):
            with self.subTest(text[:20]), self.assertRaises(BadInput):
                read_look_file(text)
        with self.assertRaisesRegex(BadInput, "a look has nothing of that name"):
            read_look({**begun().dump(), "script": "x"})


class DarkTests(unittest.TestCase):
    def test_colours_for_the_dark_can_be_read_whatever_the_light_ones_are(self) -> None:
        chance = random.Random(11)
        for _ in range(20):
            light = chance_palette(chance)
            dark = in_the_dark(light)
            self.assertTrue(dark.is_dark)
            if not light.is_dark:
                for name in ("ink", "soft", "accent"):
                    self.assertTrue(
                        holds(dark.colour(name), (dark.colour("paper"), dark.colour("tint")), 4.5)
                    )

    def test_a_look_for_the_night_is_its_own_dark(self) -> None:
        night = begun("lamplight")
        self.assertEqual(night.in_dark, night.light)
        self.assertEqual({one.mode for one in checked(night)}, {"light"})


class CheckTests(unittest.TestCase):
    def test_every_ratio_and_every_nearest_colour_holds(self) -> None:
        chance = random.Random(7)
        for _ in range(6):
            for one in checked(begun().model_copy(update={"light": chance_palette(chance)})):
                ground = read_colour(one.background)
                self.assertEqual(one.ratio, contrast(read_colour(one.foreground), ground))
                self.assertEqual(one.holds, one.ratio >= one.needed)
                self.assertGreaterEqual(contrast(read_colour(one.nearest), ground), one.needed)
                self.assertEqual(one.nearest == one.foreground, one.holds)

    def test_a_link_that_is_too_pale_is_found_in_both_modes_where_it_is(self) -> None:
        pale = begun().with_value("light.accent", "#e0a080")
        self.assertIn("links, also visited, in the light", [one.where for one in failing(pale)])

    def test_words_in_colours_follow_the_paper(self) -> None:
        for name in BEGUN:
            palette = begun(name).light
            tints = words_on(palette).tints
            self.assertTrue(
                all(contrast(read_colour(tint), palette.colour("paper")) >= 4.5 for tint in tints.values())
            )

    def test_pairs_have_names_of_their_own(self) -> None:
        names = [pair.where for pair in pairs(begun().light)]
        self.assertEqual(len(names), len(set(names)))

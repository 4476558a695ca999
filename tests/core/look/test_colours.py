"""Contrast, and the nearest colour that can be read."""

from __future__ import annotations

import random
import unittest
from itertools import product

from mobbet.core.errors import BadInput
from mobbet.core.look.colours import Colour, contrast, distance, nearest, of_oklch, oklab, oklch, read_colour

WHITE, BLACK = Colour(255, 255, 255), Colour(0, 0, 0)


def chance_colour(chance: random.Random) -> Colour:
    return Colour(*(chance.randrange(256) for _ in range(3)))


class ReadingTests(unittest.TestCase):
    def test_colours_are_read_as_people_type_them(self) -> None:
        for text, colour in (("#8a3b12", "#8a3b12"), ("8A3B12", "#8a3b12"), (" #a31 ", "#aa3311")):
            self.assertEqual(read_colour(text).hex, colour)
        for text in ("", "red", "#12345", "#12345g", "rgb(1,2,3)", "#1234567"):
            with self.subTest(text), self.assertRaisesRegex(BadInput, "is no colour; write six digits"):
                read_colour(text)


class ContrastTests(unittest.TestCase):
    def test_known_ratios(self) -> None:
        for one, other, ratio in (
            ("#000000", "#ffffff", 21),
            ("#777777", "#ffffff", 4.478),
            ("#0000ff", "#ffffff", 8.592),
        ):
            self.assertAlmostEqual(contrast(read_colour(one), read_colour(other)), ratio, 3)
            self.assertAlmostEqual(contrast(read_colour(other), read_colour(one)), ratio, 3)


class OklabTests(unittest.TestCase):
    def test_known_colours(self) -> None:
        for colour, lab in (
            (WHITE, (1, 0, 0)),
            (BLACK, (0, 0, 0)),
            (Colour(255, 0, 0), (0.628, 0.225, 0.126)),
        ):
            for part, wanted in zip(oklab(colour), lab, strict=True):
                self.assertAlmostEqual(part, wanted, 3)

    def test_a_colour_comes_back_from_its_lightness_chroma_and_hue(self) -> None:
        chance = random.Random(3)
        for _ in range(100):
            colour = chance_colour(chance)
            self.assertLess(distance(of_oklch(*oklch(colour)), colour), 0.01)

    def test_chroma_that_no_screen_has_is_lessened(self) -> None:
        lightness, _, _ = oklch(of_oklch(0.7, 0.9, 2.0))
        self.assertAlmostEqual(lightness, 0.7, 2)


class NearestTests(unittest.TestCase):
    def test_a_colour_that_holds_stays(self) -> None:
        self.assertEqual(nearest(BLACK, (WHITE,), 4.5), BLACK)

    def test_it_holds_and_no_colour_around_it_is_nearer(self) -> None:
        chance = random.Random(5)
        for _ in range(30):
            colour, ground = chance_colour(chance), chance_colour(chance)
            found = nearest(colour, (ground,), 4.5)
            self.assertGreaterEqual(contrast(found, ground), 4.5)
            apart = distance(found, colour)
            for steps in product((-6, -3, -2, -1, 0, 1, 2, 3, 6), repeat=3):
                other = Colour(
                    *(min(255, max(0, part + step)) for part, step in zip(found, steps, strict=True))
                )
                if contrast(other, ground) >= 4.5:
                    self.assertGreaterEqual(
                        distance(other, colour) + 1e-9, apart, f"{colour} on {ground}: {other}"
                    )

    def test_it_holds_on_several_grounds_at_once(self) -> None:
        grounds = (WHITE, read_colour("#fbe0d6"), read_colour("#d5ecf4"))
        found = nearest(read_colour("#e07030"), grounds, 4.5)
        self.assertTrue(all(contrast(found, ground) >= 4.5 for ground in grounds))

    def test_between_grounds_that_exclude_every_colour_there_is_none(self) -> None:
        self.assertIsNone(nearest(read_colour("#808080"), (WHITE, BLACK), 7))

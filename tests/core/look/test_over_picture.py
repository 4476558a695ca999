"""Words over a picture: which part of it stands under them, and which veil makes them readable."""

import random
import unittest

from mobbet.core.look.colours import Colour, contrast
from mobbet.core.look.look import Picture, Top
from mobbet.core.look.over_picture import VEILS, WORDS, least_veil, regions, veiled, worst


class OverPictureTests(unittest.TestCase):
    def test_the_veil_that_is_told_is_the_lightest_that_holds_everywhere(self) -> None:
        chance = random.Random(4)
        for _ in range(150):
            pixels = [Colour(*(chance.randrange(256) for _ in range(3))) for _ in range(20)]
            for words in ("light", "dark"):
                veil = least_veil(pixels, words)
                ratio = lambda veil, words=words, pixels=pixels: min(  # noqa: E731
                    contrast(WORDS[words], veiled(one, words, veil)) for one in pixels
                )
                self.assertGreaterEqual(ratio(veil), 4.5)
                if veil:
                    self.assertLess(ratio(veil - 1), 4.5)

    def test_the_worst_pixel_counts(self) -> None:
        pixels = [Colour(0, 0, 0)] * 99 + [Colour(255, 255, 255)]
        self.assertEqual(worst(pixels, "light", 0), Colour(255, 255, 255))
        self.assertEqual(veiled(Colour(255, 255, 255), "light", 100), VEILS["light"])

    def test_the_parts_lie_within_the_picture_and_follow_its_point_in_sight(self) -> None:
        for width, height in ((1600, 900), (400, 3000), (5000, 300), (1, 1)):
            for x in (0, 50, 100):
                for one in regions(Top(picture=Picture(item=1, x=x, y=x)), width, height):
                    self.assertTrue(-1e-9 <= one.left < one.right <= 1 + 1e-9)
                    self.assertTrue(-1e-9 <= one.top < one.bottom <= 1 + 1e-9)
        left, right = (regions(Top(picture=Picture(item=1, x=x)), 4000, 500)[0] for x in (0, 100))
        self.assertLess(left.right, right.right)
        self.assertEqual(regions(Top(), 10, 10), [])

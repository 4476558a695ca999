import unittest
from random import Random

from mobbet.core.errors import BadInput
from mobbet.core.media.recipes import USES, WHOLE, Recipe, cropped_size, cut, load, pixels, read


class RecipeTests(unittest.TestCase):
    def test_a_recipe_comes_back_as_it_was_kept(self) -> None:
        recipe = read(
            {
                "turn": 90,
                "mirror": True,
                "straighten": -3.5,
                "crop": [0.1, 0.2, 0.5, 0.5],
                "focus": [0.3, 0.4],
                "cuts": {"lead": [0, 0, 1, 0.5]},
            }
        )
        self.assertEqual(load(recipe.kept()), recipe)
        self.assertEqual(load(""), Recipe())

    def test_what_cannot_be_is_refused_with_its_name(self) -> None:
        for given, message in (
            ({"turn": 45}, "cannot be turned by “45”"), ({"straighten": 50}, "“50” cannot be a part of “straighten”"), ({"crop": [0, 0, 2, 1]}, "part of “crop”"),
            ({"crop": [0.5, 0, 0.7, 1]}, "“crop” reaches beyond"), ({"crop": [0, 0, 0.001, 1]}, "smaller than a fiftieth"), ({"focus": [1]}, "needs two numbers"),
            ({"focus": ["x", 0]}, "“x” cannot be"), ({"cuts": {"poster": list(WHOLE)}}, "no such use"), ({"crop": [float("nan"), 0, 1, 1]}, "cannot be"), ([], "could not be read"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                read(given)

    def test_the_size_follows_from_turn_straightening_and_crop(self) -> None:
        self.assertEqual(cropped_size(4000, 3000, Recipe(turn=90, crop=(0, 0, 0.5, 1))), (1500, 4000))
        width, height = cropped_size(4000, 3000, Recipe(straighten=5))
        self.assertAlmostEqual(width / height, 4 / 3, delta=0.01)
        self.assertLess(width, 3700)

    def test_every_cut_has_its_shape_lies_inside_and_is_as_near_to_the_focus_as_may_be(self) -> None:
        chance = Random(5)
        for _ in range(300):
            width, height = chance.randint(40, 4000), chance.randint(40, 4000)
            recipe = Recipe(focus=(chance.random(), chance.random()))
            for use, row in USES.items():
                left, top, wide, high = cut(use, width, height, recipe)
                self.assertAlmostEqual(wide * width / (high * height), row.shape, delta=0.001)
                self.assertGreaterEqual(min(left, top, 1 - left - wide, 1 - top - high), -1e-9)
                self.assertAlmostEqual(max(wide, high), 1)
                self.assertTrue(
                    left == 0 or abs(left + wide - 1) < 1e-9 or abs(left + wide / 2 - recipe.focus[0]) < 1e-9
                )

    def test_a_cut_that_was_put_somewhere_stays_there(self) -> None:
        left, top, wide, high = cut(
            "square", 1000, 500, Recipe(focus=(0, 0), cuts={"square": (0.6, 0.2, 0.3, 0.6)})
        )
        self.assertAlmostEqual(left, 0.6)
        self.assertAlmostEqual(wide * 1000, high * 500)

    def test_pixels_are_whole_and_never_none(self) -> None:
        self.assertEqual(pixels((0.999, 0, 0.001, 1), 10, 10), (9, 0, 10, 10))

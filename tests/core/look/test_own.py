"""A post on a background of its own: what follows from it can be read, and what cannot is refused with what can."""

import json
import random
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.look.begun import BEGUN, begun_look
from mobbet.core.look.look import Look, read_look
from mobbet.core.look.own import OwnLook, own_palettes, own_text, read_own, read_typed
from mobbet.core.look.palette import is_readable


def begun(name: str) -> Look:
    return read_look(json.loads(begun_look(name)))


class OwnLookTests(unittest.TestCase):
    def test_whatever_is_not_refused_can_be_read_in_the_light_and_in_the_dark(self) -> None:
        chance, refused = random.Random(7), 0
        colour = lambda: f"#{chance.randrange(1 << 24):06x}"  # noqa: E731
        for _ in range(150):
            look = begun(chance.choice(BEGUN))
            try:
                own = read_typed(look, colour(), chance.choice(("", colour())))
            except BadInput as error:
                refused += 1
                self.assertRegex(str(error), "cannot be read|not every word can be read")
                continue
            for palette in own_palettes(look, own):
                self.assertTrue(is_readable(palette), (look.name, own))
            self.assertEqual(own_palettes(look, own)[0].paper, own.paper)
        self.assertLess(refused, 150)

    def test_an_accent_that_cannot_be_read_is_refused_with_the_nearest_that_can(self) -> None:
        look = begun("bench")
        with self.assertRaisesRegex(BadInput, "the nearest that can is #[0-9a-f]{6}") as caught:
            read_typed(look, "#fffefa", "#ffe58a")
        nearest = str(caught.exception)[-8:-1]
        self.assertEqual(read_typed(look, "#fffefa", nearest).accent, nearest)

    def test_it_follows_the_site_where_nothing_was_chosen(self) -> None:
        look = begun("bench")
        self.assertEqual(own_palettes(look, OwnLook(picture=3))[0].paper, look.light.paper)
        self.assertEqual(own_text(OwnLook()), "")
        self.assertEqual(read_own(""), OwnLook())
        own = OwnLook(paper="#102018", picture=3)
        self.assertEqual(read_own(own_text(own)), own)

    def test_nonsense_is_refused_in_a_sentence(self) -> None:
        for paper, accent in (("red", ""), ("", "#12"), ("javascript:x", ""), ("#ggg", "")):
            with self.subTest(paper + accent), self.assertRaises(BadInput):
                read_typed(begun("bench"), paper, accent)

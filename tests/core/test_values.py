import unittest
from dataclasses import FrozenInstanceError, dataclass

from mobbet.core.values import made_of


@dataclass(frozen=True)
class Pair:
    one: int
    two: int = 2


class ValueTests(unittest.TestCase):
    def test_a_value_is_the_same_as_one_made_in_the_usual_way(self) -> None:
        made = made_of(Pair, {"two": 3, "one": 1})
        self.assertEqual((made, hash(made)), (Pair(1, 3), hash(Pair(1, 3))))
        with self.assertRaises(FrozenInstanceError):
            made.one = 5

    def test_every_field_is_needed_and_no_other(self) -> None:
        for values in ({"one": 1}, {"one": 1, "two": 2, "three": 3}):
            with self.subTest(values), self.assertRaisesRegex(TypeError, "Pair"):
                made_of(Pair, values)

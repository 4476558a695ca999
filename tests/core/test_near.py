import random
import unittest

from mobbet.core.key_phrases import phrases, tags_in
from mobbet.core.near import doubles, near, reason, slips
from mobbet.services.dictionary import Hunspell
from mobbet.services.stand_ins.dictionary import FewWords

DICTIONARY = Hunspell()
ALIKE = {
    "spelling": "Flex:flex café:Cafe wire-strippers:wirestrippers colour:color organise:organize grey_paint:gray_paint aluminium:aluminum",
    "plural": "Fuses:fuse knives:knife batteries:battery desk_lamp:desk_lamps bus:buses child:children",
    "form": "soldering:solder repairs:repaired darning:darned hop:hopping hope:hoping restore:restoration drying:dried running:run spelling:spell installing:installation",
    "slip": "swich:switch battrey:battery recieve:receive accomodation:accommodation screwdrver:screwdriver bycicle:bicycle",
}
APART = (
    "clock:block lamp:lamb wire:wine fuse:muse bottle:battle string:strong news:new university:universe organ:organisation poster:potter marker:market "
    "winter:winner 2024:2025 model_3:model_4 C:C++ C++:C# plane:plan wing:win seed:see painting:pain sewing:sawing winding:winning planning:planing "
    "hoping:hopping staring:starring filling:filing rivet:river gasket:basket rocket:rickets baker:bake"
)


def know(word: str) -> bool:
    return DICTIONARY.knows(word, "en")


def pairs(text: str) -> list[list[str]]:
    return [pair.replace("_", " ").split(":") for pair in text.split()]


class NearDoubleTests(unittest.TestCase):
    def test_names_that_mean_one_thing_are_told_why(self) -> None:
        for why, text in ALIKE.items():
            for one, other in pairs(text):
                with self.subTest(one, other=other):
                    self.assertEqual(reason(one, other, know), why)
                    self.assertEqual(reason(other, one, know), why)

    def test_names_that_only_look_alike_are_left_alone(self) -> None:
        for one, other in pairs(APART):
            with self.subTest(one, other=other):
                self.assertIsNone(reason(one, other, know))

    def test_pairs_are_found_among_many_names_as_by_comparing_each_with_each(self) -> None:
        chance = random.Random(4)
        names = [one for text in ALIKE.values() for pair in pairs(text) for one in pair] + [
            one for pair in pairs(APART) for one in pair
        ]
        names = list(dict.fromkeys(names))
        chance.shuffle(names)
        naive = {
            frozenset((one, other))
            for at, one in enumerate(names)
            for other in names[at + 1 :]
            if reason(one, other, know)
        }
        self.assertEqual({frozenset((double.one, double.other)) for double in doubles(names, know)}, naive)

    def test_a_name_being_typed_is_compared_with_all(self) -> None:
        self.assertEqual([one.other for one in near("fuses", ["flex", "Fuse", "fuses"], know)], ["Fuse"])

    def test_without_a_dictionary_short_slips_are_not_believed(self) -> None:
        self.assertIsNone(reason("marker", "market"))
        few = FewWords(["makery"])
        self.assertEqual(reason("makry", "makery", lambda word: few.knows(word, "en")), "slip")

    def test_slips_are_counted_up_to_a_limit(self) -> None:
        self.assertEqual(
            [
                slips(a, b, 2)
                for a, b in (("ab", "ba"), ("abc", "abd"), ("abc", "xyz"), ("a", "abcd"), ("same", "same"))
            ],
            [1, 1, 3, 3, 0],
        )


class KeyPhraseTests(unittest.TestCase):
    TEXT = "Soldering iron first. A soldering iron that is cold does not solder. The flex is old; the flex bends. Clean the tip of the soldering iron."

    def test_tags_that_occur_in_any_form_are_found(self) -> None:
        self.assertEqual(
            tags_in(self.TEXT, ["solder", "flex", "zip", "soldering iron"]),
            ["solder", "soldering iron", "flex"],
        )

    def test_telling_phrases_come_first(self) -> None:
        found = phrases("A cold iron", self.TEXT)
        self.assertEqual(found[0], "soldering iron")
        self.assertIn("flex", found)
        self.assertNotIn("the", found)


if __name__ == "__main__":
    unittest.main()

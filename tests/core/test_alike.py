import math
import unittest

from mobbet.core.alike import (
    Choice,
    Matter,
    checked,
    chosen,
    counted_words,
    likeness,
    read_choice,
    reason,
    telling,
)
from mobbet.core.errors import BadInput


def rarity(word: str) -> float:
    return 0.0 if word in ("bench", "thing") else 4.0


class WordTests(unittest.TestCase):
    def test_what_every_text_has_is_left_out_and_plurals_are_singular(self) -> None:
        self.assertEqual(set(counted_words("The fuses", "and the Flex, of THE flex")), {"fuse", "flex"})

    def test_words_of_scripts_without_spaces_are_told_by_their_letters(self) -> None:
        self.assertEqual(set(counted_words("時計", "")), {"時 計"})
        self.assertIn("лампа", counted_words("Лампа", ""))

    def test_a_word_that_tells_nothing_is_none_of_the_telling_ones(self) -> None:
        self.assertEqual(set(telling({"bench": 3.0, "flex": 1.0}, rarity)), {"flex"})


class LikenessTests(unittest.TestCase):
    def matter(self, text: str, **more: frozenset[int]) -> Matter:
        return Matter(counted_words("", text), **more)

    def test_it_is_the_same_from_both_sides(self) -> None:
        one, other = (
            self.matter("flex fuse lamp", tags=frozenset({1})),
            self.matter("flex fuse zip", tags=frozenset({1})),
        )
        first, second = likeness(one, other, (1, 2), rarity), likeness(other, one, (2, 1), rarity)
        self.assertEqual(first, second)
        assert first is not None
        self.assertEqual((first.words, first.tags), (("flex", "fuse"), (1,)))

    def test_one_shared_word_alone_makes_no_two_posts_alike(self) -> None:
        self.assertIsNone(likeness(self.matter("flex"), self.matter("flex"), (1, 2), rarity))

    def test_a_link_makes_them_alike(self) -> None:
        found = likeness(Matter(links=frozenset({2})), Matter(), (1, 2), rarity)
        assert found is not None
        self.assertTrue(found.is_linked and math.isfinite(found.score))

    def test_the_reason_is_said_in_words(self) -> None:
        one, other = (
            self.matter(f"flex fuse {more}", tags=frozenset({1}), categories=frozenset({3}))
            for more in ("lamp", "zip")
        )
        found = likeness(one, other, (1, 2), rarity)
        assert found is not None
        self.assertEqual(
            reason(found, {1: "solder"}, {3: "Lamps"}),
            "both speak of flex and fuse and both are tagged solder",
        )


class ChoiceTests(unittest.TestCase):
    def test_what_was_put_first_leads_and_what_was_struck_out_is_gone(self) -> None:
        choice = Choice(pinned=(9,), struck=(2,))
        self.assertEqual(chosen(choice, [1, 2, 3]), [9, 1, 3])
        self.assertEqual(chosen(Choice(none=True, pinned=(9,)), [1]), [])
        self.assertEqual(read_choice(choice.stored()), choice)
        self.assertEqual((Choice().stored(), read_choice("")), ("", Choice()))

    def test_too_many_are_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "4 is the most"):
            checked(Choice(pinned=(1, 2, 3, 4, 5)))
        with self.assertRaisesRegex(BadInput, "12 is the most"):
            checked(Choice(struck=tuple(range(13))))

import unittest

from mobbet.core.errors import BadInput
from mobbet.core.record import KINDS, PARTS, read_days, sentence


class RecordTests(unittest.TestCase):
    def test_each_kind_belongs_to_a_part_and_reads_as_a_sentence(self) -> None:
        for name, kind in KINDS.items():
            with self.subTest(name):
                self.assertIn(kind.part, PARTS)
                words = sentence(name, "Ines", "A post", "writer")
                self.assertRegex(words, r"^[A-Z].*\.$")
                self.assertNotIn("{", words)

    def test_a_name_is_never_taken_for_a_place_to_fill(self) -> None:
        self.assertEqual(sentence("suspended", "{subject}", "{detail}", "x"), "{subject} suspended {detail}.")

    def test_a_kind_of_a_newer_version_is_told_plainly(self) -> None:
        self.assertEqual(sentence("teleported", "Ines", "the bench", ""), "Ines: teleported the bench.")

    def test_the_record_is_kept_for_one_of_some_times(self) -> None:
        self.assertEqual(read_days("365"), 365)
        for wrong in ("", "1", "-30", "99999999999", "½"):
            with self.assertRaisesRegex(BadInput, "no time for the record"):
                read_days(wrong)

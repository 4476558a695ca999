import hashlib
import unittest

from mobbet.core import sealing
from mobbet.core.errors import BadInput

SALT = "00" * 16


class KeyTests(unittest.TestCase):
    def test_one_password_makes_one_key_however_a_keyboard_composes_it(self) -> None:
        self.assertEqual(sealing.key_of(" kli\u0301c\u030c  ﬁfty ", SALT), sealing.key_of("klíč fifty", SALT))
        self.assertEqual(len(sealing.keys_of("a rusty spring", SALT)), 1)

    def test_a_key_that_was_made_of_letters_as_they_were_typed_is_found(self) -> None:
        typed = "kli\u0301c\u030c fifty"
        older = hashlib.pbkdf2_hmac("sha256", typed.encode(), bytes.fromhex(SALT), sealing.ROUNDS, 32).hex()
        self.assertEqual(sealing.keys_of(typed, SALT), (sealing.key_of(typed, SALT), older))

    def test_the_letters_of_a_password_are_counted_in_its_one_form(self) -> None:
        self.assertEqual(sealing.read_post_password("e\u0301" * 200), "é" * 200)
        with self.assertRaisesRegex(BadInput, "has 4 letters"):
            sealing.read_post_password("e\u0301" * 4)

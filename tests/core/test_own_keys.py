import unittest

from mobbet.core.errors import BadInput
from mobbet.core.own_keys import COMMANDS, read_keys, read_own
from mobbet.web.shell.keys import keys_of


class OwnKeysTests(unittest.TestCase):
    def test_combinations_are_read_however_they_are_typed(self) -> None:
        for typed, keys in [
            ("ctrl + alt + k", "Ctrl+Alt+K"), ("Alt+Ctrl+k", "Ctrl+Alt+K"), ("f4", "F4"), ("⌘+⇧+j", "Ctrl+Shift+J"), ("Alt+/", "Alt+/"), ("alt+enter", "Alt+Enter"),
        ]:  # fmt: skip
            with self.subTest(typed):
                self.assertEqual(read_keys(typed), keys)

    def test_what_cannot_be_had_is_refused_with_the_reason(self) -> None:
        for typed, words in [
            ("k", "types letters"), ("Shift+K", "types letters"), ("Ctrl+C", "belongs to the browser"), ("Ctrl+W", "belongs to the browser"), ("Alt+ö", "no combination"),
            ("Ctrl+", "no combination"), ("+" * 9000, "no combination"), ("F5", "no combination"), ("F7", "no combination"), ("Hyper+K", "no combination"),
        ]:  # fmt: skip
            with self.subTest(typed[:20]), self.assertRaisesRegex(BadInput, words):
                read_keys(typed)

    def test_no_combination_does_two_things(self) -> None:
        for typed in ({"Alt+J": "Alt+K"}, {"Alt+J": "Ctrl+Alt+P", "Alt+K": "Alt+Ctrl+P"}):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, "would do two things"):
                read_own(typed)

    def test_two_can_change_places(self) -> None:
        self.assertEqual(read_own({"Alt+J": "Alt+K", "Alt+K": "Alt+J"}), {"Alt+J": "Alt+K", "Alt+K": "Alt+J"})

    def test_what_is_as_usual_is_not_kept(self) -> None:
        self.assertEqual(read_own({"Alt+J": "Alt+J", "Alt+K": "", "unknown": "Alt+X"}), {})

    def test_every_command_stands_on_the_sheet_of_keys_which_shows_the_own_key(self) -> None:
        own = {usual: f"Ctrl+Alt+{letter}" for usual, letter in zip(COMMANDS, "ABCDEFGHIJKLMNO", strict=True)}
        shown = {
            keys
            for screen in ("write", "desk")
            for _, rows in keys_of(screen, own)
            for listed, _ in rows
            for keys in listed.split(", ")
        }
        self.assertEqual(set(own.values()) - shown, set())
        self.assertIn(f"Shift+{own['F8']}", shown)

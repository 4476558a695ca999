import unittest

from mobbet.core.rights import RIGHTS, Action, Role, may


class RightsTests(unittest.TestCase):
    def test_every_action_has_a_row_and_whoever_is_refused_is_told_why(self) -> None:
        self.assertEqual(set(RIGHTS), set(Action))
        for action, right in RIGHTS.items():
            with self.subTest(action):
                self.assertTrue(right.others <= right.own, "a colleague's is never freer than one's own")
                self.assertIn(Role.OWNER, right.others)
                if right.others != frozenset(Role):
                    self.assertRegex(right.refusal, r"(ask|settles)")

    def test_what_a_role_may_on_a_blog(self) -> None:
        table = (
            (Action.EDIT_POST, Role.WRITER, True, True), (Action.EDIT_POST, Role.WRITER, False, False), (Action.EDIT_POST, Role.EDITOR, False, True),
            (Action.READ_POST, Role.WRITER, False, True), (Action.EDIT_ITEM, Role.WRITER, False, False), (Action.EDIT_KEPT, Role.WRITER, False, False),
            (Action.KEEP_FILING, Role.WRITER, True, False), (Action.KEEP_FILING, Role.EDITOR, True, True), (Action.OWN_HOUSE, Role.EDITOR, True, False),
            (Action.OWN_HOUSE, Role.OWNER, True, True),
        )  # fmt: skip
        for action, role, is_own, expected in table:
            with self.subTest(f"{action} {role} {is_own}"):
                self.assertEqual(may(role, action, is_own=is_own), expected)

    def test_what_is_for_its_author_alone_is_nobody_elses_whatever_their_role(self) -> None:
        for role in Role:
            for action in Action:
                with self.subTest(f"{action} {role}"):
                    self.assertEqual(
                        may(role, action, is_own=True, is_private=True), may(role, action, is_own=True)
                    )
                    if action != Action.WITHDRAW_POST:
                        self.assertFalse(may(role, action, is_own=False, is_private=True))
        self.assertTrue(may(Role.OWNER, Action.WITHDRAW_POST, is_own=False, is_private=True))
        self.assertFalse(may(Role.WRITER, Action.WITHDRAW_POST, is_own=False, is_private=True))

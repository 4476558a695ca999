import unittest

from mobbet.core.rights import (
    ADJUSTABLE,
    ALWAYS,
    AS_USUAL,
    RIGHTS,
    STAFF,
    Action,
    HouseRights,
    Role,
    house_rights,
    may,
)


class RightsTests(unittest.TestCase):
    def test_every_action_has_a_row_and_whoever_is_refused_is_told_why(self) -> None:
        self.assertEqual(set(RIGHTS), set(Action))
        for action, right in RIGHTS.items():
            with self.subTest(action):
                self.assertTrue(
                    right.others <= right.own or action == Action.GIVE_WORD,
                    "a colleague's is never freer than one's own",
                )
                self.assertIn(Role.OWNER, right.others)
                if right.others < frozenset(STAFF):
                    self.assertRegex(right.refusal, r"(ask|settles|leave notes)")

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


class HouseRightsTests(unittest.TestCase):
    def test_each_adjustment_turns_one_cell_of_the_table_and_no_other(self) -> None:
        for name, one in ADJUSTABLE.items():
            rights = HouseRights(frozenset({name}))
            turned = [
                (role, action, is_own)
                for role in Role
                for action in Action
                for is_own in (True, False)
                if may(role, action, is_own=is_own, rights=rights) != may(role, action, is_own=is_own)
            ]
            with self.subTest(name):
                self.assertEqual(turned, [(one.role, one.action, one.is_own)])

    def test_no_adjustment_gives_anybody_what_is_the_owners_or_takes_it_from_them(self) -> None:
        everything = HouseRights(frozenset(ADJUSTABLE))
        for action in (Action.OWN_HOUSE, Action.KEEP_PEOPLE, Action.READ_RECORD):
            for role in Role:
                self.assertEqual(may(role, action, rights=everything), role == Role.OWNER)

    def test_a_contributor_always_asks_and_an_owner_never(self) -> None:
        for rights in (AS_USUAL, HouseRights(asks={Role.WRITER: ALWAYS, Role.EDITOR: ALWAYS})):
            self.assertTrue(rights.asks_first(Role.CONTRIBUTOR, ()))
            self.assertFalse(rights.asks_first(Role.OWNER, (1, 2)))
        some = HouseRights(asks={Role.WRITER: frozenset({3})})
        self.assertEqual(
            [some.asks_first(Role.WRITER, one) for one in ((), (1,), (1, 3))], [False, False, True]
        )

    def test_what_is_kept_comes_back_and_what_is_unknown_is_left_out(self) -> None:
        rights = HouseRights(frozenset({"writers-see"}), {Role.WRITER: frozenset({3}), Role.EDITOR: ALWAYS})
        self.assertEqual(house_rights(rights.written()), rights)
        self.assertEqual(house_rights('{"adjusted": ["fly"], "asks": {"owner": "always"}}'), AS_USUAL)

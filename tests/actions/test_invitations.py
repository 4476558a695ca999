import re
from dataclasses import replace

from mobbet.actions import invitations, members, people
from mobbet.actions.access import role_of
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused, TooSoon
from mobbet.core.rights import Role
from mobbet.store import blogs, readers
from mobbet.store import invitations as store
from mobbet.store import people as people_store
from tests.actions.teams import SERVER, TeamCase

EMAIL, PASSWORD = "nell@away.example", "three brass kettles"


class InvitationTests(TeamCase):
    def invite(self, role: str = "writer", email: str = EMAIL) -> str:
        """The token of an invitation."""
        invitations.invite(self.shop, self.me, {"bench": role}, email, SERVER)
        found = re.search(r"https://write\.example/join/(\S+)", self.letters()[-1][1])
        assert found
        return found[1]

    def test_somebody_new_joins_once_with_a_name_and_a_password(self) -> None:
        token = self.invite()
        self.assertEqual(invitations.opened(self.shop, token).roles[0][1], Role.WRITER)
        begun, joined = invitations.take_as_new(self.shop, token, "Nell Garrow", PASSWORD)
        self.assertEqual([blog.slug for blog in joined], ["bench"])
        self.assertEqual(role_of(self.shop, begun.person, self.blog), Role.WRITER)
        self.assertEqual(people.sign_in(self.shop, EMAIL, PASSWORD).person.name, "Nell Garrow")
        with self.assertRaisesRegex(Refused, "was taken or withdrawn"):
            invitations.opened(self.shop, token)

    def test_bad_input_keeps_the_invitation(self) -> None:
        token = self.invite()
        for name, password in (("", PASSWORD), ("Nell", "short"), ("Nell", "passwordpassword")):
            with self.assertRaises(BadInput):
                invitations.take_as_new(self.shop, token, name, password)
        self.assertIsNone(people_store.by_email(self.shop.db, EMAIL))
        invitations.opened(self.shop, token)

    def test_its_week_passes(self) -> None:
        token = self.invite()
        self.clock.forward(invitations.GOOD_FOR)
        with self.assertRaisesRegex(Refused, "its week is over"):
            invitations.take_as_new(self.shop, token, "Nell", PASSWORD)

    def test_another_letter_ends_the_earlier_link(self) -> None:
        first = self.invite()
        number = store.waiting(self.shop.db, self.blog.id)[0][0].id
        invitations.send_again(self.shop, self.me, "bench", number, SERVER)
        with self.assertRaises(Refused):
            invitations.opened(self.shop, first)
        self.assertEqual(len(store.waiting(self.shop.db, self.blog.id)), 1)

    def test_another_letter_for_one_blog_leaves_the_invitation_to_others(self) -> None:
        with self.shop.db.transaction():
            other = blogs.add(
                self.shop.db, slug="log", name="Log", tagline="", zone="UTC", home="https://log.example/", design="notebook", made_at=1, salt="x"
            )  # fmt: skip
            blogs.add_member(self.shop.db, other.id, self.me.id, "owner")
        invitations.invite(self.shop, self.me, {"bench": "writer", "log": "editor"}, EMAIL, SERVER)
        first = store.waiting(self.shop.db, self.blog.id)[0][0]
        invitations.send_again(self.shop, self.me, "bench", first.id, SERVER)
        self.assertEqual(store.roles(self.shop.db, first.id), {other.id: "editor"})

    def test_a_withdrawn_one_leads_nowhere(self) -> None:
        token = self.invite()
        invitations.withdraw(self.shop, self.me, "bench", store.waiting(self.shop.db, self.blog.id)[0][0].id)
        with self.assertRaises(Refused):
            invitations.opened(self.shop, token)
        with self.assertRaisesRegex(NotFound, "does not wait"):
            invitations.withdraw(self.shop, self.me, "bench", 1)

    def test_it_is_worth_nothing_once_whoever_invited_keeps_no_people_there(self) -> None:
        token = self.invite("owner")
        members.hand_over(self.shop, self.me, "bench", self.editor.id)
        with self.assertRaises(Refused):
            invitations.take_as_new(self.shop, token, "Nell", PASSWORD)
        self.assertIsNone(people_store.by_email(self.shop.db, EMAIL))

    def test_only_the_owner_invites_and_nobody_twice(self) -> None:
        for person in (self.editor, self.writer, self.contributor):
            with self.assertRaises(NotAllowed):
                invitations.invite(self.shop, person, {"bench": "contributor"}, EMAIL, SERVER)
        with self.assertRaisesRegex(Refused, "works on “The Bench” already"):
            invitations.invite(self.shop, self.me, {"bench": "writer"}, self.writer.email.upper(), SERVER)
        for email in ("", "nobody", "a@b", "x" * 300 + "@away.example"):
            with self.assertRaises(BadInput):
                invitations.invite(self.shop, self.me, {"bench": "writer"}, email, SERVER)

    def test_who_has_an_account_signs_in_and_takes_it_and_nobody_else_does(self) -> None:
        known = people.add_person(self.shop, name="Nell", email=EMAIL, password=PASSWORD)
        token = self.invite()
        with self.assertRaisesRegex(Refused, "has an account here already"):
            invitations.take_as_new(self.shop, token, "Nell", "another long password")
        with self.assertRaisesRegex(Refused, "is for nell@away.example"):
            invitations.take(self.shop, self.writer, token)
        invitations.take(self.shop, known, token)
        self.assertEqual(role_of(self.shop, known, self.blog), Role.WRITER)
        self.assertEqual(people.sign_in(self.shop, EMAIL, PASSWORD).person.id, known.id)

    def test_the_link_is_on_no_list_of_letters_and_shown_to_nobody_who_could_take_an_account_by_it(
        self,
    ) -> None:
        self.invite()
        one = store.waiting(self.shop.db, self.blog.id)[0][0]
        self.assertIn("/join/", invitations.link_shown(self.shop, one))
        self.assertEqual(readers.letters(self.shop.db, self.blog.id, 10), [])
        elsewhere = people.add_person(self.shop, name="Olga", email="olga@log.example", password=None)
        with self.shop.db.transaction():
            other = blogs.add(
                self.shop.db, slug="log", name="Log", tagline="", zone="UTC", home="https://log.example/", design="notebook", made_at=1, salt="x"
            )  # fmt: skip
            blogs.add_member(self.shop.db, other.id, elsewhere.id, "owner")
        self.invite(email=elsewhere.email)
        one = store.waiting(self.shop.db, self.blog.id)[0][0]
        self.assertEqual(invitations.link_shown(self.shop, one), "")

    def test_guessing_is_slowed_down(self) -> None:
        shop = replace(self.shop, origin="10.1.2.3")
        with self.assertRaises(TooSoon):
            for number in range(60):
                with self.assertRaises(Refused):
                    invitations.opened(shop, f"guess-{number}")
                    self.fail("a guess was taken")
                if shop.db.value("SELECT COUNT(*) FROM signin_failure") > 31:
                    break
            invitations.opened(shop, "one more")

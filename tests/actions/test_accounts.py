import re
import time
from dataclasses import replace

import pyotp

from mobbet.actions import account_links, factors, members, people, sessions
from mobbet.core.browsers import in_words
from mobbet.core.errors import BadInput, NeedsFactor, Refused, TooSoon
from mobbet.core.values import existing
from mobbet.store import accounts
from mobbet.store import people as people_store
from mobbet.store.people import Person
from tests.actions.teams import SERVER, TeamCase

EMAIL, PASSWORD, OTHER = "ines@bench.example", "a long password", "three brass kettles"


class AccountCase(TeamCase):
    def secret(self, person: Person | None = None) -> str:
        """Turns one-time codes on; the recovery codes stay in `self.recovery`."""
        secret = factors.new_secret()
        self.recovery = factors.turn_codes_on(self.shop, person or self.me, secret, self.code(secret))
        self.clock.forward(60)
        return secret

    def code(self, secret: str, seconds: int = 0) -> str:
        return pyotp.TOTP(secret).at(self.clock() + seconds)

    def begin(self) -> str:
        """The token of a sign-in that waits for the second factor."""
        with self.assertRaises(NeedsFactor) as caught:
            people.sign_in(self.shop, EMAIL, PASSWORD, "10.0.0.1")
        return caught.exception.token

    def link(self, path: str) -> str:
        found = [re.search(rf"{SERVER}/{path}/(\S+)", text) for _, text in self.letters()]
        return existing(next(one for one in reversed(found) if one))[1]


class CodeTests(AccountCase):
    def test_a_code_is_asked_for_after_the_password_and_not_before_a_wrong_one(self) -> None:
        self.secret()
        with self.assertRaisesRegex(Refused, "do not belong together"):
            people.sign_in(self.shop, EMAIL, "a wrong password")
        token = self.begin()
        self.assertEqual(people.begun_sign_in(self.shop, token).id, self.me.id)
        self.clock.forward(people.FACTOR_SECONDS)
        with self.assertRaisesRegex(Refused, "took too long"):
            people.begun_sign_in(self.shop, token)

    def test_codes_of_the_step_before_and_after_are_taken_and_none_further_away(self) -> None:
        secret = self.secret()
        for seconds, is_right in ((-61, False), (-30, True), (0, True), (30, True), (91, False)):
            self.clock.forward(-(self.clock() % 30))
            with self.subTest(seconds):
                self.assertEqual(
                    factors.is_right_code(self.shop, self.me, self.code(secret, seconds)), is_right
                )
            self.clock.forward(300)

    def test_no_code_is_good_twice_nor_one_before_it(self) -> None:
        secret = self.secret()
        code, earlier = self.code(secret), self.code(secret, -30)
        self.assertTrue(factors.is_right_code(self.shop, self.me, code))
        self.assertFalse(factors.is_right_code(self.shop, self.me, code))
        self.assertFalse(factors.is_right_code(self.shop, self.me, earlier))

    def test_a_recovery_code_is_good_once_however_it_is_typed(self) -> None:
        self.secret()
        self.assertEqual(len(self.recovery), 10)
        typed = self.recovery[0].upper().replace("-", " ")
        self.assertTrue(factors.is_right_code(self.shop, self.me, typed))
        self.assertFalse(factors.is_right_code(self.shop, self.me, typed))
        fresh = factors.renew_recovery(self.shop, self.me)
        self.assertFalse(factors.is_right_code(self.shop, self.me, self.recovery[1]))
        self.assertTrue(factors.is_right_code(self.shop, self.me, fresh[0]))

    def test_one_persons_code_is_not_anothers(self) -> None:
        secret = self.secret()
        self.secret(self.editor)
        self.assertFalse(factors.is_right_code(self.shop, self.editor, self.code(secret)))
        code = self.recovery[0]
        self.assertFalse(factors.is_right_code(self.shop, self.me, code))

    def test_wrong_codes_are_slowed_down_and_the_right_person_comes_in_after_a_minute(self) -> None:
        secret = self.secret()
        with self.assertRaises(TooSoon):
            for _ in range(1000):
                factors.is_right_code(self.shop, self.me, "000000")
        self.clock.forward(61)
        self.assertTrue(factors.is_right_code(self.shop, self.me, self.code(secret)))

    def test_wrong_codes_of_others_do_not_keep_a_known_browser_out(self) -> None:
        device = people.sign_in(self.shop, EMAIL, PASSWORD).device
        secret = self.secret()
        with self.assertRaises(TooSoon):
            for _ in range(1000):
                factors.is_right_code(self.shop, self.me, "000000")
        self.assertTrue(factors.is_right_code(self.shop, self.me, self.code(secret), device))

    def test_the_secret_lies_sealed_and_a_wrong_first_code_turns_nothing_on(self) -> None:
        secret = factors.new_secret()
        with self.assertRaisesRegex(BadInput, "not right"):
            factors.turn_codes_on(self.shop, self.me, secret, "000000")
        self.assertFalse(accounts.has_factor(self.shop.db, self.me.id))
        self.assertNotIn(
            self.secret(), self.shop.db.value("SELECT code_secret FROM person WHERE id = ?", self.me.id)
        )


class PasswordTests(AccountCase):
    def test_a_password_may_be_shorter_beside_a_second_factor_which_then_stays(self) -> None:
        token = people.begin_session(self.shop, self.me).token
        with self.assertRaisesRegex(BadInput, "at least 15"):
            people.change_password(self.shop, self.me, PASSWORD, "kettle-9", token)
        self.secret()
        people.change_password(self.shop, self.me, PASSWORD, "kettle-9", token)
        with self.assertRaisesRegex(Refused, "choose a longer one first"):
            factors.turn_off(self.shop, self.me, self.me)
        me = existing(people_store.by_id(self.shop.db, self.me.id))
        people.change_password(self.shop, me, "kettle-9", OTHER, token)
        factors.turn_off(self.shop, self.me, self.me)
        self.assertFalse(accounts.has_factor(self.shop.db, self.me.id))

    def test_a_forgotten_password_is_changed_once_by_the_link_of_a_letter(self) -> None:
        session = people.begin_session(self.shop, self.me)
        account_links.ask_for_password(self.shop, EMAIL.upper(), SERVER)
        token = self.link("password")
        with self.assertRaises(BadInput):
            account_links.choose_password(self.shop, token, "short")
        account_links.choose_password(self.shop, token, OTHER)
        self.assertIsNone(people.person_of(self.shop, session.token))
        self.assertEqual(people.sign_in(self.shop, EMAIL, OTHER).person.id, self.me.id)
        with self.assertRaisesRegex(Refused, "used already"):
            account_links.choose_password(self.shop, token, OTHER)

    def test_the_link_is_good_for_half_an_hour_and_the_second_factor_is_asked_for_all_the_same(self) -> None:
        self.secret()
        account_links.ask_for_password(self.shop, EMAIL, SERVER)
        token = self.link("password")
        self.clock.forward(account_links.GOOD_FOR - 1)
        account_links.choose_password(self.shop, token, OTHER)
        with self.assertRaises(NeedsFactor):
            people.sign_in(self.shop, EMAIL, OTHER)
        account_links.ask_for_password(self.shop, EMAIL, SERVER)
        self.clock.forward(account_links.GOOD_FOR)
        self.assertFalse(account_links.is_good(self.shop, self.link("password"), account_links.PASSWORD))

    def test_an_address_that_nobody_has_is_answered_alike_in_the_same_time(self) -> None:
        taken = []
        for email in (EMAIL, "nobody@away.example"):
            begun = time.monotonic()
            account_links.ask_for_password(self.shop, email, SERVER)
            taken.append(time.monotonic() - begun)
        self.assertTrue(all(one >= account_links.LEAST_SECONDS for one in taken))
        self.assertEqual([to for to, _ in self.letters()], [EMAIL])


class AddressTests(AccountCase):
    def test_a_new_address_counts_once_it_is_confirmed_and_the_old_one_is_told(self) -> None:
        account_links.ask_for_address(self.shop, self.me, "ines@away.example", SERVER)
        self.assertEqual(existing(people_store.by_id(self.shop.db, self.me.id)).email, EMAIL)
        token = self.link("address")
        account_links.confirm_address(self.shop, token)
        self.assertEqual(existing(people_store.by_id(self.shop.db, self.me.id)).email, "ines@away.example")
        self.assertEqual([to for to, _ in self.letters()], ["ines@away.example", EMAIL])
        with self.assertRaises(Refused):
            account_links.confirm_address(self.shop, token)

    def test_an_address_that_somebody_took_meanwhile_is_refused(self) -> None:
        account_links.ask_for_address(self.shop, self.me, "new@away.example", SERVER)
        people.add_person(self.shop, name="New", email="new@away.example", password=None)
        with self.assertRaises(Refused):
            account_links.confirm_address(self.shop, self.link("address"))


class SessionTests(AccountCase):
    def test_sessions_are_listed_with_their_browser_and_ended_one_by_one_or_all(self) -> None:
        shop = replace(self.shop, origin="10.0.0.7")
        first = people.sign_in(shop, EMAIL, PASSWORD, agent="Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0")
        second = people.sign_in(shop, EMAIL, PASSWORD, device=first.device)
        found = sessions.of_person(self.shop, self.me)
        self.assertIn(("Firefox on Linux", "10.0.0.7"), [(one.browser, one.begun_from) for one in found])
        key = next(one.token_hash for one in found if sessions.is_this(one, first.token))
        sessions.end(self.shop, self.me, key)
        self.assertIsNone(people.person_of(self.shop, first.token))
        sessions.end_others(self.shop, self.me, second.token)
        self.assertEqual(len(sessions.of_person(self.shop, self.me)), 1)

    def test_nobody_ends_the_session_of_somebody_else(self) -> None:
        mine = people.begin_session(self.shop, self.me)
        [one] = sessions.of_person(self.shop, self.me)
        with self.assertRaises(Refused):
            sessions.end(self.shop, self.editor, one.token_hash)
        self.assertIsNotNone(people.person_of(self.shop, mine.token))

    def test_a_browser_in_which_one_never_signed_in_is_told_by_letter(self) -> None:
        first = people.sign_in(self.shop, EMAIL, PASSWORD)
        self.assertEqual(self.letters(), [])
        people.sign_in(self.shop, EMAIL, PASSWORD, device=first.device)
        self.assertEqual(self.letters(), [])
        people.sign_in(self.shop, EMAIL, PASSWORD, agent="Safari on iPhone")
        self.assertIn("Safari on an iPhone", self.letters()[0][1])

    def test_a_proof_lasts_half_an_hour(self) -> None:
        token = people.begin_session(self.shop, self.me).token
        self.assertTrue(sessions.is_proved(self.shop, token))
        self.clock.forward(sessions.PROVED_FOR + 1)
        self.assertFalse(sessions.is_proved(self.shop, token))
        with self.assertRaisesRegex(BadInput, "not your password"):
            sessions.prove(self.shop, self.me, token, "a wrong password", "")
        sessions.prove(self.shop, self.me, token, PASSWORD, "")
        self.assertTrue(sessions.is_proved(self.shop, token))

    def test_a_browser_is_told_in_a_few_words(self) -> None:
        for agent, words in (
            ("", "a browser"),
            ("curl/8.0", "curl"),
            ("Mozilla (Windows NT) Chrome/1 Edg/2", "Edge on Windows"),
            ("x" * 9000, "a browser"),
        ):
            self.assertEqual(in_words(agent), words)


class RequiredTests(AccountCase):
    def test_an_owner_asks_it_of_others_once_they_have_one_themselves(self) -> None:
        with self.assertRaisesRegex(Refused, "of your own first"):
            members.set_factor_roles(self.shop, self.me, "bench", "owner,editor")
        self.secret()
        members.set_factor_roles(self.shop, self.me, "bench", "owner,editor")
        self.assertFalse(accounts.lacks_factor(self.shop.db, self.me.id))
        self.assertTrue(accounts.lacks_factor(self.shop.db, self.editor.id))
        self.assertFalse(accounts.lacks_factor(self.shop.db, self.writer.id))

from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from mobbet.actions import blogs, house_facts, people
from mobbet.core.errors import BadInput, NotAllowed, Refused, TooSoon
from tests.shops import NOW, ShopCase

RIGHT, WRONG = "a long password", "a wrong password"


class SignInCase(ShopCase):
    def sign_in(
        self, password: str = RIGHT, email: str = "ines@bench.example", address: str = "10.0.0.1"
    ) -> people.Session:
        return people.sign_in(self.shop, email, password, address)


class SignInTests(SignInCase):
    def test_a_session_lasts_until_its_end_or_sign_out(self) -> None:
        token = self.sign_in(email=" INES@bench.example ").token
        self.assertEqual(people.person_of(self.shop, token).id, self.me.id)
        self.assertIsNone(people.person_of(self.shop, token + "x"))
        self.assertIsNone(people.person_of(self.shop, None))
        people.sign_out(self.shop, token)
        self.assertIsNone(people.person_of(self.shop, token))

    def test_a_session_ends_when_it_is_not_used_and_at_its_end_when_it_is(self) -> None:
        idle, used = self.sign_in().token, self.sign_in().token
        for _ in range(2):
            self.clock.forward(8 * 86400)
            self.assertIsNotNone(people.person_of(self.shop, used))
        self.assertIsNone(people.person_of(self.shop, idle))
        for _ in range(2):
            self.clock.forward(8 * 86400)
            found = people.person_of(self.shop, used)
        self.assertIsNone(found)

    def test_a_password_is_one_however_a_keyboard_composes_it_also_one_kept_before(self) -> None:
        for kept in ("čajník ﬁfty kettles", "c\u030cajni\u0301k fifty kettles"):
            digest = people.hash_password(kept)
            for typed in (
                "čajník ﬁfty kettles",
                "c\u030cajni\u0301k \ufb01fty kettles",
                "čajník fifty kettles",
            ):
                self.assertTrue(people.verify_password(digest, typed), (kept, typed))
        older = people._hasher().hash("čajník ﬁfty kettles")
        self.assertTrue(people.verify_password(older, "c\u030cajni\u0301k ﬁfty kettles"))
        self.assertFalse(people.verify_password(older, "cajnik fifty kettles"))

    def test_signing_in_ends_the_session_that_the_browser_had(self) -> None:
        before = self.sign_in().token
        after = people.sign_in(self.shop, "ines@bench.example", RIGHT, "10.0.0.1", "", before).token
        self.assertIsNone(people.person_of(self.shop, before))
        self.assertIsNotNone(people.person_of(self.shop, after))

    def test_whoever_is_suspended_comes_in_no_more(self) -> None:
        token = self.sign_in().token
        people.suspend(self.shop, self.me)
        self.assertIsNone(people.person_of(self.shop, token))
        with self.assertRaisesRegex(Refused, "do not belong together"):
            self.sign_in()
        people.suspend(self.shop, self.me, False)
        self.assertIsNotNone(people.person_of(self.shop, self.sign_in().token))

    def test_the_database_keeps_no_token_and_no_password(self) -> None:
        token = self.sign_in().token
        data = (self.folder / "data" / "mobbet.db").read_bytes() + (
            self.folder / "data" / "mobbet.db-wal"
        ).read_bytes()
        self.assertNotIn(token.encode(), data)
        self.assertNotIn(RIGHT.encode(), data)
        self.assertIn("$argon2id$", people.hash_password("x"))

    def test_a_wrong_password_and_an_unknown_person_get_the_same_sentence(self) -> None:
        for email in ("ines@bench.example", "nobody@bench.example"):
            with self.subTest(email), self.assertRaisesRegex(Refused, "do not belong together"):
                self.sign_in(WRONG, email)

    def test_an_address_that_nobody_can_have_is_refused_without_hashing(self) -> None:
        with (
            mock.patch.object(people, "verify_password") as verify,
            self.assertRaisesRegex(Refused, "do not belong together"),
        ):
            self.sign_in(WRONG, "a@" + "." * 14_000 + "@")
        verify.assert_not_called()

    def test_failures_slow_down_and_tell_for_how_long(self) -> None:
        for _ in range(5):
            with self.assertRaises(Refused):
                self.sign_in(WRONG)
        with self.assertRaisesRegex(TooSoon, "wait 5 seconds and try again"):
            self.sign_in()
        self.clock.forward(5)
        with self.assertRaises(Refused):
            self.sign_in(WRONG)
        with self.assertRaisesRegex(TooSoon, "wait 10 seconds"):
            self.sign_in()
        self.clock.forward(10)
        self.sign_in()
        self.sign_in()

    def test_one_network_address_is_slowed_over_all_accounts(self) -> None:
        for number in range(30):
            with self.assertRaises(Refused):
                self.sign_in(WRONG, f"person{number}@bench.example")
        with self.assertRaises(TooSoon):
            self.sign_in()
        self.sign_in(address="10.0.0.2")

    def test_a_new_password_ends_the_other_sessions(self) -> None:
        mine, other = self.sign_in().token, self.sign_in().token
        with self.assertRaisesRegex(BadInput, "present password is not right"):
            people.change_password(self.shop, self.me, WRONG, "another long password", mine)
        with self.assertRaisesRegex(BadInput, "has 5 characters; use at least 15"):
            people.change_password(self.shop, self.me, RIGHT, "short", mine)
        people.change_password(self.shop, self.me, RIGHT, "another long password", mine)
        self.assertIsNotNone(people.person_of(self.shop, mine))
        self.assertIsNone(people.person_of(self.shop, other))
        self.sign_in("another long password")


class PacingTests(SignInCase):
    def tries(self, count: int, **where: str) -> None:
        for _ in range(count):
            with self.assertRaises(Refused):
                self.sign_in(WRONG, **where)

    def test_tries_at_once_are_counted_one_by_one(self) -> None:
        outcomes = []

        def one(number: int) -> None:
            try:
                self.sign_in(WRONG)
            except TooSoon:
                outcomes.append("slowed")
            except Refused:
                outcomes.append("looked at")
            finally:
                self.shop.db.close()

        with ThreadPoolExecutor(20) as pool:
            list(pool.map(one, range(38)))
        self.assertLessEqual(outcomes.count("looked at"), 5)
        self.assertEqual(len(outcomes), 38)

    def test_a_device_that_signed_in_before_passes_whatever_others_tried(self) -> None:
        device = self.sign_in().device
        for number in range(70):
            self.clock.forward(1)
            try:
                self.sign_in(WRONG, address=f"198.51.100.{number}")
            except Refused:
                pass
        self.tries(5)
        with self.assertRaises(TooSoon):
            self.sign_in(address="203.0.113.1")
        self.assertEqual(
            people.sign_in(self.shop, "ines@bench.example", RIGHT, "10.0.0.1", device).device, device
        )

    def test_a_device_of_somebody_else_is_none(self) -> None:
        other = people.add_person(
            self.shop, name="Petra", email="petra@bench.example", password="another long password"
        )
        device = people.sign_in(self.shop, "petra@bench.example", "another long password", "10.0.0.9").device
        self.tries(5)
        with self.assertRaises(TooSoon):
            people.sign_in(self.shop, "ines@bench.example", RIGHT, "10.0.0.1", device)
        self.assertEqual(other.name, "Petra")

    def test_one_network_of_ipv6_is_one_client(self) -> None:
        for number in range(5):
            self.tries(1, address=f"2001:db8:1:2::{number}")
        with self.assertRaises(TooSoon):
            self.sign_in(address="2001:db8:1:2:ffff::9")
        self.sign_in(address="2001:db8:1:3::9")


class SetUpTests(ShopCase):
    def test_the_first_run_happens_once(self) -> None:
        with self.assertRaisesRegex(Refused, "has its first blog already"):
            blogs.set_up(
                self.shop,
                name="A",
                email="a@b.example",
                password="a kettle of rust",
                blog="B",
                address="b",
                zone="UTC",
                home="http://b.example",
            )

    def test_wrong_values_are_named(self) -> None:
        good = {"name": "Other", "address": "other", "zone": "UTC", "home": "https://o.example"}
        for field, value, message in (
            ("name", " ", "name is missing"), ("address", "bench", "belongs to another blog"), ("address", "no good!", "cannot be part of an address"),
            ("zone", "Mars/North", "no time zone"), ("home", "o.example", "no address of a site"), ("look", "neon", "There is no look “neon”"),
        ):  # fmt: skip
            with self.subTest(field), self.assertRaisesRegex(Refused, message):
                blogs.make_blog(self.shop, self.me, **{**good, field: value})

    def test_only_the_owner_changes_the_blog(self) -> None:
        writer = people.add_person(self.shop, name="Petra", email="p@bench.example", password=None)
        blogs.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaisesRegex(NotAllowed, "Only the owner"):
            house_facts.try_fact(self.shop, writer, "bench", "name", "X")
        for field, value, message in (
            ("posts_on_page", "0", "from 1 to 100"),
            ("posts_on_page", "many", "no number"),
            ("tagline", "x" * 161, "longer than 160"),
            ("zone", "Nowhere/Land", "Nowhere/Land"),
            ("language", "", "choose one"),
            ("fact", "phone", "no fact"),
            ("link_rule", "shop.example cheap", "has no rule"),
            ("kitchen", "x", "nothing of a house"),
        ):
            with self.subTest(value), self.assertRaisesRegex(BadInput, message):
                house_facts.try_fact(self.shop, self.me, "bench", field, value)
        with self.assertRaisesRegex(BadInput, "is no role"):
            blogs.add_member(self.shop, self.blog, writer, "king")

    def test_a_person_is_known_by_one_address(self) -> None:
        with self.assertRaisesRegex(Refused, "is here already"):
            people.add_person(self.shop, name="I", email="INES@bench.example", password=None)
        with self.assertRaisesRegex(BadInput, "is no e-mail address"):
            people.add_person(self.shop, name="I", email="ines", password=None)
        self.assertEqual(self.me.initials, "IF")
        self.assertEqual(self.me.made_at, NOW)

import re

import pyotp

from mobbet.actions import factors, members, people
from mobbet.core.values import existing
from mobbet.store import people as people_store
from mobbet.web.shell.cookies import SESSION
from tests.web.test_web import WebCase

PASSWORD = "a long password"


class SigningInTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.secret = factors.new_secret()
        self.as_(self.me)

    def code(self) -> str:
        return pyotp.TOTP(self.secret).at(self.clock())

    def turn_on(self) -> None:
        factors.turn_codes_on(self.shop, self.me, self.secret, self.code())
        self.clock.forward(60)

    def test_a_sign_in_with_a_second_factor_goes_on_to_where_one_wanted_to(self) -> None:
        self.turn_on()
        self.as_(None)
        page = self.post("/sign-in", email=self.me.email, password=PASSWORD, then="/account")
        self.assertIn("One more proof", page.text)
        token = existing(re.search(r'name="token" value="([^"]+)"', page.text))[1]
        self.assertEqual(self.post("/sign-in/code", token=token, code="000000").status_code, 422)
        answer = self.post("/sign-in/code", token=token, code=self.code(), then="/account")
        self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/account"))
        self.assertEqual(self.get("/account").status_code, 200)
        self.assertEqual(
            self.post("/sign-in/code", token=token, code=self.code()).headers["location"], "/sign-in"
        )

    def test_a_path_of_another_site_is_nowhere_to_go_on_to(self) -> None:
        self.turn_on()
        self.as_(None)
        page = self.post("/sign-in", email=self.me.email, password=PASSWORD)
        token = existing(re.search(r'name="token" value="([^"]+)"', page.text))[1]
        answer = self.post("/sign-in/code", token=token, code=self.code(), then="//away.example/")
        self.assertEqual(answer.headers["location"], "/")

    def test_what_matters_asks_once_more_and_then_goes_on_with_what_was_typed(self) -> None:
        self.clock.forward(3600)
        page = self.post(
            "/desk/bench/site/people/invite", email="nell@away.example", role="writer", blog="bench"
        )
        self.assertEqual(page.status_code, 403)
        self.assertIn('name="email" value="nell@away.example"', page.text)
        path = existing(re.search(r'action="(/account/again[^"]+)"', page.text))[1].replace("&amp;", "&")
        form = {"email": "nell@away.example", "role": "writer", "blog": "bench"}
        self.assertEqual(self.post(path, **form, again_password="a wrong password").status_code, 422)
        answer = self.post(path, **form, again_password=PASSWORD)
        self.assertEqual(
            (answer.status_code, answer.headers["location"]), (307, "/desk/bench/site/people/invite")
        )
        self.assertEqual(self.post("/desk/bench/site/people/invite", **form).status_code, 303)

    def test_whoever_lacks_the_factor_that_a_blog_asks_for_comes_to_set_it_up(self) -> None:
        self.turn_on()
        members.set_factor_roles(self.shop, self.me, "bench", "owner")
        self.assertEqual(self.get("/desk/bench").status_code, 200)
        factors.turn_off(self.shop, self.me, None)
        answer = self.get("/desk/bench")
        self.assertEqual(answer.headers["location"], "/account/signing-in?told=required")
        self.assertEqual(self.post("/desk/bench/posts").status_code, 403)
        self.assertEqual(self.get("/account/signing-in").status_code, 200)

    def test_codes_are_set_up_on_the_screen(self) -> None:
        page = self.post("/account/signing-in/codes").text
        self.secret = existing(re.search(r'name="secret" value="(\w+)"', page))[1]
        wrong = self.post("/account/signing-in/codes-on", secret=self.secret, code="123")
        self.assertEqual((wrong.status_code, self.secret in wrong.text), (422, True))
        self.assertIn(
            "Your recovery codes",
            self.post("/account/signing-in/codes-on", secret=self.secret, code=self.code()).text,
        )

    def test_a_forgotten_password_answers_the_same_for_everybody(self) -> None:
        self.as_(None)
        one, other = (
            self.post("/sign-in/forgotten", email=email) for email in (self.me.email, "nobody@away.example")
        )
        self.assertEqual(one.text.replace(self.me.email, "X"), other.text.replace("nobody@away.example", "X"))
        self.assertEqual(self.get("/password/guess").status_code, 410)

    def test_a_passkey_that_nobody_has_signs_nobody_in(self) -> None:
        self.as_(None)
        asked = self.post("/sign-in/passkey-question").json()
        answer = self.ask(
            "POST",
            "/sign-in/passkey",
            json={"ask": asked["ask"], "answer": {"id": "nobody", "rawId": "bm9ib2R5"}},
        )
        self.assertEqual(answer.status_code, 422)
        again = self.ask("POST", "/sign-in/passkey", json={"ask": asked["ask"], "answer": {}})
        self.assertIn("took too long", again.text)

    def test_a_session_ended_elsewhere_is_over_here(self) -> None:
        other = people.begin_session(self.shop, existing(people_store.by_id(self.shop.db, self.me.id)))
        self.post("/account/signing-in/end", key="others")
        self.cookies.set(SESSION, other.token, domain="mobbet.example")
        self.assertEqual(self.get("/account").status_code, 303)

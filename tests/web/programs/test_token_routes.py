"""How a program is allowed to write, and how that ends."""

from __future__ import annotations

from mobbet.core.programs import UNUSED_SECONDS
from mobbet.services.contracts import OtherPage
from mobbet.services.stand_ins.pages import ScriptedPages
from tests.web.programs.asking import CLIENT, HOME, REDIRECT, ProgramCase


class AllowingTests(ProgramCase):
    def setUp(self) -> None:
        super().setUp()
        self.pages = self.shop.services.pages = ScriptedPages()
        self.sign_in()

    def test_everything_is_found_from_the_front_page(self) -> None:
        front = self.get("/b/bench/").text
        for rel, name in (
            ("indieauth-metadata", "programs"),
            ("authorization_endpoint", "allow"),
            ("token_endpoint", "token"),
            ("micropub", "micropub"),
        ):
            with self.subTest(rel=rel):
                self.assertIn(f'<link rel="{rel}" href="', front)
                self.assertIn(f'/~/{name}">', front)
        found = self.at("GET", "programs").json()
        self.assertEqual((found["issuer"], found["code_challenge_methods_supported"]), (f"{HOME}/", ["S256"]))
        self.assertTrue(found["authorization_endpoint"].startswith(found["issuer"]))

    def test_the_screen_says_who_asks_for_what(self) -> None:
        self.pages.pages[CLIENT] = OtherPage(CLIENT, 200, "text/html", [], b"<title>The pencil</title>")
        led = self.ask("GET", "/b/bench/~/allow", params=self.asked())
        self.assertEqual(led.status_code, 303)
        screen = self.get("/allow?" + led.headers["location"].partition("?")[2])
        self.assertEqual(screen.status_code, 200)
        for words in ("May The pencil write for you?", "change posts", CLIENT, "pencil.example"):
            self.assertIn(words, screen.text)

    def test_a_stranger_signs_in_first(self) -> None:
        self.as_(None)
        self.assertEqual(self.ask("GET", "/allow", params=self.asked()).status_code, 303)

    def test_nobody_is_sent_to_a_place_that_is_not_of_the_program(self) -> None:
        for answer in (
            self.ask("GET", "/allow", params=self.asked(redirect_uri="https://thief.example/")),
            self.post(
                "/allow",
                **self.asked(redirect_uri="https://thief.example/"),
                blog="bench",
                allowed=["create"],
            ),
        ):
            self.assertEqual(answer.status_code, 400)
            self.assertNotIn("location", answer.headers)
            self.assertIn("does not name as its own", answer.text)

    def test_a_person_may_say_no_or_allow_less(self) -> None:
        self.assertIn(
            "error=access_denied",
            self.post("/allow", **self.asked(), blog="bench", no="1").headers["location"],
        )
        code = (
            self.post("/allow", **self.asked(), blog="bench", allowed=["draft", "update", "read"])
            .headers["location"]
            .partition("code=")[2]
            .partition("&")[0]
        )
        self.assertEqual(self.exchange(code).json()["scope"], "update")

    def test_another_site_cannot_allow_for_somebody(self) -> None:
        answer = self.ask(
            "POST",
            "/allow",
            {"origin": "https://thief.example"},
            data={**self.asked(), "blog": "bench", "allowed": "create"},
        )
        self.assertEqual(answer.status_code, 403)

    def test_a_code_is_good_once_for_its_program_and_not_for_long(self) -> None:
        for more in (
            {"client_id": "https://thief.example/"},
            {"redirect_uri": REDIRECT + "2"},
            {"code_verifier": "x" * 50},
            {"grant_type": "password"},
        ):
            with self.subTest(more=more):
                answer = self.exchange(self.code_for("create"), **more)
                self.assertEqual(answer.status_code, 400)
                self.assertIn(answer.json()["error"], ("invalid_grant", "unsupported_grant_type"))
        code = self.code_for("create")
        self.clock.forward(400)
        self.assertEqual(self.exchange(code).json()["error"], "invalid_grant")

    def test_a_code_that_comes_twice_ends_the_token(self) -> None:
        code = self.code_for("create")
        token = self.exchange(code).json()["access_token"]
        self.assertEqual(self.exchange(code).status_code, 400)
        self.assertEqual(self.at("GET", "micropub", token, params={"q": "config"}).status_code, 401)

    def test_a_code_without_scopes_only_says_who_somebody_is(self) -> None:
        answer = self.post("/allow", **self.asked(scope=""), blog="bench")
        code = answer.headers["location"].partition("code=")[2].partition("&")[0]
        form = {
            "code": code,
            "client_id": CLIENT,
            "redirect_uri": REDIRECT,
            "code_verifier": "a-verifier-that-is-long-enough-for-the-standard-0123456789",
        }
        self.assertEqual(self.at("POST", "allow", data=form).json(), {"me": f"{HOME}/"})

    def test_the_answer_to_a_code_is_never_kept(self) -> None:
        answer = self.exchange(self.code_for("create profile"))
        self.assertEqual(answer.headers["cache-control"], "no-store")
        self.assertEqual(
            (answer.json()["token_type"], answer.json()["me"], answer.json()["profile"]["name"]),
            ("Bearer", f"{HOME}/", "Ines Farrow"),
        )


class EndingTests(ProgramCase):
    def works(self, token: str | None = None) -> bool:
        return self.at("GET", "micropub", token or self.token, params={"q": "config"}).status_code == 200

    def test_a_program_looks_at_its_token_and_ends_it(self) -> None:
        self.assertEqual(
            self.at("GET", "token", self.token).json(),
            {"me": f"{HOME}/", "client_id": CLIENT, "scope": "create update delete undelete media"},
        )
        self.assertTrue(
            self.at("POST", "introspect", self.token, data={"token": self.token}).json()["active"]
        )
        self.assertEqual(
            self.at("POST", "introspect", self.token, data={"token": "x"}).json(), {"active": False}
        )
        self.assertEqual(self.at("POST", "introspect", data={"token": self.token}).status_code, 401)
        self.assertEqual(self.at("POST", "revoke", data={"token": self.token}).status_code, 200)
        self.assertFalse(self.works())

    def test_its_person_ends_it_at_account(self) -> None:
        self.sign_in()
        screen = self.get("/account/programs").text
        self.assertIn("pencil.example", screen)
        self.assertEqual(self.post("/account/programs/end", number="1").status_code, 303)
        self.assertFalse(self.works())
        self.assertEqual(self.post("/account/programs/end", number="1").status_code, 404)

    def test_one_that_is_not_used_for_long_ends(self) -> None:
        self.clock.forward(UNUSED_SECONDS + 1)
        self.assertFalse(self.works())

    def test_a_token_is_made_by_hand_and_shown_once(self) -> None:
        self.sign_in()
        self.assertIn(
            "may do nothing yet", self.post("/account/programs/make", name="A script", blog="bench").text
        )
        shown = self.post(
            "/account/programs/make", name="A script", blog="bench", allowed=["read", "create"]
        ).text
        token = shown.partition('<b class="path">')[2].partition("<")[0]
        self.assertNotIn(token, self.get("/account/programs").text)
        self.as_(None)
        self.assertTrue(self.works(token))

    def test_nobody_ends_or_sees_a_program_of_somebody_else(self) -> None:
        from mobbet.actions import people
        from mobbet.store import blogs

        other = people.add_person(self.shop, name="Wren", email="wren@bench.example", password=None)
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, self.blog.id, other.id, "editor")
        self.as_(other)
        self.assertNotIn("pencil.example", self.get("/account/programs").text)
        self.assertEqual(self.post("/account/programs/end", number="1").status_code, 404)
        self.assertTrue(self.works())

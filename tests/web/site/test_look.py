"""The screen of a blog's look."""

from __future__ import annotations

import json
import re
from typing import Any

from mobbet.actions import blogs as blog_actions
from mobbet.actions import looks, people
from mobbet.core.look.begun import begun_look
from mobbet.core.look.look import look_file, read_look_file
from mobbet.store import house
from tests.web.test_web import WebCase

LOOK = "/desk/bench/site/look"


class LookScreenCase(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("A lamp", date="2026-01-01")
        self.as_(self.me)

    def tried(self) -> dict[str, Any]:
        return json.loads(house.tried(self.shop.db, self.blog.id, "look") or "{}")

    def set(self, where: str, value: str) -> Any:
        return self.post(f"{LOOK}/set", where=where, value=value)


class TryingTests(LookScreenCase):
    def test_each_kind_of_word_is_tried(self) -> None:
        for where, value, found in (
            ("letters.text", "vollkorn", lambda look: look["letters"]["text"] == "vollkorn"),
            ("letters.size", "19", lambda look: look["letters"]["size"] == 19),
            ("light.accent", "5b2a5e", lambda look: look["light"]["accent"] == "#5b2a5e"),
            ("dark", "chosen", lambda look: look["dark"]["paper"].startswith("#1")),
            ("dark.accent", "#ffaa88", lambda look: look["dark"]["accent"] == "#ffaa88"),
            ("front.shows", "sheet", lambda look: look["front"]["shows"] == "sheet"),
        ):
            with self.subTest(where):
                self.assertEqual(self.set(where, value).status_code, 303)
                self.assertTrue(found(self.tried()))

    def test_nonsense_is_refused_in_a_sentence(self) -> None:
        for where, value, told in (
            ("light.accent", "rust", "“light.accent” cannot be “rust”: write six digits"),
            ("letters.size", "many", "“many” cannot be set here; write a whole number from 14 to 24."),
            ("letters.size", "99", "write a whole number from 14 to 24."),
            ("front.shows", "wall", "“front.shows” cannot be “wall”"),
            ("letters.secret", "x", "A look has nothing called “letters.secret”"),
            ("light.accent.x", "#ffffff", "A look has nothing called"),
            ("", "", "A look has nothing called"),
        ):
            with self.subTest(f"{where} {value}"):
                answer = self.set(where, value)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(told, answer.text)
        self.assertEqual(self.tried(), {})

    def test_the_screen_says_that_it_is_tried_and_what_giving_it_alters(self) -> None:
        self.assertIn("Readers have this look since", self.get(LOOK).text)
        self.set("light.accent", "#5b2a5e")
        self.assertIn("Tried here only.", self.get(LOOK).text)
        self.assertIn("every page, by its style sheet", self.get(f"{LOOK}/effect").text)
        self.set("letters.text", "alegreya")
        self.assertRegex(self.get(f"{LOOK}/effect").text, r": \d+ pages")

    def test_what_cannot_be_read_is_offered_its_nearest_colour(self) -> None:
        self.set("light.accent", "#e0a080")
        screen = self.get(LOOK).text
        self.assertIn("Links and accents, in the light: 2.", screen)
        refused = self.post(f"{LOOK}/give")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("cannot be read by everyone", refused.text)
        nearest = re.search(r'value="(#[0-9a-f]{6})" aria-label="Take ', screen)
        self.set("light.accent", nearest[1])
        self.assertIn("pairs can be read.", self.get(LOOK).text)
        self.assertEqual(self.post(f"{LOOK}/give").status_code, 303)

    def test_pages_are_shown_with_it_before_any_reader_has_it(self) -> None:
        self.set("light.accent", "#5b2a5e")
        shown = {
            which: self.get(f"{LOOK}/as/{which}/light/site/look.css").text for which in ("tried", "given")
        }
        self.assertIn("#5b2a5e", shown["tried"])
        self.assertNotIn("#5b2a5e", shown["given"])
        self.assertNotIn("prefers-color-scheme", self.get(f"{LOOK}/as/tried/dark/site/look.css").text)
        self.assertIn("A lamp", self.get(f"{LOOK}/as/tried/light/site/").text)
        self.assertEqual(self.get(f"{LOOK}/as/secret/light/site/").status_code, 404)


class FileTests(LookScreenCase):
    def read(self, body: bytes) -> int:
        return self.ask("POST", f"{LOOK}/read", files={"file": ("look.json", body)}).status_code

    def test_a_look_is_saved_and_read(self) -> None:
        self.post(f"{LOOK}/begin", name="ledger")
        saved = self.get(f"{LOOK}/file")
        self.assertIn('attachment; filename="bench-look.json"', saved.headers["content-disposition"])
        self.assertEqual(read_look_file(saved.text), read_look_file(begun_look("ledger")))
        self.assertEqual(self.read(look_file(read_look_file(begun_look("harbour"))).encode()), 303)
        self.assertEqual(self.tried()["name"], "Harbour news")

    def test_files_that_are_no_look_are_refused(self) -> None:
        for body in (b"", b"\xff\xfe", b"{", b"[]", b"x" * 70_000):
            with self.subTest(body[:5]):
                self.assertEqual(self.read(body), 422)

    def test_the_look_of_another_of_ones_blogs_is_taken(self) -> None:
        blog_actions.make_blog(
            self.shop, self.me, name="Log", address="log", zone="UTC", home="https://log.example/", look="ferry"
        )  # fmt: skip
        self.post(f"{LOOK}/copy", blog="log")
        self.assertEqual(self.tried()["name"], "Ferry")
        self.assertEqual(self.post(f"{LOOK}/copy", blog="nobodys").status_code, 404)


class GivingTests(LookScreenCase):
    def test_it_is_given_put_back_and_undone(self) -> None:
        self.post(f"{LOOK}/begin", name="lamplight")
        self.assertEqual(self.post(f"{LOOK}/put-back").headers["location"], f"{LOOK}?told=back")
        self.post(f"{LOOK}/begin", name="lamplight")
        self.clock.forward(60)
        self.assertEqual(self.post(f"{LOOK}/give").status_code, 303)
        self.assertEqual(looks.given(self.shop, self.blog).name, "Lamplight")
        self.assertIn("Undo the last look given", self.get(LOOK).text)
        self.clock.forward(60)
        self.post(f"{LOOK}/undo")
        self.assertEqual(looks.given(self.shop, self.blog).name, "Bench")
        self.assertEqual(self.post(f"{LOOK}/give").status_code, 422)

    def test_nobody_but_the_owner_gets_there(self) -> None:
        editor = people.add_person(self.shop, name="Tomas", email="tomas@bench.example", password=None)
        blog_actions.add_member(self.shop, self.blog, editor, "editor")
        self.as_(editor)
        self.assertEqual(self.get(LOOK).status_code, 403)
        for part in ("set", "begin", "copy", "read", "put-back", "undo", "give"):
            self.assertEqual(self.post(f"{LOOK}/{part}", blog="bench").status_code, 403, part)

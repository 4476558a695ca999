"""What every answer of the application does, whatever it is about."""

from tests.web.test_web import WebCase


class AnswerTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_head_is_answered_wherever_get_is(self) -> None:
        for path in ("/sign-in", "/desk/bench", "/desk/bench/timetable.ics"):
            with self.subTest(path):
                whole, head = self.get(path), self.ask("HEAD", path)
                self.assertEqual((head.status_code, head.content), (whole.status_code, b""))
                self.assertEqual(head.headers["content-type"], whole.headers["content-type"])

    def test_what_cannot_be_done_says_what_can(self) -> None:
        answer = self.ask("DELETE", "/desk/bench")
        self.assertEqual((answer.status_code, answer.headers["allow"]), (405, "GET"))

    def test_answers_are_packed_for_those_who_take_them_so(self) -> None:
        self.assertEqual(
            self.ask("GET", "/desk/bench", headers={"accept-encoding": "gzip"}).headers["content-encoding"],
            "gzip",
        )
        plain = self.ask("GET", "/desk/bench", headers={"accept-encoding": "identity"})
        self.assertNotIn("content-encoding", plain.headers)

    def test_a_web_address_that_is_none_is_refused_and_kept_as_typed(self) -> None:
        refused = self.post("/account/web-address", web_address="http://[x/")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("“http://[x/” is no web address", refused.text)
        self.assertIn('value="http://[x/"', refused.text)
        self.post("/account/web-address", web_address="https://ines.example/")
        self.assertIn('value="https://ines.example/"', self.get("/account").text)

    def test_another_blog_is_made_from_ones_own(self) -> None:
        screen = self.get("/blogs/new").text
        self.assertIn('<option value="bench" selected>', screen)
        refused = self.post("/blogs/new", blog="Log", address="bench", zone="UTC", language="en")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("belongs to another blog", refused.text)
        self.assertIn('value="Log"', refused.text)
        made = self.post(
            "/blogs/new",
            blog="The Ferry Log",
            zone="Atlantic/Azores",
            language="pt",
            source="bench",
            parts=["look", "rules"],
        )
        self.assertEqual(made.headers["location"], "/desk/the-ferry-log")
        self.assertIn("New blog…", self.get("/desk/the-ferry-log").text)

    def test_an_edition_that_never_was_has_no_pages(self) -> None:
        self.assertEqual(self.get("/desk/bench/edition/9999/site/").status_code, 404)

    def test_the_screens_are_light_or_dark_by_choice(self) -> None:
        self.assertNotIn("data-theme", self.get("/desk/bench").text)
        self.post("/account/theme", value="dark")
        self.assertIn('class="bar" data-theme="dark"', self.get("/desk/bench").text)
        refused = self.post("/account/theme", value="sepia")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("“sepia” is no way to show the screens", refused.text)

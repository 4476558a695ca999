"""A site that is closed: 503 with a kind page, and its people alone where the owner says so."""

from mobbet.actions import blog_states, people
from tests.web.test_web import WebCase


class ClosedTests(WebCase):
    def prepare(self) -> None:
        super().prepare()
        self.write("A lamp", date="2026-01-01")
        self.publish()

    def close(self, state: str) -> None:
        blog_states.close(self.shop, self.me, "bench", state)

    def test_every_address_of_a_closed_site_says_so_and_nothing_else(self) -> None:
        self.close("closed")
        for path in (
            "",
            "posts/a-lamp/",
            "feed.atom",
            "sitemap.xml",
            "nowhere/",
            "~/comment/1",
            "media/x.png",
        ):
            answer = self.get(f"/b/bench/{path}")
            with self.subTest(path):
                self.assertIn(answer.status_code, (503, 404) if path.startswith("~") else (503,))
                self.assertNotIn("A lamp", answer.text)
        answer = self.get("/b/bench/")
        self.assertIn("Please look in again some other day.", answer.text)
        self.assertEqual(
            (answer.headers["retry-after"], answer.headers["cache-control"]), ("3600", "private, no-store")
        )
        self.assertEqual(self.get("/b/bench/look.css").status_code, 200)
        self.sign_in()
        self.assertEqual(self.get("/b/bench/").status_code, 503)
        self.close("")
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 200)

    def test_those_who_work_on_it_see_it_where_the_owner_says_so(self) -> None:
        self.close("people")
        self.assertIn("This site is not open yet.", self.get("/b/bench/").text)
        self.as_(
            people.add_person(self.shop, name="Otto", email="o@x.example", password="a very long password")
        )
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 503)
        self.as_(None)
        self.sign_in()
        self.assertIn("Some words.", self.get("/b/bench/posts/a-lamp/").text)

    def test_the_owner_closes_it_sets_it_aside_and_brings_it_back_on_the_screens(self) -> None:
        self.sign_in()
        self.post("/desk/bench/site/house/close", value="people")
        self.assertIn("open to those who work on it", self.get("/desk/bench/site").text)
        refused = self.post("/desk/bench/site/house/aside")
        self.assertIn("is the only blog here; close it instead", refused.text)
        self.post("/blogs/new", blog="Log", address="log", zone="UTC", language="en")
        self.post("/desk/bench/site/house/aside")
        self.assertEqual(self.get("/b/bench/").status_code, 404)
        self.assertIn("The Bench, kept until", self.get("/blogs/new").text)
        self.post("/blogs/back", slug="bench")
        self.assertEqual(self.get("/desk/bench").status_code, 200)

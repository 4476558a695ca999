"""The strip on public pages: for those who work on the blog alone, and no part of the edition."""

from mobbet.actions import blogs, people
from mobbet.store import editions
from tests.web.test_web import WebCase

PAGE = "/b/bench/posts/a-lamp/"


class StripTests(WebCase):
    def prepare(self) -> None:
        super().prepare()
        self.write("A lamp", date="2026-01-01")
        self.publish()

    def member(self, name: str, role: str = "") -> object:
        email = f"{name.lower()}@bench.example"
        found = people.add_person(self.shop, name=name, email=email, password="a very long password")
        if role:
            blogs.add_member(self.shop, self.blog, found, role)
        return found

    def test_whoever_may_write_on_a_post_finds_the_way_there(self) -> None:
        plain = self.get(PAGE)
        self.sign_in()
        seen = self.get(PAGE)
        self.assertIn('<a href="/posts/1">Write on it</a>', seen.text)
        self.assertIn('action="/desk/bench/posts"', seen.text)
        self.assertEqual(seen.headers["cache-control"], "private, no-store")
        self.assertIn("form-action 'self'", seen.headers["content-security-policy"])
        self.assertNotIn("etag", seen.headers)
        self.assertNotIn("Write on it", self.get("/b/bench/").text)
        self.assertIn("New post", self.get("/b/bench/").text)
        row = editions.page_at(self.shop.db, self.blog.id, "/posts/a-lamp/")
        self.assertEqual(self.body(row), plain.content)

    def test_readers_and_people_of_other_blogs_get_none(self) -> None:
        self.assertNotIn("of-the-house", self.get(PAGE).text)
        self.as_(self.member("Otto"))
        self.assertNotIn("of-the-house", self.get(PAGE).text)

    def test_a_writer_is_offered_a_new_post_and_not_a_colleagues(self) -> None:
        self.as_(self.member("Petra", "writer"))
        seen = self.get(PAGE).text
        self.assertIn("New post", seen)
        self.assertNotIn("Write on it", seen)

    def test_a_cookie_that_nobody_has_gets_the_page_as_it_is(self) -> None:
        plain = self.get(PAGE).content
        self.assertEqual(self.ask("GET", PAGE, headers={"cookie": "mobbet_session=nonsense"}).content, plain)

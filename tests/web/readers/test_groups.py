"""A group shows which posts are for it now."""

from mobbet.actions import docket_lines, placing, readers
from tests.web.test_web import WebCase


class GroupTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.group = readers.make_group(self.shop, self.me, self.blog, "Friends")

    def screen(self) -> str:
        return self.get("/desk/bench/readers?group=1").text

    def test_the_posts_that_are_for_it_now_are_named_and_led_to(self) -> None:
        self.assertIn("No post is for this group yet", self.screen())
        post = self.write("A party", date="2026-11-01", visibility="group:Friends")
        self.write("For all", date="2026-11-01")
        self.assertRegex(self.screen(), rf'For this group now: <a href="/posts/{post.id}">A party</a>\.')
        docket_lines.set_visibility(self.shop, self.me, post.id, "everyone")
        placing.place(self.shop, self.me, post.id)
        self.assertIn("No post is for this group yet", self.screen())

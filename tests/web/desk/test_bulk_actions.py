from mobbet.actions import post_states
from mobbet.store import posts
from tests.web.test_web import WebCase


class HandlingRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.lamp = self.write("A lamp", date="2026-11-01").id
        self.publish()

    def test_the_footprint_is_shown_before_and_the_change_is_undone_after(self) -> None:
        shown = self.get(f"/desk/bench/several/withdraw?post={self.lamp}").text
        self.assertIn("If you go on: 1 post is withdrawn.", shown)
        self.assertIn("Footprint ·", shown)
        self.assertIn("Withdraw it", shown)
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 200)
        told = self.get(
            self.post("/desk/bench/several/withdraw", post=str(self.lamp)).headers["location"]
        ).text
        self.assertIn("1 post is withdrawn.", told)
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 410)
        self.assertIn(
            "Undone: 1 post is withdrawn.",
            self.get(self.post("/desk/bench/several/undo/1").headers["location"]).text,
        )
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 200)

    def test_what_is_asked_for_is_asked_and_what_was_typed_stays(self) -> None:
        draft = self.write("A draft").id
        asked = self.get(f"/desk/bench/several/place?post={draft}").text
        self.assertRegex(asked, r'value="queue" checked')
        self.assertEqual(asked.count(" checked"), 1)
        answer = self.get(f"/desk/bench/several/place?post={draft}&said=at&at=someday")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("“someday” is no time", answer.text)
        self.assertIn('value="someday"', answer.text)
        self.assertIn("No time is typed", self.get(f"/desk/bench/several/place?post={draft}&said=at").text)
        self.assertEqual(post_states.state_of(self.shop, posts.by_id(self.shop.db, draft)), "draft")

    def test_nonsense_is_told_in_words(self) -> None:
        self.assertEqual(self.get("/desk/bench/several/eat?post=1").status_code, 404)
        self.assertIn("No post is chosen", self.get("/desk/bench/several/copy").text)
        self.assertEqual(self.post("/desk/bench/several/undo/99").status_code, 404)
        self.assertIn(
            "There is no post with the number 999", self.get("/desk/bench/several/copy?post=999").text
        )

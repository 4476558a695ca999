from dataclasses import replace

from mobbet.actions import comments
from mobbet.actions import targets as target_actions
from mobbet.store import blogs
from mobbet.store import comments as store
from tests.web.test_web import WebCase


class CommentRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        comments.set_rule(self.shop, self.me, "bench", "anyone", "all")
        self.blog = blogs.by_slug(self.shop.db, "bench")
        self.written = self.write("Glue", date="2026-01-01", categories="Lamps")
        self.publish()

    def write_one(self, text: str = "Thank you & good night.", **more: str) -> str:
        return self.post(
            f"/b/bench/~/comment/{self.written.id}", **{"name": "Mira", "text": text, **more}
        ).text

    def waiting(self) -> list[int]:
        return [one.id for one in store.page(self.shop.db, self.blog.id, "waits", 0, 0, 1 << 60, 50)]

    def test_a_reader_writes_a_comment_and_is_told_that_it_waits(self) -> None:
        self.assertIn(f'href="../../~/comment/{self.written.id}"', self.get("/b/bench/lamps/glue/").text)
        self.assertIn(
            "Somebody here reads it before others see it.",
            self.get(f"/b/bench/~/comment/{self.written.id}").text,
        )
        self.assertIn("shown as soon as somebody here has read it", self.write_one())
        self.assertNotIn("good night", self.get("/b/bench/lamps/glue/").text)

    def test_what_was_typed_stays_where_it_is_refused(self) -> None:
        answer = self.write_one("Keep <this>.", email="nonsense")
        for words in (
            "“nonsense” is no e-mail address",
            "Keep &lt;this&gt;.",
            'value="Mira"',
            'value="nonsense"',
        ):
            self.assertIn(words, answer)

    def test_only_those_signed_in_are_asked_where_that_is_the_rule(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", "signed-in", "strangers")
        self.assertIn(
            "People who are signed in comment here.", self.get(f"/b/bench/~/comment/{self.written.id}").text
        )
        self.sign_in()
        self.assertIn(
            "You write as <b>Ines Farrow</b>", self.get(f"/b/bench/~/comment/{self.written.id}").text
        )
        self.assertIn("It stands under the post now", self.write_one())
        self.assertIn("Ines Farrow</b>, of The Bench", self.get("/b/bench/lamps/glue/").text)

    def test_nothing_is_told_of_a_post_that_one_may_not_read(self) -> None:
        draft = self.write("A secret draft")
        for answer in (
            self.get(f"/b/bench/~/comment/{draft.id}"),
            self.post(f"/b/bench/~/comment/{draft.id}", name="M", text="x"),
            self.get("/b/bench/~/comment/999"),
        ):
            self.assertEqual(answer.status_code, 404)
            self.assertNotIn("secret", answer.text)

    def test_they_are_shown_refused_answered_and_undone(self) -> None:
        self.write_one("First.")
        self.write_one("Second.")
        self.sign_in()
        self.assertIn("Two comments wait to be read", self.get("/desk/bench").text)
        self.assertIn("2 comments wait", self.get("/desk/bench/rows", hx_request="true").text)
        first, second = sorted(self.waiting())
        told = self.post(
            "/desk/bench/comments/settle", comment=[first, second], become="shown", state="waits"
        )
        self.assertIn("2 comments are shown now.", self.get(told.headers["location"]).text)
        self.assertIn("Second.", self.get("/b/bench/lamps/glue/").text)
        self.post("/desk/bench/comments/settle", comment=[second], become="waits", state="shown")
        self.assertNotIn("Second.", self.get("/b/bench/lamps/glue/").text)
        self.post(f"/desk/bench/comments/{second}/answer", text="An answer.", state="waits")
        self.assertIn("An answer.", self.get("/b/bench/lamps/glue/").text)
        self.post("/desk/bench/comments/settle", comment=[first], become="refused", state="shown")
        self.assertIn("Remove it for good", self.get("/desk/bench/comments?state=refused").text)
        self.post("/desk/bench/comments/remove", comment=[first], state="refused")
        self.assertIn("No comment was refused.", self.get("/desk/bench/comments?state=refused").text)
        self.assertIn("1 comment", self.get(f"/posts/{self.written.id}/docket").text)

    def test_nonsense_is_told_in_a_sentence(self) -> None:
        self.write_one()
        self.sign_in()
        for data, words in (
            ({"become": "shown"}, "No comment is chosen"),
            ({"comment": [999], "become": "shown"}, "This comment is no more"),
            ({"comment": self.waiting(), "become": "eaten"}, "“eaten”"),
        ):
            with self.subTest(words):
                answer = self.post("/desk/bench/comments/settle", state="waits", **data)
                self.assertEqual((answer.status_code, words in answer.text), (422, True))
        answer = self.post(f"/desk/bench/comments/{self.waiting()[0]}/answer", text="x" * 5001)
        self.assertIn("5,001 letters", answer.text)
        self.assertIn("x" * 5001, answer.text)
        self.assertEqual(
            self.get("/desk/bench/comments?state=eaten&before=5&did=eaten&ids=1-x").status_code, 200
        )

    def test_where_the_site_lies_outside_it_says_what_comments_need(self) -> None:
        self.sign_in()
        self.assertNotIn("/~/</b>", self.get("/desk/bench/comments").text)
        self.shop.settings = replace(self.shop.settings, folders=(self.folder,))
        target_actions.add(self.shop, self.me, self.blog, f"folder:{self.folder / 'outside'}")
        self.assertIn("hand on what begins with <b>/~/</b>", self.get("/desk/bench/comments").text)

    def test_the_docket_says_and_changes_whether_they_are_open(self) -> None:
        self.sign_in()
        self.assertIn(
            "Change whether readers may comment: open", self.get(f"/posts/{self.written.id}/docket").text
        )
        self.assertIn(
            "Not out yet: whether readers may comment",
            self.post(f"/posts/{self.written.id}/docket/comments", value="closed").text,
        )
        comments.set_rule(self.shop, self.me, "bench", "", "all")
        self.assertNotIn("whether readers may comment: ", self.get(f"/posts/{self.written.id}/docket").text)
        answer = self.get(f"/b/bench/~/comment/{self.written.id}")
        self.assertEqual(
            (
                answer.status_code,
                "Comments are closed</h1>" in answer.text,
                "Nobody writes comments" in answer.text,
            ),
            (403, True, True),
        )

    def test_what_is_refused_for_good_is_typed_kept_and_told_by_name_where_it_cannot_be(self) -> None:
        self.sign_in()
        change = "/desk/bench/comments/blocklist"
        self.post(change, blocklist="cheap pills\ncasino.example")
        self.assertIn("“cheap pills” and 1 more", self.get("/desk/bench/comments").text)
        answer = self.post(change, blocklist="cheap pills\n<bold>\n?")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("“?” would refuse nearly every comment", answer.text)
        self.assertIn("cheap pills\n&lt;bold&gt;\n?</textarea>", answer.text)

    def test_what_was_refused_for_good_stands_among_the_refused_with_the_reason(self) -> None:
        comments.set_blocklist(self.shop, self.me, "bench", "cheap pills")
        self.write_one("Cheap pills!")
        self.assertEqual(self.waiting(), [])
        self.sign_in()
        refused = self.get("/desk/bench/comments?state=refused").text
        self.assertIn("Has “cheap pills”, which is refused for good.", refused)

import re

from mobbet.actions import docket_lines, placing, posts, proofing
from mobbet.core.document.from_markdown import from_markdown
from mobbet.store import posts as post_store
from mobbet.web.write.contexts import DocketPart
from mobbet.web.write.docket import docket_of
from tests.shops import DAY, ShopCase
from tests.web.test_web import WebCase


class DocketTests(ShopCase):
    def docket(self, post: object) -> DocketPart:
        return docket_of(self.shop, self.again(post), self.blog)

    def words(self, post: object, sheet: str) -> str:
        return self.docket(post).settings[sheet].words

    def test_each_line_is_in_the_tense_of_the_state(self) -> None:
        post = self.write("A lamp", date="2026-11-20 09:00", expires="2026-11-22 09:00")
        for forward, state, verb, action in (
            (0, "In the timetable", "Goes out", "Update the timetable"),
            (2 * DAY, "Published", "Went out", "Update what is out"),
            (2 * DAY, "Came down", "Went out", "Publish now"),
        ):
            self.clock.forward(forward)
            docket = self.docket(post)
            with self.subTest(state):
                self.assertEqual(
                    (docket.settings["state"].words, docket.going.verb, docket.actions.main_action),
                    (state, verb, action),
                )

    def test_a_draft_says_what_is_missing(self) -> None:
        post = self.write("A lamp")
        docket = self.docket(post)
        self.assertEqual(docket.settings["goes-out"].words, "when you publish it")
        self.assertEqual(docket.settings["comes-down"].words, "for good")
        self.assertTrue(docket.settings["description"].is_missing and docket.category_words[0].is_missing)
        self.assertEqual((docket.path_start, docket.settings["slug"].words), ("/posts/", "a-lamp"))
        self.assertEqual(docket.actions.main_action, "Publish now")

    def test_accessible_names_say_what_is_changed_and_what_holds(self) -> None:
        post = self.write("A lamp", date="2026-12-24 18:00", categories="Lamps > Wiring")
        docket = self.docket(post)
        self.assertEqual(docket.settings["goes-out"].name, "Change when it goes out: Thu 24 Dec at 18:00")
        self.assertEqual(docket.category_words[0].name, "Change the categories: Wiring")
        self.assertEqual(docket.path_start, "/wiring/")

    def test_what_is_not_out_yet_is_named(self) -> None:
        post = self.write("A lamp", date="2026-01-01")
        self.assertEqual((self.docket(post).changes, self.docket(post).actions.can_place), ([], False))
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="A lamp",
            subtitle="",
            body=from_markdown("New."),
        )
        docket_lines.set_categories(self.shop, self.me, post.id, "", [], "Lamps")
        docket_lines.set_visibility(self.shop, self.me, post.id, "only-me")
        docket_lines.set_time(self.shop, self.me, post.id, "comes_down_wall", "2030-01-01 10:00")
        docket = self.docket(post)
        self.assertEqual(
            docket.changes, ["the text", "who may read it", "when it comes down", "the categories"]
        )
        self.assertTrue(docket.actions.can_place)
        placing.place(self.shop, self.me, post.id)
        self.assertEqual(self.docket(post).changes, [])

    def test_the_state_offers_what_can_be_done_with_it(self) -> None:
        post = self.write("A lamp")
        choices = lambda: [choice.value for choice in self.docket(post).state_choices]  # noqa: E731
        self.assertEqual(choices(), ["set-aside", "begin", "template"])
        placing.place(self.shop, self.me, post.id)
        self.assertEqual(choices(), ["withdraw", "begin"])
        self.clock.forward(60)
        placing.withdraw(self.shop, self.me, post.id)
        placing.set_aside(self.shop, self.me, post.id)
        self.assertEqual(choices(), ["restore", "begin"])
        self.assertFalse(self.docket(post).actions.can_place)

    def test_an_address_that_another_post_has_gets_a_number(self) -> None:
        self.write("A lamp", date="2026-01-01")
        other = self.write("A lamp")
        self.assertEqual(self.words(other, "slug"), "a-lamp-2")

    def test_a_save_that_comes_between_takes_no_text_away_from_it(self) -> None:
        post = self.write("A lamp", "Old words.")
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title="A lamp",
            subtitle="",
            body=from_markdown("New words."),
        )
        self.assertIsNone(post_store.revision(self.shop.db, post.id, post.revision))
        self.assertIn("New words", docket_of(self.shop, post, self.blog).shown.teaser_html)

    def test_nothing_is_asked_for_before_something_is_written(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        docket = self.docket(post)
        self.assertFalse(docket.settings["description"].is_missing or docket.category_words[0].is_missing)
        self.assertEqual(proofing.of_post(self.shop, self.again(post), self.blog), [])

    def test_a_text_that_was_put_back_is_no_change(self) -> None:
        post = self.write("A lamp", "First.", date="2026-01-01")
        for text in ("Second.", "First."):
            posts.save_text(
                self.shop, self.me, post.id, base=self.again(post).revision, title="A lamp", subtitle="", body=from_markdown(text), is_apart=True
            )  # fmt: skip
            self.assertEqual(self.docket(post).changes, ["the text"] if text == "Second." else [])

    def test_the_whole_address_can_be_copied(self) -> None:
        self.assertEqual(self.docket(self.write("A lamp")).address, "https://bench.example/posts/a-lamp/")

    def test_a_scheduled_post_can_be_published_now(self) -> None:
        post = self.write("A lamp", date="2026-12-24 18:00")
        self.assertTrue(self.docket(post).going.can_publish_now)
        self.assertFalse(self.docket(self.write("Another")).going.can_publish_now)


class PlacingRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_a_withdrawal_is_undone_where_it_was_made(self) -> None:
        post = self.write("A lamp", date="2026-01-01")
        answer = self.post(f"/posts/{post.id}/withdraw").text
        self.assertIn("It is withdrawn", answer)
        number = re.search(r'"number": (\d+)', answer)[1]
        self.assertIn(
            "It is as it was before.", self.post(f"/posts/{post.id}/docket/undo-change", number=number).text
        )
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 200)
        self.assertIn(
            "is undone already", self.post(f"/posts/{post.id}/docket/undo-change", number=number).text
        )

    def test_now_goes_before_the_time_of_the_docket(self) -> None:
        post = self.write("A lamp", date="2026-12-24 18:00")
        self.assertIn("Published.", self.post(f"/posts/{post.id}/place", now="yes").text)
        self.assertEqual(self.get("/b/bench/posts/a-lamp/").status_code, 200)

    def test_write_offers_what_is_in_hand_and_a_new_post(self) -> None:
        self.write("A lamp")
        self.write("Out", date="2026-01-01")
        shown = self.get("/desk/bench/write").text
        self.assertEqual(("A lamp" in shown, ">Out<" in shown, "Begin a post" in shown), (True, False, True))

    def test_a_room_in_another_tab_is_told_from_a_colleagues(self) -> None:
        post = self.write("A lamp")
        here = f"/posts/{post.id}/here"
        self.assertEqual(self.post(here, tab="one").json(), {"others": [], "where": [], "is_mine": False})
        self.assertEqual(self.post(here, tab="two").json(), {"others": [], "where": [], "is_mine": True})
        self.post(here, tab="one", leaves="yes")
        self.assertFalse(self.post(here, tab="two").json()["is_mine"])

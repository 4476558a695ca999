from mobbet.actions import letter_rules, subscribers
from mobbet.actions.subscription_words import words_of
from mobbet.core.permalinks import short_path
from mobbet.store import blogs, readers
from mobbet.store import subscribers as store
from tests.web.test_web import WebCase

ELSEWHERE = {"Origin": "https://another-site.example", "Sec-Fetch-Site": "cross-site"}


class LetterCase(WebCase):
    def prepare(self) -> None:
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "yes")
        self.write("A lamp", date="2026-11-10 09:00", categories="Lamps")

    def setUp(self) -> None:
        super().setUp()
        self.blog = blogs.by_slug(self.shop.db, "bench")
        self.one = subscribers.add(
            self.shop, self.me, self.blog, "mira@alder.example", "all", "post", "said so"
        )

    def state(self) -> str:
        return store.by_id(self.shop.db, self.one.id).state


class AskingTests(LetterCase):
    def test_a_reader_asks_confirms_and_gets_letters(self) -> None:
        self.assertIn("Your e-mail address", self.get("/b/bench/~/letters").text)
        answer = self.post("/b/bench/~/letters", email="bo@alder.example", what="all", every="week")
        self.assertIn("on its way to bo@alder.example", answer.text)
        letter = readers.letters(self.shop.db, self.blog.id, 1)[0]
        address = letter.text.split("https://bench.example/")[1].split()[0]
        self.assertIn("everything, once a week", self.get(f"/b/bench/{address}").text)
        self.assertIn("Letters come from now on.", self.post(f"/b/bench/{address}/confirm").text)
        self.assertEqual(store.by_email(self.shop.db, self.blog.id, "bo@alder.example").state, "on")

    def test_it_says_the_same_to_whoever_gets_letters_already(self) -> None:
        known = self.post("/b/bench/~/letters", email="mira@alder.example").text
        new = self.post("/b/bench/~/letters", email="nobody@alder.example").text
        self.assertEqual(known.replace("mira@alder.example", ""), new.replace("nobody@alder.example", ""))

    def test_nonsense_is_told_in_a_sentence_and_kept(self) -> None:
        answer = self.post("/b/bench/~/letters", email="no address")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("“no address” is no e-mail address", answer.text)
        self.assertIn('value="no address"', answer.text)
        self.assertEqual(
            self.post("/b/bench/~/letters", email="a@alder.example", what="category:99").status_code, 422
        )

    def test_a_robot_that_fills_in_the_field_people_do_not_see_is_written_to_by_nobody(self) -> None:
        self.post("/b/bench/~/letters", email="robot@alder.example", remark="cheap")
        self.assertIsNone(store.by_email(self.shop.db, self.blog.id, "robot@alder.example"))

    def test_a_site_that_is_hosted_elsewhere_sends_its_form_here(self) -> None:
        answer = self.ask("POST", "/b/bench/~/letters", ELSEWHERE, data={"email": "far@alder.example"})
        self.assertEqual(answer.status_code, 200)

    def test_a_blog_without_letters_takes_no_address(self) -> None:
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "")
        self.assertIn("writes no letters just now", self.get("/b/bench/~/letters").text)
        self.assertEqual(self.post("/b/bench/~/letters", email="a@alder.example").status_code, 422)


class OwnPageTests(LetterCase):
    def test_a_program_that_looks_at_mail_opens_the_page_and_changes_nothing(self) -> None:
        for path in ("", "/end"):
            self.assertEqual(self.get(f"/b/bench/~/letters/{self.one.key}{path}").status_code, 200)
        self.assertEqual(self.state(), "on")

    def test_one_post_alone_ends_letters_without_a_cookie_or_an_origin(self) -> None:
        answer = self.ask(
            "POST",
            f"/b/bench/~/letters/{self.one.key}/end",
            {"Origin": ""},
            data={"List-Unsubscribe": "One-Click"},
        )
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.state(), "ended")

    def test_changing_and_confirming_stay_with_pages_of_this_server(self) -> None:
        for doing in ("change", "confirm"):
            answer = self.ask("POST", f"/b/bench/~/letters/{self.one.key}/{doing}", ELSEWHERE, data={})
            self.assertEqual(answer.status_code, 403)

    def test_a_subscriber_chooses_what_comes_and_how_often(self) -> None:
        data = {"what": ["all", "category:1"], "every": ["", "month"]}
        self.assertIn(
            "how it is from now on", self.post(f"/b/bench/~/letters/{self.one.key}/change", **data).text
        )
        self.assertEqual(
            [(wish.what, wish.every) for wish in store.wishes_of(self.shop.db, self.one.id)],
            [("category:1", "month")],
        )
        self.post(f"/b/bench/~/letters/{self.one.key}/change", what=["all"], every=[""])
        self.assertEqual(self.state(), "ended")

    def test_an_address_that_nobody_has_is_told_gently(self) -> None:
        for method in ("GET", "POST"):
            answer = self.ask(method, "/b/bench/~/letters/nonsense/end")
            self.assertEqual(answer.status_code, 404)
            self.assertIn("known to nobody any more", answer.text)


class PageTests(LetterCase):
    def test_posts_ask_for_an_address_once_readers_may_subscribe(self) -> None:
        self.publish()
        page = self.get("/b/bench/lamps/a-lamp/").text
        self.assertIn('action="../../~/letters"', page)
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "")
        self.publish()
        self.assertNotIn("~/letters", self.get("/b/bench/lamps/a-lamp/").text)

    def test_a_link_of_a_letter_is_counted_where_its_short_address_leads(self) -> None:
        self.publish()
        answer = self.get(f"/b/bench{short_path(1)}?from=letter-3")
        self.assertEqual(answer.status_code, 301)
        self.assertTrue(answer.headers["location"].endswith("/lamps/a-lamp/?from=letter-3"))

    def test_a_form_in_a_text_subscribes_to_the_category_of_its_post(self) -> None:
        self.write(
            "A clock",
            "~~~ mobbet:subscribe words=Clocks what=category\n~~~",
            date="2026-11-11 09:00",
            categories="Clocks",
        )
        self.publish()
        page = self.get("/b/bench/clocks/a-clock/").text
        self.assertIn('name="what" value="category-of:2"', page)
        self.post("/b/bench/~/letters", email="c@alder.example", what="category-of:2")
        asked = store.by_email(self.shop.db, self.blog.id, "c@alder.example").asked
        self.assertEqual(words_of(self.shop, self.blog, asked[0].what), "posts in Clocks")
        self.assertNotIn("subscribe", self.get("/b/bench/feed.atom").text)

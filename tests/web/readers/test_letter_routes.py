from mobbet.actions import blogs as blog_actions
from mobbet.actions import letter_rules, subscribers
from mobbet.store import blogs
from mobbet.store import subscribers as store
from tests.web.test_web import WebCase


class LettersScreenTests(WebCase):
    def prepare(self) -> None:
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "yes")

    def setUp(self) -> None:
        super().setUp()
        self.blog = blogs.by_slug(self.shop.db, "bench")
        self.sign_in()

    def add(self, **more: str):
        data = {"email": "mira@alder.example", "what": "all", "every": "post", "consent": "said so", **more}
        return self.post("/desk/bench/letters/add", **data)

    def test_rules_are_kept_and_nonsense_is_told_in_place(self) -> None:
        self.assertEqual(self.post("/desk/bench/letters/rule", where="at", value="18:30").status_code, 303)
        self.assertIn("18:30", self.get("/desk/bench/letters").text)
        for where, value in (
            ("at", "noon"),
            ("pace", "0"),
            ("hold", "-3"),
            ("shows", "half"),
            ("nonsense", "x"),
        ):
            with self.subTest(where):
                self.assertEqual(
                    self.post("/desk/bench/letters/rule", where=where, value=value).status_code, 422
                )

    def test_an_address_is_added_with_consent_ended_and_forgotten(self) -> None:
        refused = self.add(consent="")
        self.assertEqual(refused.status_code, 422)
        self.assertIn('value="mira@alder.example"', refused.text)
        self.add()
        one = store.by_email(self.shop.db, self.blog.id, "mira@alder.example")
        self.assertIn("mira@alder.example", self.get("/desk/bench/letters").text)
        self.post("/desk/bench/letters/end", subscriber=one.id)
        self.assertIn("mira@alder.example", self.get("/desk/bench/letters?state=ended").text)
        self.post("/desk/bench/letters/forget", subscriber=one.id)
        self.assertEqual(self.post("/desk/bench/letters/forget", subscriber=one.id).status_code, 422)

    def test_a_list_comes_in_and_goes_out(self) -> None:
        table = "email,every\nbo@alder.example,week\nnot one,post\n"
        answer = self.ask(
            "POST",
            "/desk/bench/letters/import",
            files={"file": ("list.csv", table)},
            data={"consent": "signed the list"},
        )
        self.assertIn("1 new, 0 known already.", answer.text)
        self.assertIn("Line 3: “not one” is no e-mail address.", answer.text)
        self.assertIn("bo@alder.example,all,week,on,", self.get("/desk/bench/subscribers.csv").text)
        bad = self.ask(
            "POST", "/desk/bench/letters/import", files={"file": ("list.csv", b"\xff\x00,,")}, data={}
        )
        self.assertEqual(bad.status_code, 422)

    def test_a_blog_of_somebody_else_has_its_own_subscribers(self) -> None:
        self.add()
        one = store.by_email(self.shop.db, self.blog.id, "mira@alder.example")
        self.as_(None)
        self.assertEqual(self.get("/desk/bench/subscribers.csv").status_code, 303)
        self.assertEqual(self.post("/desk/bench/letters/end", subscriber=one.id).status_code, 401)
        self.assertEqual(store.by_id(self.shop.db, one.id).state, "on")

    def test_the_letter_is_looked_at_beside_the_page_and_sent_to_oneself(self) -> None:
        post = self.write("A lamp")
        self.assertIn(
            f'src="/posts/{post.id}/preview/letter"', self.get(f"/posts/{post.id}/preview?kind=mail").text
        )
        letter = self.get(f"/posts/{post.id}/preview/letter")
        self.assertIn("A lamp", letter.text)
        self.assertNotIn("script", letter.headers["content-security-policy"])
        self.assertEqual(
            self.post(f"/posts/{post.id}/preview/letter/send", email="me@alder.example").status_code, 303
        )
        self.assertEqual(self.shop.services.mail.taken[-1].subject, "To look at: A lamp")
        self.assertEqual(
            self.post(f"/posts/{post.id}/preview/letter/send", email="nonsense").status_code, 422
        )

    def test_the_docket_says_what_subscribers_get(self) -> None:
        post = self.write("A lamp")
        self.assertIn("a letter with the teaser", self.get(f"/posts/{post.id}").text)
        answer = self.post(f"/posts/{post.id}/docket/letter", shows="none", subject="", line="")
        self.assertIn("no letter", answer.text)
        refused = self.post(f"/posts/{post.id}/docket/letter", shows="whole", subject="x" * 200, line="")
        self.assertIn("The subject has 200 letters; 150 is the most.", refused.text)


class RightTests(WebCase):
    def test_subscribers_add_takes_no_number_of_another_blog(self) -> None:
        blog = self.blog
        one = subscribers.add(self.shop, self.me, blog, "a@alder.example", "all", "post", "said so")
        self.assertEqual(store.by_id(self.shop.db, one.id).blog_id, blog.id)
        blog_actions.make_blog(
            self.shop, self.me, name="Log", address="log", zone="UTC", home="https://log.example/"
        )
        self.sign_in()
        self.assertEqual(self.post("/desk/log/letters/end", subscriber=one.id).status_code, 422)
        self.assertEqual(store.by_id(self.shop.db, one.id).state, "on")

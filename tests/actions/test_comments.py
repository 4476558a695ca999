from mobbet.actions import blogs as blog_actions
from mobbet.actions import comments, consistency, people, placing
from mobbet.core.audience import STRANGER, Reader
from mobbet.core.errors import BadInput, NotAllowed, NotFound, TooSoon
from mobbet.store import blogs, editions
from mobbet.store import comments as store
from tests.shops import ShopCase


class CommentTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.rule("anyone", "all")
        self.post = self.write("Glue", date="2026-01-01", categories="Lamps")
        self.publish()

    def rule(self, who: str, waiting: str) -> None:
        comments.set_rule(self.shop, self.me, "bench", who, waiting)
        self.blog = blogs.by_slug(self.shop.db, "bench")

    def say(
        self,
        text: str = "Thank you.",
        reader: Reader = STRANGER,
        name: str = "Mira",
        address: str = "10.0.0.1",
    ) -> store.Comment:
        return comments.write(
            self.shop, self.blog, self.post.id, reader, {"name": name, "email": "", "text": text}, address
        )

    def numbers(self, state: str = "waits") -> list[int]:
        return [one.id for one in store.page(self.shop.db, self.blog.id, state, 0, 0, 1 << 60, 50)]

    def settle(self, state: str, numbers: list[int] | None = None) -> int:
        return comments.settle(
            self.shop, self.me, "bench", self.numbers() if numbers is None else numbers, state
        )

    def page(self) -> str:
        return self.site()["/lamps/glue/"].decode()

    def page_of_server(self) -> str:
        """The page as Mobbet's own server has it, which answers for the form."""
        row = editions.page_at(self.shop.db, self.blog.id, "/lamps/glue/")
        return self.shop.pages.read(row.hash).decode()

    def test_a_comment_waits_until_it_is_shown_and_alters_one_page(self) -> None:
        self.say("First line.\nSecond.\n\nSee https://a.example/x.")
        self.assertNotIn("First line", self.page())
        before = self.site()
        self.settle("shown")
        after = self.site()
        self.assertEqual([path for path in after if after[path] != before.get(path)], ["/lamps/glue/"])
        self.assertIn(
            '<p>First line.<br>\nSecond.</p>\n<p>See <a href="https://a.example/x" rel="nofollow ugc noopener">https://a.example/x</a>.</p>',
            self.page(),
        )
        self.assertEqual(self.publish(full=True).written, 0, "the edition had it already")

    def test_refusing_taking_back_and_removing_leave_the_page_as_it_was(self) -> None:
        before = self.page()
        self.say()
        for state in ("shown", "refused", "shown", "waits"):
            self.settle(state, self.numbers("waits") + self.numbers("shown") + self.numbers("refused"))
            self.assertEqual(self.page() == before, state != "shown")
        comments.remove(self.shop, self.me, "bench", self.numbers())
        self.assertEqual(store.counts(self.shop.db, self.blog.id, 0, 0), {})
        self.assertEqual(consistency.problems(self.shop), [])

    def test_an_answer_stands_with_its_comment_and_goes_with_it(self) -> None:
        self.say()
        comments.answer(self.shop, self.me, "bench", self.numbers()[0], "You are welcome.")
        self.assertIn('<b class="p-name">Ines Farrow</b>, of The Bench', self.page())
        self.assertIn("1 comment</h2>", self.page())
        self.settle("refused", [min(self.numbers("shown"))])
        self.assertNotIn("You are welcome", self.page())

    def test_the_rule_says_who_comments_and_what_waits(self) -> None:
        for who, waiting, reader, text, state in (
            ("anyone", "all", STRANGER, "a", "waits"), ("anyone", "strangers", STRANGER, "b", "waits"), ("anyone", "none", STRANGER, "c", "shown"),
            ("signed-in", "strangers", Reader(self.me.id, True), "d", "shown"), ("anyone", "none", STRANGER, "https://a.example https://b.example https://c.example", "waits"),
        ):  # fmt: skip
            with self.subTest(text):
                self.rule(who, waiting)
                self.assertEqual(self.say(text, reader).state, state)
        with self.assertRaisesRegex(NotAllowed, "Only people who are signed in"):
            self.rule("signed-in", "all")
            self.say()
        with self.assertRaisesRegex(NotAllowed, "Nobody writes comments"):
            self.rule("", "all")
            self.say()
        with self.assertRaises(BadInput):
            self.rule("everybody", "all")

    def test_bad_input_is_told_and_the_same_comment_is_kept_once(self) -> None:
        for name, text, words in (
            ("", "a", "Your name is missing"),
            ("Mira", " \n ", "is empty"),
            ("Mira", "x" * 5001, "5,001 letters"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                self.say(text, name=name)
        self.say("Twice.")
        self.say("Twice.")
        self.assertEqual(len(self.numbers()), 1)

    def test_one_network_address_cannot_flood_a_post(self) -> None:
        with self.assertRaisesRegex(TooSoon, "wait"):
            for number in range(60):
                self.say(f"Number {number}")
        self.say("From elsewhere.", address="10.0.0.2")

    def test_nobody_comments_on_what_they_may_not_read(self) -> None:
        self.post = self.write("Secret", date="2026-01-02", visibility="only-me")
        self.publish()
        with self.assertRaises(NotFound):
            self.say()
        draft = self.write("Draft")
        with self.assertRaises(NotFound):
            comments.post_to_comment(self.shop, self.blog, draft.id, STRANGER)

    def test_a_post_is_closed_from_when_that_goes_out(self) -> None:
        comments.close(self.shop, self.me, self.post.id, True)
        self.assertIn("Write a comment", self.page_of_server())
        placing.place(self.shop, self.me, self.post.id)
        self.publish()
        self.assertNotIn("Write a comment", self.page_of_server())
        with self.assertRaisesRegex(NotAllowed, "Nobody writes comments"):
            self.say()

    def test_front_matter_closes_and_opens_them(self) -> None:
        self.assertEqual(self.again(self.write("A", comments="closed")).comments, "closed")
        self.assertEqual(self.again(self.write("B", comments="open")).comments, "")
        with self.assertRaisesRegex(BadInput, "“perhaps”"):
            self.write("C", comments="perhaps")

    def test_a_writer_settles_comments_under_posts_of_their_own(self) -> None:
        writer = people.add_person(
            self.shop, name="Petra Quill", email="petra@bench.example", password="another password"
        )
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        self.say()
        with self.assertRaisesRegex(NotAllowed, "somebody else"):
            comments.settle(self.shop, writer, "bench", self.numbers(), "shown")
        with self.assertRaisesRegex(NotFound, "No comment is chosen"):
            comments.settle(self.shop, writer, "bench", [], "shown")

from mobbet.actions import announcing, placing, telling
from mobbet.core.errors import BadInput, Broken, NotFound, NotTaken
from mobbet.services.stand_ins.pages import ScriptedPages
from mobbet.store import announcing as store
from tests.shops import DAY, ShopCase


class AnnouncingCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.shop.services.pages = ScriptedPages()
        self.board = self.shop.services.accounts.board
        self.account = announcing.add(
            self.shop, self.me, "bench", "stand-in", "Harbour board", "", "https://board.example/@bench", ""
        )

    def out(self, title: str = "A lamp", **settings: str):
        post = self.write(title, **settings)
        placing.place(self.shop, self.me, post.id)
        return post

    def go_round(self) -> None:
        for _ in range(3):
            telling.go_round(self.shop)

    def texts(self) -> list[str]:
        return [notice.text for notice in self.board.taken]


class AnnouncingTests(AnnouncingCase):
    def test_a_post_is_announced_once_with_its_text_and_address(self) -> None:
        post = self.out()
        self.go_round(), self.go_round()
        self.assertEqual(len(self.texts()), 1)
        self.assertIn("A lamp: Some words. https://bench.example/", self.texts()[0])
        (one,) = store.of_post(self.shop.db, post.id)
        self.assertEqual((one.state, one.answer), ("sent", "https://harbour-board.example/notices/1"))

    def test_not_what_is_for_some_readers_nor_what_says_so_nor_what_went_out_before(self) -> None:
        self.out("Inside", visibility="signed-in")
        quiet = self.write("Quiet")
        announcing.set_announced(self.shop, self.me, quiet.id, True)
        placing.place(self.shop, self.me, quiet.id)
        self.write("Old", date="2026-01-01 09:00")
        self.go_round()
        self.assertEqual(self.texts(), [])

    def test_later_where_the_account_says_so_and_not_when_it_was_withdrawn_meanwhile(self) -> None:
        announcing.set_word(self.shop, self.me, "bench", self.account, "delay", "30")
        first, _ = self.out("First"), self.out("Second")
        self.go_round()
        self.assertEqual(self.texts(), [])
        placing.withdraw(self.shop, self.me, first.id)
        self.clock.forward(1801)
        self.go_round()
        self.assertEqual([text[:6] for text in self.texts()], ["Second"])

    def test_pages_name_the_account_as_the_blogs_own(self) -> None:
        self.out()
        self.assertIn(b'<link rel="me" href="https://board.example/@bench">', self.site()["/"])


class FailureTests(AnnouncingCase):
    def failing(self, error: Exception | None) -> None:
        def announce(notice) -> str:
            if error:
                raise error
            return "https://board.example/1"

        self.shop.services.accounts.announce = announce

    def state(self) -> str:
        return self.shop.db.value("SELECT state FROM announcement")

    def test_what_surely_did_not_arrive_is_sent_again(self) -> None:
        self.failing(NotTaken("it is away", "later"))
        self.out()
        self.go_round()
        self.assertEqual(self.state(), "waiting")
        self.failing(None)
        self.clock.forward(61)
        self.go_round()
        self.assertEqual(self.state(), "sent")

    def test_what_may_have_arrived_is_sent_again_by_hand_alone(self) -> None:
        self.failing(Broken("it broke off"))
        post = self.out()
        self.go_round()
        self.assertEqual(self.state(), "unclear")
        self.failing(None)
        self.clock.forward(DAY)
        self.go_round()
        self.assertEqual(self.state(), "unclear")
        announcing.send_again(self.shop, self.me, "bench", self.account, post.id)
        self.go_round()
        self.assertEqual(self.state(), "sent")
        with self.assertRaises(NotFound):
            announcing.send_again(self.shop, self.me, "bench", self.account, post.id)

    def test_what_was_being_sent_when_the_process_ended_is_not_sent_again_by_itself(self) -> None:
        self.failing(KeyboardInterrupt())
        self.out()
        with self.assertRaises(KeyboardInterrupt):
            self.go_round()
        self.failing(None)
        self.go_round()
        self.assertEqual(self.state(), "unclear")

    def test_a_token_is_sealed_and_nonsense_is_told(self) -> None:
        number = announcing.add(
            self.shop,
            self.me,
            "bench",
            "micropub",
            "Other",
            "https://other.example/micropub",
            "",
            "a secret token",
        )
        self.assertNotIn("secret", store.by_id(self.shop.db, number).token)
        for kind, name, address, token in (
            ("nonsense", "x", "", ""), ("stand-in", " ", "", ""), ("micropub", "x", "nonsense", "t"), ("micropub", "x", "https://a.example/", ""),
        ):  # fmt: skip
            with self.subTest(kind + name), self.assertRaises(BadInput):
                announcing.add(self.shop, self.me, "bench", kind, name, address, "", token)

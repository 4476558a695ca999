"""Answers by readers, letters about them, changing a comment, and the work of a browser."""

from hashlib import sha256

from mobbet.actions import comment_letters, comments, letter_rules, mail_sending, placing, subscribers
from mobbet.core.audience import STRANGER
from mobbet.core.errors import BadInput, Refused
from mobbet.core.proof_of_work import BITS, is_done
from mobbet.store import blogs, readers
from mobbet.store import comments as store
from mobbet.store import subscribers as subscriber_store
from tests.actions.test_mailings import Server
from tests.shops import DAY, ShopCase


class AnswerCase(ShopCase):
    def prepare(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", "anyone", "none")
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "yes")

    def setUp(self) -> None:
        super().setUp()
        self.post_ = self.write("A lamp")
        placing.place(self.shop, self.me, self.post_.id)
        self.again()

    def again(self) -> None:
        self.blog = blogs.by_slug(self.shop.db, "bench")

    def say(self, text: str, name: str = "Mona", **more: str):
        typed = {"name": name, "email": "", "text": text, **more}
        return comments.write(
            self.shop, self.blog, self.post_.id, STRANGER, typed, f"203.0.113.{len(text) % 200}", 60
        )

    def shown(self):
        return store.shown(self.shop.db, self.post_.id)


class ThreadTests(AnswerCase):
    def test_answers_stand_two_deep_under_the_first_comment(self) -> None:
        first = self.say("Which fuse?")
        second = self.say("Three amperes, I think.", "Bo", answers=str(first.id))
        self.say("Thank you, that works.", answers=str(second.id))
        (thread,) = self.shown()
        self.assertEqual(
            [one.text for one in thread.answers], ["Three amperes, I think.", "Thank you, that works."]
        )

    def test_nobody_answers_what_is_not_shown_or_stands_elsewhere(self) -> None:
        first = self.say("Which fuse?")
        comments.settle(self.shop, self.me, "bench", [first.id], "refused")
        for number in (str(first.id), "999", "x", "-1", "9" * 30):
            with self.subTest(number), self.assertRaisesRegex(BadInput, "is no more"):
                self.say("An answer to it.", answers=number)

    def test_whoever_asked_is_told_of_answers_once_they_confirmed(self) -> None:
        first = self.say("Which fuse?", email="mona@alder.example", tells="yes")
        one = subscriber_store.by_email(self.shop.db, self.blog.id, "mona@alder.example")
        subscribers.confirm(self.shop, self.blog, one.key)
        self.say("Three amperes, I think.", "Bo", answers=str(first.id))
        self.say("Something else entirely.", "Bo")
        self.say("My own second thought.", email="mona@alder.example", answers=str(first.id))
        server = self.shop.services.mail = Server()
        mail_sending.send_due(self.shop, sleep=lambda seconds: None)
        self.assertEqual([letter.subject for letter in server.taken], ["Bo on “A lamp”"])
        self.assertIn("Three amperes, I think.", server.taken[0].text)

    def test_an_answer_that_is_refused_before_its_letter_went_is_told_to_nobody(self) -> None:
        one = subscribers.add(
            self.shop,
            self.me,
            self.blog,
            "mona@alder.example",
            f"comments:{self.post_.id}",
            "post",
            "said so",
        )
        made = self.say("Buy a fuse here.", "Bo")
        comments.settle(self.shop, self.me, "bench", [made.id], "refused")
        server = self.shop.services.mail = Server()
        mail_sending.send_due(self.shop, sleep=lambda seconds: None)
        self.assertEqual((server.taken, one.state), ([], "asked"))

    def test_to_be_told_needs_an_address(self) -> None:
        with self.assertRaisesRegex(BadInput, "Type your e-mail address to be told"):
            self.say("Which fuse?", tells="yes")


class ChangeTests(AnswerCase):
    def test_a_comment_is_changed_within_ten_minutes_and_judged_anew(self) -> None:
        made = self.say("Wich fuse?")
        sign = comments.change_sign(self.shop, made)
        comments.change(self.shop, self.blog, sign, "Which fuse?")
        self.assertEqual(self.shown()[0].text, "Which fuse?")
        comments.set_blocklist(self.shop, self.me, "bench", "casino")
        self.again()
        self.assertEqual(comments.change(self.shop, self.blog, sign, "A casino of fuses").state, "refused")
        with self.assertRaises(Refused):
            comments.change(self.shop, self.blog, sign, "Once more")

    def test_not_later_and_not_by_a_sign_of_another_making(self) -> None:
        sign = comments.change_sign(self.shop, self.say("Which fuse?"))
        self.clock.forward(601)
        for one in (sign, "nonsense", "", "x" * 5000):
            with self.subTest(one[:10]), self.assertRaisesRegex(Refused, "10 minutes"):
                comments.change(self.shop, self.blog, one, "Another text")


class WorkTests(AnswerCase):
    def test_without_the_work_a_comment_waits_and_with_it_it_is_shown(self) -> None:
        comments.set_work(self.shop, self.me, "bench", True)
        self.again()
        self.assertEqual(self.say("Which fuse is it?").state, "waits")
        text, sign = "Which fuse is it, then?", "a sign"
        nonce = next(n for n in range(1 << 20) if self.zeros(f"{sign}.{text}.{n}") >= BITS)
        self.assertEqual(self.say(text, sign=sign, nonce=str(nonce)).state, "shown")
        self.assertFalse(is_done(sign, "another text", str(nonce)))

    def zeros(self, text: str) -> int:
        return 256 - int.from_bytes(sha256(text.encode()).digest(), "big").bit_length()


class WaitingTests(AnswerCase):
    def letters(self) -> list[str]:
        return [
            one.subject for one in readers.waiting(self.shop.db, self.clock(), 20) if "wait" in one.subject
        ]

    def test_the_author_is_told_of_each_that_waits(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", "anyone", "all")
        comment_letters.set_rule(self.shop, self.me, "bench", "each", "author")
        self.again()
        self.say("Which fuse?")
        self.assertEqual(self.letters(), ["The Bench: Mona commented on “A lamp”, which waits to be read"])

    def test_or_once_a_day_of_all_of_them(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", "anyone", "all")
        comment_letters.set_rule(self.shop, self.me, "bench", "day", "editors")
        self.again()
        self.say("Which fuse?"), self.say("And which lamp?")
        self.assertEqual(comment_letters.tell_daily(self.shop), 0)
        self.clock.forward(DAY)
        self.assertEqual(comment_letters.tell_daily(self.shop), 1)
        self.assertEqual(comment_letters.tell_daily(self.shop), 0)
        self.assertEqual(self.letters(), ["The Bench: 2 comments wait to be read"])

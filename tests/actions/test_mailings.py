"""Letters to subscribers, from subscribing to what comes back."""

from contextlib import contextmanager
from email import message_from_bytes, policy

from mobbet.actions import (
    letter_rules,
    mail_sending,
    mailings,
    placing,
    posts,
    readers,
    returned_letters,
    subscribers,
)
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotTaken, Refused, TooSoon
from mobbet.core.letters import CHANGE_LINK, END_LINK, LARGEST
from mobbet.services.mail import written
from mobbet.store import blogs
from mobbet.store import mailings as store
from mobbet.store import posts as post_store
from mobbet.store import readers as reader_store
from mobbet.store import subscribers as subscriber_store
from tests.shops import DAY, ShopCase


class Server:
    """A mail server in memory that takes what it is told to take."""

    keeps = False

    def __init__(self) -> None:
        self.taken = []
        self.answers = {}

    @contextmanager
    def open(self):
        yield self.send

    def send(self, letter) -> None:
        why = self.answers.get(letter.recipient) or self.answers.get("*")
        if why:
            raise NotTaken(f"{letter.recipient} was refused", why)
        self.taken.append(letter)

    @property
    def recipients(self) -> list[str]:
        return [letter.recipient for letter in self.taken]


class LetterCase(ShopCase):
    def prepare(self) -> None:
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "yes")

    def setUp(self) -> None:
        super().setUp()
        self.server = self.shop.services.mail = Server()
        self.blog = blogs.by_slug(self.shop.db, "bench")

    def subscribe(self, email: str, what: str = "all", every: str = "post"):
        return subscribers.add(self.shop, self.me, self.blog, email, what, every, "said so at the bench")

    def send(self) -> mail_sending.Outcome:
        return mail_sending.send_due(self.shop, sleep=lambda seconds: None)

    def later(self, seconds: int) -> None:
        self.clock.forward(seconds)

    def out(self, title: str, **settings: str):
        post = self.publish_now(title, **settings)
        self.later(700)
        return post

    def publish_now(self, title: str, body: str = "Some words.", **settings: str):
        post = self.write(title, body, **settings)
        placing.place(self.shop, self.me, post.id)
        return post


class SubscribingTests(LetterCase):
    def ask(self, email: str = "mira@alder.example", what: str = "all", every: str = "post") -> None:
        subscribers.ask(self.shop, self.blog, email, what, every, "203.0.113.9")

    def test_nothing_comes_before_it_is_confirmed_by_the_link_of_a_letter(self) -> None:
        self.ask()
        self.out("One")
        self.assertEqual(self.send().sent, 0)
        (letter,) = reader_store.letters(self.shop.db, self.blog.id, 5)
        found = subscriber_store.by_email(self.shop.db, self.blog.id, "mira@alder.example")
        self.assertIn(f"https://bench.example/~/letters/{found.key}", letter.text)
        subscribers.confirm(self.shop, self.blog, found.key)
        self.out("Two")
        self.assertEqual([one.subject for one in self.server.taken], [])
        self.send()
        self.assertEqual([one.subject for one in self.server.taken], ["Two"])

    def test_the_link_is_good_for_a_week(self) -> None:
        self.ask()
        found = subscriber_store.by_email(self.shop.db, self.blog.id, "mira@alder.example")
        self.later(8 * DAY)
        with self.assertRaisesRegex(Refused, "too long ago"):
            subscribers.confirm(self.shop, self.blog, found.key)
        self.assertEqual(subscribers.forget_unconfirmed(self.shop), 1)

    def test_asking_again_and_again_sends_one_letter_and_is_slowed_down(self) -> None:
        self.ask()
        self.ask()
        self.assertEqual(len(reader_store.letters(self.shop.db, self.blog.id, 9)), 1)
        with self.assertRaises(TooSoon):
            for _ in range(9):
                self.ask()

    def test_what_is_not_there_cannot_be_subscribed_to(self) -> None:
        for what in ("category:99", "author:77", "series:5", "comments:3", "nonsense"):
            with self.subTest(what), self.assertRaisesRegex(BadInput, "to subscribe to|of this blog"):
                self.ask(what=what)

    def test_a_category_with_posts_for_some_readers_alone_is_offered_to_nobody(self) -> None:
        readers.make_group(self.shop, self.me, self.blog, "Keepers")
        post = self.publish_now("Inside", categories="Secrets", visibility="group:Keepers")
        number = post_store.categories(self.shop.db, post.id)[0]
        with self.assertRaises(BadInput):
            self.ask(what=f"category:{number}")

    def test_a_subscriber_changes_and_ends_it_by_their_own_address(self) -> None:
        one = self.subscribe("mira@alder.example")
        subscribers.change(self.shop, self.blog, one.key, [("all", "week")])
        self.assertEqual(subscriber_store.wishes_of(self.shop.db, one.id)[0].every, "week")
        subscribers.end_by_key(self.shop, self.blog, one.key)
        self.assertEqual(subscriber_store.by_id(self.shop.db, one.id).state, "ended")
        with self.assertRaisesRegex(Refused, "subscribe again themselves"):
            self.subscribe("mira@alder.example")

    def test_a_list_goes_out_and_comes_in_with_consent_and_keeps_who_ended(self) -> None:
        self.subscribe("mira@alder.example")
        subscribers.end_by_key(self.shop, self.blog, self.subscribe("=gone@alder.example").key)
        table = subscribers.as_csv(self.shop, self.me, self.blog)
        self.assertIn("'=gone@alder.example", table)
        for one in subscriber_store.every(self.shop.db, self.blog.id):
            subscribers.forget(self.shop, self.me, self.blog, one.id)
        found = subscribers.bring_in(self.shop, self.me, self.blog, table, "", {})
        self.assertEqual((found.new, found.known, found.problems), (2, 0, ()))
        self.assertEqual(subscriber_store.counts(self.shop.db, self.blog.id), {"on": 1, "ended": 1})
        again = subscribers.bring_in(
            self.shop, self.me, self.blog, "email\nnew@alder.example\nno address\n", "", {}
        )
        self.assertEqual([line for line, _ in again.problems], [2, 3])


class SendingTests(LetterCase):
    def test_each_subscriber_gets_each_letter_once(self) -> None:
        for number in range(120):
            self.subscribe(f"reader{number}@alder.example")
        self.out("One")
        self.assertEqual(self.send().sent, 120)
        self.assertEqual(self.send().sent, 0)
        self.assertEqual(len({letter.message_id for letter in self.server.taken}), 120)

    def test_a_letter_waits_for_as_long_as_the_blog_says_and_does_not_go_when_the_post_was_withdrawn(
        self,
    ) -> None:
        self.subscribe("mira@alder.example")
        post = self.publish_now("One")
        self.assertEqual(self.send().sent, 0)
        placing.withdraw(self.shop, self.me, post.id)
        self.later(700)
        self.assertEqual(self.send().sent, 0)

    def test_what_has_not_gone_of_a_letter_has_the_words_that_are_out(self) -> None:
        first, second = self.subscribe("a@alder.example"), self.subscribe("b@alder.example")
        self.server.answers["b@alder.example"] = "later"
        post = self.out("A lmap")
        self.send()
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post_store.by_id(self.shop.db, post.id).revision,
            title="A lamp",
            subtitle="",
            body=schema.EMPTY,
        )
        placing.place(self.shop, self.me, post.id)
        self.server.answers.clear()
        self.later(4000)
        self.send()
        self.assertEqual(self.server.recipients, [first.email, second.email])
        self.assertEqual([one.subject for one in self.server.taken], ["A lmap", "A lamp"])

    def test_restricted_posts_go_only_to_those_who_may_read_them(self) -> None:
        readers.make_group(self.shop, self.me, self.blog, "Keepers")
        group = readers.group_by_name(self.shop, self.blog, "Keepers")
        readers.add_readers(self.shop, self.me, self.blog, group.id, "in@alder.example")
        self.subscribe("in@alder.example"), self.subscribe("out@alder.example")
        self.out("Inside", visibility="group:Keepers")
        self.out("Locked", visibility="password", password="a good one")
        self.out("Mine", visibility="only-me")
        self.send()
        self.assertEqual(
            [(one.recipient, one.subject) for one in self.server.taken], [("in@alder.example", "Inside")]
        )

    def test_who_is_taken_out_of_the_group_or_ended_letters_before_theirs_went_gets_none(self) -> None:
        readers.make_group(self.shop, self.me, self.blog, "Keepers")
        group = readers.group_by_name(self.shop, self.blog, "Keepers")
        readers.add_readers(self.shop, self.me, self.blog, group.id, "in@alder.example, too@alder.example")
        self.subscribe("in@alder.example"), self.subscribe("too@alder.example")
        self.server.answers["*"] = "later"
        self.out("Inside", visibility="group:Keepers")
        self.send()
        self.server.answers.clear()
        rows = reader_store.of_blog(self.shop.db, self.blog.id, group.id, "", 9)
        readers.take_out(self.shop, self.me, self.blog, rows[0].person_id, group.id)
        subscribers.end_by_key(
            self.shop,
            self.blog,
            subscriber_store.by_email(self.shop.db, self.blog.id, "too@alder.example").key,
        )
        self.later(4000)
        self.send()
        self.assertEqual(self.server.taken, [])

    def test_refused_three_times_for_good_an_address_is_set_aside(self) -> None:
        one = self.subscribe("gone@alder.example")
        self.server.answers["gone@alder.example"] = "final"
        for title in ("One", "Two", "Three", "Four"):
            self.out(title)
            self.send()
        found = subscriber_store.by_id(self.shop.db, one.id)
        self.assertEqual((found.state, found.bounces), ("aside", 3))

    def test_a_server_that_takes_nothing_is_left_alone_for_a_while_and_nobody_is_left_out(self) -> None:
        for number in range(9):
            self.subscribe(f"reader{number}@alder.example")
        self.out("One")
        self.server.answers["*"] = "server"
        self.assertEqual(self.send().waiting, 9)
        self.server.answers.clear()
        self.assertEqual(self.send().sent, 0)
        self.later(61)
        self.assertEqual(self.send().sent, 9)

    def test_a_process_that_ended_while_it_handed_a_letter_over_hands_it_over_again_with_the_same_number(
        self,
    ) -> None:
        one = self.subscribe("mira@alder.example")
        self.out("One")

        def die(letter) -> None:
            self.first = letter.message_id
            raise KeyboardInterrupt

        self.server.send = die
        with self.assertRaises(KeyboardInterrupt):
            self.send()
        del self.server.send
        self.assertEqual(self.send().sent, 1)
        self.assertEqual(self.server.taken[0].message_id, self.first)
        self.assertIn(f"-{one.id}-", self.first)

    def test_what_one_subscribes_to_decides(self) -> None:
        post = self.out("Lamps first", categories="Lamps")
        self.send()
        category = post_store.categories(self.shop.db, post.id)[0]
        self.subscribe("lamps@alder.example", f"category:{category}")
        self.subscribe("ines@alder.example", f"author:{self.me.id}")
        self.subscribe("weekly@alder.example", every="week")
        self.out("A clock", categories="Clocks")
        self.out("A lamp", categories="Lamps > Desk lamps")
        self.send()
        got = sorted((one.recipient.partition("@")[0], one.subject) for one in self.server.taken)
        self.assertEqual(got, [("ines", "A clock"), ("ines", "A lamp"), ("lamps", "A lamp")])

    def test_a_correction_goes_to_all_who_got_the_letter(self) -> None:
        self.subscribe("mira@alder.example")
        post = self.out("Fuses")
        with self.assertRaisesRegex(Refused, "Nobody got"):
            mailings.correct(self.shop, self.me, post.id, "Five amperes.")
        self.send()
        self.subscribe("late@alder.example")
        self.assertEqual(mailings.correct(self.shop, self.me, post.id, "Five amperes, not fifty."), 1)
        self.send()
        self.assertEqual(self.server.taken[-1].subject, "Corrected: Fuses")
        self.assertIn("Five amperes, not fifty.", self.server.taken[-1].text)


class DigestTests(LetterCase):
    def test_a_digest_goes_once_a_week_with_what_went_out_and_not_when_nothing_did(self) -> None:
        self.subscribe("weekly@alder.example", every="week")
        self.out("One"), self.out("Two")
        self.assertEqual(self.send().sent, 0)
        self.later(3 * DAY)  # a Saturday; it goes on Fridays
        self.assertEqual(self.send().sent, 1)
        self.assertIn("2 posts", self.server.taken[0].subject)
        self.assertEqual(self.send().sent, 0)
        self.later(7 * DAY)
        self.assertEqual(self.send().sent, 0)

    def test_each_gets_a_digest_of_what_they_may_read_alone(self) -> None:
        readers.make_group(self.shop, self.me, self.blog, "Keepers")
        group = readers.group_by_name(self.shop, self.blog, "Keepers")
        readers.add_readers(self.shop, self.me, self.blog, group.id, "in@alder.example")
        self.subscribe("in@alder.example", every="week"), self.subscribe("out@alder.example", every="week")
        self.out("Open"), self.out("Marker of the inside", visibility="group:Keepers")
        self.later(3 * DAY)
        self.assertEqual(self.send().sent, 2)
        texts = {one.recipient: one.text + one.html for one in self.server.taken}
        self.assertIn("arker of the inside", texts["in@alder.example"])
        self.assertNotIn("arker of the inside", texts["out@alder.example"].lower())

    def test_a_server_that_slept_for_weeks_sends_one_digest_of_all_of_it(self) -> None:
        self.subscribe("weekly@alder.example", every="week")
        for week in range(3):
            self.out(f"Week {week}")
            self.later(7 * DAY)
        self.assertEqual(self.send().sent, 1)
        self.assertIn("3 posts", self.server.taken[0].subject)


REPORT = b"""From: mailer@mail.example
Content-Type: multipart/report; report-type=delivery-status; boundary=b

--b
Content-Type: text/plain

It could not be delivered.
--b
Content-Type: message/delivery-status

Reporting-MTA: dns; mail.example

Final-Recipient: rfc822; %s
Action: failed
Status: %s
Diagnostic-Code: smtp; 550 no such user
--b
Content-Type: text/rfc822-headers

Message-ID: %s
Subject: One
--b--
"""


class ReturnedTests(LetterCase):
    def returned(self, address: str, message_id: str, status: bytes = b"5.1.1") -> bytes:
        return REPORT % (address.encode(), status, message_id.encode())

    def test_three_letters_that_came_back_set_an_address_aside_and_each_counts_once(self) -> None:
        one = self.subscribe("gone@alder.example")
        for title in ("One", "Two", "Three"):
            self.out(title)
            self.send()
        reports = [self.returned("gone@alder.example", letter.message_id) for letter in self.server.taken]
        first = returned_letters.read(self.shop, reports[0])
        again = returned_letters.read(self.shop, reports[0])
        self.assertEqual((first.new, again.new), (1, 0))
        mailbox = b"".join(b"From mailer Mon Nov 16 09:00:00 2026\n" + report for report in reports)
        self.assertEqual(returned_letters.read(self.shop, mailbox).aside, 1)
        self.assertEqual(subscriber_store.by_id(self.shop.db, one.id).state, "aside")

    def test_a_forged_report_and_one_of_a_delay_count_for_nothing(self) -> None:
        one = self.subscribe("here@alder.example")
        self.out("One")
        self.send()
        forged = f"<letter-1-{one.id}-{'0' * 20}@bench.example>"
        for report in (
            self.returned(one.email, forged),
            self.returned(one.email, self.server.taken[0].message_id, b"4.2.2"),
            b"Subject: hello\n\nwords",
        ):
            self.assertEqual(returned_letters.read(self.shop, report).new, 0)


class LetterTextTests(LetterCase):
    def letter(self, **settings: str):
        self.subscribe("mira@alder.example")
        self.out("A lamp & a <fuse>", **settings)
        self.send()
        return self.server.taken[0]

    def test_it_is_a_message_with_text_and_html_and_ends_by_one_click(self) -> None:
        letter = self.letter()
        message = message_from_bytes(written(letter), policy=policy.default)
        self.assertEqual(message.get_content_type(), "multipart/alternative")
        self.assertEqual(
            [part.get_content_type() for part in message.iter_parts()], ["text/plain", "text/html"]
        )
        self.assertEqual(message["List-Unsubscribe-Post"], "List-Unsubscribe=One-Click")
        self.assertRegex(message["List-Unsubscribe"], r"^<https://bench\.example/~/letters/[\w-]{20,}/end>$")
        self.assertEqual(message["Subject"], "A lamp & a <fuse>")
        for part in (letter.text, letter.html):
            self.assertNotIn(END_LINK, part)
            self.assertNotIn(CHANGE_LINK, part)
        self.assertIn("A lamp &amp; a &lt;fuse&gt;", letter.html)

    def test_links_say_which_letter_led_there_and_nothing_of_the_person(self) -> None:
        letter = self.letter()
        self.assertRegex(letter.html, r'href="https://bench\.example/~\w+/\?from=letter-1"')
        self.assertNotIn("<img", letter.html)

    def test_its_style_stands_in_its_elements_and_it_has_colours_for_the_dark(self) -> None:
        letter = self.letter()
        self.assertRegex(letter.html, r'<h1 style="[^"]*font-size')
        self.assertIn("prefers-color-scheme: dark", letter.html)

    def test_a_whole_text_that_is_too_long_becomes_its_teaser(self) -> None:
        self.subscribe("mira@alder.example")
        self.publish_now("Long", "Words and more words. " * 9000)
        letter_rules.set_rule(self.shop, self.me, "bench", "shows", "whole")
        self.later(700)
        self.send()
        self.assertLess(len(self.server.taken[0].html.encode()), LARGEST)

    def test_subject_and_first_line_are_those_of_the_post(self) -> None:
        self.subscribe("mira@alder.example")
        post = self.write("A lamp")
        letter_rules.set_letter(
            self.shop, self.me, post.id, "whole", "Light again", "You asked for this one."
        )
        placing.place(self.shop, self.me, post.id)
        self.later(700)
        self.send()
        letter = self.server.taken[0]
        self.assertEqual(letter.subject, "Light again")
        self.assertIn("You asked for this one.", letter.text)
        self.assertIn("Some words.", letter.html)

    def test_a_post_may_have_no_letter(self) -> None:
        self.subscribe("mira@alder.example")
        post = self.write("Quiet")
        letter_rules.set_letter(self.shop, self.me, post.id, "none", "", "")
        placing.place(self.shop, self.me, post.id)
        self.later(700)
        self.assertEqual(self.send().sent, 0)
        self.assertEqual(store.newest(self.shop.db, self.blog.id, 5), [])

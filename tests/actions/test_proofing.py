"""What people decide about marks, what is kept of the proof, and mends for many posts at once."""

from __future__ import annotations

import io
import json
from unittest import mock

from mobbet.actions import (
    blogs,
    building,
    docket_lines,
    house_facts,
    house_words,
    kept_blocks,
    library,
    link_checks,
    mending,
    people,
    posts,
    proofing,
    readers,
)
from mobbet.actions.indexing import bring_up_to_date
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, Refused
from mobbet.services.contracts import LinkReply
from mobbet.services.stand_ins.link_answers import ScriptedReplies
from mobbet.store import blogs as blog_store
from mobbet.store import posts as post_store
from mobbet.store import proofs
from mobbet.store.posts import Post
from tests.shops import DAY, ShopCase, picture

HOUR = 3600


class ProofCase(ShopCase):
    def draft(self, title: str, body: str, **settings: str) -> Post:
        return self.write(title, body, state="draft", **settings)

    def marks(self, post: Post, check: str = "") -> list[str]:
        self.blog = blog_store.by_id(self.shop.db, self.blog.id)
        return [
            mark.text or mark.message
            for mark in proofing.read(self.shop, self.again(post), self.blog, self.me.id).marks
            if check in ("", mark.check)
        ]

    def text(self, post: Post) -> str:
        return json.dumps(
            schema.load(post_store.body(self.shop.db, post.id, self.again(post).revision)), ensure_ascii=False
        )


class DecisionTests(ProofCase):
    def test_a_mark_is_let_stand_with_a_reason_and_heeded_again(self) -> None:
        post = self.draft("A lamp", "We recieve lamps.")
        with self.assertRaisesRegex(BadInput, "say in 1 to 200 why"):
            proofing.ignore(self.shop, self.me, post.id, "spelling:recieve", " ")
        proofing.ignore(self.shop, self.me, post.id, "spelling:recieve", "It is quoted.")
        reading = proofing.read(self.shop, self.again(post), self.blog)
        self.assertEqual(self.marks(post, "spelling"), [])
        self.assertEqual(
            [(mark.text, why.reason, why.person) for mark, why in reading.stand],
            [("recieve", "It is quoted.", self.me.name)],
        )
        proofing.unignore(self.shop, self.me, post.id, "spelling:recieve")
        self.assertEqual(self.marks(post, "spelling"), ["recieve"])

    def test_a_word_is_learned_for_one_or_for_the_blog(self) -> None:
        post = self.draft("A pump", "The dashpot and the grommit.")
        other = people.add_person(self.shop, name="Bo", email="bo@bench.example", password="long enough word")
        blogs.add_member(self.shop, self.blog, other, "editor")
        house_words.learn(self.shop, self.me, post.id, "dashpot", "me")
        self.assertEqual(self.marks(post, "spelling"), ["grommit"])
        theirs = proofing.read(self.shop, self.again(post), self.blog, other.id).marks
        self.assertIn("dashpot", [mark.text for mark in theirs])
        house_words.learn(self.shop, self.me, post.id, "grommit", "blog")
        self.assertEqual(self.marks(post, "spelling"), [])
        for typed, whose, words in (
            ("two words", "me", "is not one word"),
            ("x", "nobody", "choose me or blog"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, words):
                house_words.learn(self.shop, self.me, post.id, typed, whose)

    def test_the_house_style_is_the_owners_and_is_read_line_by_line(self) -> None:
        post = self.draft("A letter", 'Send an email, "now"...')
        values = {"quotes": "curly", "dashes": "spaced", "ellipses": "sign", "avoided": "email: e-mail"}
        with self.assertRaisesRegex(BadInput, "no style the house can have"):
            house_words.set_house_words(self.shop, self.me, self.blog.slug, **{**values, "quotes": "loud"})
        house_words.set_house_words(self.shop, self.me, self.blog.slug, **values)
        self.assertEqual(
            [
                self.marks(post, check) != []
                for check in ("house-words", "quotation-marks", "ellipses", "dashes")
            ],
            [True, True, True, False],
        )

    def test_a_check_is_as_grave_as_the_blog_takes_it(self) -> None:
        post = self.draft("A lamp", "We recieve lamps.")
        for check, severity in (("spelling", "must"), ("description", "off")):
            house_words.set_severity(self.shop, self.me, self.blog.slug, check, severity)
        self.blog = blog_store.by_id(self.shop.db, self.blog.id)
        self.assertEqual(
            [mark.check for mark in proofing.read(self.shop, post, self.blog).must], ["spelling"]
        )
        self.assertEqual(self.marks(post, "description"), [])
        with self.assertRaisesRegex(BadInput, "is no choice"):
            house_words.set_severity(self.shop, self.me, self.blog.slug, "spelling", "awful")

    def test_one_rule_is_set_and_the_others_stay(self) -> None:
        for where, value in (
            ("quotes", "curly"), ("avoided", "email: e-mail"), ("learned", "grommit\ndashpot, balk"),
            ("tries_links", ""), ("check:spelling", "must"), ("check:description", "off"), ("check:spelling", ""),
        ):  # fmt: skip
            house_words.set_word(self.shop, self.me, self.blog.slug, where, value)
        blog = blog_store.by_id(self.shop.db, self.blog.id)
        self.assertEqual(
            (blog.quotes, blog.avoided, blog.tries_links, blog.severities),
            ("curly", '[["email","e-mail"]]', 0, '{"description":"off"}'),
        )
        self.assertEqual(len(proofs.learned_for(self.shop.db, blog_id=blog.id)), 3)
        for where in ("", "name", "avoided ", "check:", "severities"):
            with self.subTest(where), self.assertRaises(BadInput):
                house_words.set_word(self.shop, self.me, self.blog.slug, where, "x")

    def test_what_must_be_settled_holds_a_post_back_until_an_editor_says_why_not(self) -> None:
        post = self.draft("A lamp", "![](https://a.example/x.jpg)")
        with self.assertRaisesRegex(
            Refused, "1 mark must be settled first: The picture has no alternative text"
        ):
            proofing.before_placing(self.shop, self.me, post.id)
        writer = people.add_person(
            self.shop, name="Bo", email="bo@bench.example", password="long enough word"
        )
        blogs.add_member(self.shop, self.blog, writer, "writer")
        theirs = posts.begin_post(self.shop, writer, self.blog.slug)
        with self.assertRaisesRegex(Refused, "Only an editor can let a post go out"):
            proofing.before_placing(self.shop, writer, theirs.id, "because")
        self.assertEqual(
            len(proofing.before_placing(self.shop, self.me, post.id, "It is a drawing of nothing.")), 1
        )
        self.assertEqual(proofs.last_override(self.shop.db, post.id).reason, "It is a drawing of nothing.")

    def test_a_picture_without_words_is_named_by_its_file(self) -> None:
        row = library.add_stream(self.shop, self.me, self.blog, "kettle.png", io.BytesIO(picture()))
        marks = self.marks(self.draft("A kettle", f"![](media:{row.id})"), "alternative-text")
        self.assertEqual(marks, ["kettle.png"])

    def test_no_word_lets_out_what_publishing_refuses(self) -> None:
        post = posts.begin_post(self.shop, self.me, self.blog.slug)
        with self.assertRaisesRegex(BadInput, "no title yet"):
            proofing.before_placing(self.shop, self.me, post.id, "It may stay nameless.")
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM overridden"), 0)

    def test_a_post_has_a_language_of_its_own(self) -> None:
        post = self.write("Una lampara", "Palabras.", date="2026-11-01", language="Spanish")
        self.assertEqual(self.again(post).language, "es")
        self.assertEqual(self.marks(post, "spelling"), [])
        self.assertIn(
            'lang="es"',
            next(body for path, body in self.site().items() if path.endswith("/una-lampara/")).decode(),
        )
        with self.assertRaisesRegex(BadInput, "is no language Mobbet knows"):
            docket_lines.set_language(self.shop, self.me, post.id, "Moonish")

    def test_posts_that_should_link_here_are_found(self) -> None:
        here = self.write("Rewiring a desk lamp", "Words.")
        self.write("Stools", "As when rewiring the desk lamp, we sat.")
        self.write("Chairs", "As when [rewiring the desk lamp](post:1), we sat.")
        bring_up_to_date(self.shop, self.blog)
        self.assertEqual(
            [other.title for other in proofing.should_link_here(self.shop, here, self.blog)], ["Stools"]
        )

    def test_what_is_odd_about_going_out_is_known(self) -> None:
        post = self.draft("A lamp", "Words.")
        self.write("Another", "Words.", date="2026-12-01T09:10")
        docket_lines.set_time(self.shop, self.me, post.id, "goes_out_wall", "2026-12-01 09:30")
        self.assertEqual(self.marks(post, "time"), ["Another"])
        docket_lines.set_time(self.shop, self.me, post.id, "goes_out_wall", "2026-01-01 09:30")
        self.assertIn(
            "is past",
            " ".join(mark.message for mark in proofing.read(self.shop, self.again(post), self.blog).marks),
        )


class KeptTests(ProofCase):
    def test_an_error_in_one_post_holds_up_no_other(self) -> None:
        post = self.draft("A lamp", "We recieve lamps.")
        with (
            mock.patch.object(proofing, "material_of", side_effect=RuntimeError),
            self.assertLogs("mobbet.proof"),
        ):
            self.assertGreater(proofing.read_some(self.shop, 50), 0)
        self.assertEqual(proofing.read_some(self.shop, 50), 0)
        self.assertEqual(proofs.counts(self.shop.db, [post.id])[post.id], (0, 0, 0))

    def test_each_post_is_read_once_and_again_when_it_changed(self) -> None:
        post = self.draft("A lamp", "We recieve lamps.")
        self.assertGreater(proofing.read_some(self.shop, 50), 0)
        self.assertEqual(proofing.read_some(self.shop, 50), 0)
        before = proofs.counts(self.shop.db, [post.id])[post.id]
        self.clock.forward(60)
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="A lamp",
            subtitle="",
            body=schema.EMPTY,
        )
        self.assertEqual(proofing.read_some(self.shop, 50), 1)
        self.assertLess(proofs.counts(self.shop.db, [post.id])[post.id][1], before[1])
        self.assertEqual(len(proofs.days(self.shop.db, self.blog.id, 10)), 1)

    def test_marks_are_listed_by_check_and_paged(self) -> None:
        for number in range(25):
            self.draft(f"Lamp {number}", "We recieve lamps.")
        proofing.read_some(self.shop, 50)
        first, follows = mending.page_of(self.shop, self.blog, "spelling", 0)
        rest, end = mending.page_of(self.shop, self.blog, "spelling", follows)
        self.assertEqual((len(first), len(rest), end), (20, 5, 0))
        self.assertEqual(len({one.post.post_id for one in first + rest}), 25)


class ManyTests(ProofCase):
    def test_many_posts_are_mended_at_once_and_then_updated(self) -> None:
        out = self.write("Out", "The the lamp -- and more.", date="2026-11-01")
        draft = self.draft("Draft", "The **the** lamp.")
        building.publish(self.shop, self.blog)
        done = mending.mend_all(self.shop, self.me, self.blog, "doubled-words", [out.id, draft.id])
        self.assertEqual((done.marks, done.posts, done.waiting), (2, 2, [out.id]))
        self.assertNotIn("The the", self.text(out))
        self.assertIn(
            b"The the lamp", next(body for path, body in self.site().items() if path.endswith("/out/"))
        )
        updated, problems, pages = mending.update_all(self.shop, self.me, self.blog, done.waiting)
        self.assertEqual((updated, problems), (1, []))
        self.assertGreater(pages, 0)
        with self.assertRaisesRegex(BadInput, "looking at one by one"):
            mending.mend_all(self.shop, self.me, self.blog, "spelling", [out.id])

    def test_pictures_are_described_and_posts_summarised_many_at_once(self) -> None:
        post = self.draft("A lamp", "![](https://a.example/x.jpg)\n\nA long word or two about a lamp.")
        mending.describe(self.shop, self.me, self.blog, {(post.id, "[0]"): "A lamp on a bench"})
        self.assertEqual(self.marks(post, "alternative-text"), [])
        self.assertEqual(
            mending.proposed(schema.load(post_store.working_body(self.shop.db, post.id))),
            "A long word or two about a lamp.",
        )
        mending.summarise(self.shop, self.me, {post.id: "How a lamp was mended."})
        self.assertEqual(self.marks(post, "description"), [])
        for act in (
            lambda: mending.describe(self.shop, self.me, self.blog, {}),
            lambda: mending.summarise(self.shop, self.me, {post.id: " "}),
        ):
            with self.assertRaises(BadInput):
                act()

    def test_links_that_do_not_answer_are_led_elsewhere_in_every_post(self) -> None:
        made = [self.draft(f"Lamp {number}", "A [page](https://gone.example/x#y).") for number in range(2)]
        proofing.read_some(self.shop, 50)
        mending.lead_on(self.shop, self.me, self.blog, {"https://gone.example/x": "https://there.example/"})
        for post in made:
            self.assertIn("https://there.example/", self.text(post))
        with self.assertRaisesRegex(BadInput, "is no address"):
            mending.lead_on(self.shop, self.me, self.blog, {"https://gone.example/x": "there"})


class LinkTests(ProofCase):
    def test_links_out_are_tried_once_a_week_and_told_of_when_they_failed_twice(self) -> None:
        post = self.draft("A lamp", "A [page](https://gone.example/x) and [one](https://moved.example/).")
        proofing.read_some(self.shop, 50)
        self.shop.services.ask = asker = ScriptedReplies(
            {
                "https://gone.example/x": LinkReply("answered with 404"),
                "https://moved.example/": LinkReply(ends_at="https://new.example/"),
            }
        )
        link_checks.try_some(self.shop)
        self.assertEqual(self.marks(post, "link-answers"), ["one"])
        self.clock.forward(2 * HOUR)
        link_checks.try_some(self.shop)
        self.assertEqual(self.marks(post, "link-answers"), ["page", "one"])
        self.assertEqual(len(asker.asked), 3)
        asker.answers["https://gone.example/x"] = LinkReply()
        self.clock.forward(8 * DAY)
        link_checks.try_some(self.shop)
        self.assertEqual(self.marks(post, "link-answers"), ["one"])

    def test_what_cannot_be_asked_is_not_told_of(self) -> None:
        post = self.draft("A lamp", "A [page](https://quiet.example/).")
        proofing.read_some(self.shop, 50)
        self.shop.services.ask = ScriptedReplies()
        for _ in range(3):
            link_checks.try_some(self.shop)
            self.clock.forward(2 * DAY)
        self.assertEqual(self.marks(post, "link-answers"), [])


class KnowingTests(ProofCase):
    def test_an_address_that_is_about_to_change_is_told(self) -> None:
        post = self.write("A lamp", "Words.", date="2026-11-01")
        self.assertEqual(self.marks(post, "address"), [])
        docket_lines.set_slug(self.shop, self.me, post.id, "brass-lamp")
        self.assertTrue(self.marks(post, "address")[0].endswith("/brass-lamp/"))

    def test_fewer_readers_than_usual_and_letters_are_told(self) -> None:
        for number in range(5):
            self.write(f"Lamp {number}", "Words.", date="2026-11-01", categories="Lamps")
        group = readers.make_group(self.shop, self.me, self.blog, "Friends")
        readers.add_readers(self.shop, self.me, self.blog, group.id, "ann@a.example\nbob@a.example")
        readers.set_writes(self.shop, self.me, self.blog, group.id, True)
        post = self.draft("For friends", "Words.", categories="Lamps")
        docket_lines.set_visibility(self.shop, self.me, post.id, "group:Friends")
        self.assertIn("what is usual in Lamps", self.marks(post, "readers")[0])
        self.assertEqual(self.marks(post, "letters"), ["Friends"])
        told = [
            mark.message
            for mark in proofing.read(self.shop, self.again(post), self.blog).marks
            if mark.check == "letters"
        ]
        self.assertEqual(told, ["When it goes out, 2 readers of Friends get a letter."])

    def test_a_standing_copy_that_was_set_aside_is_told(self) -> None:
        kept = kept_blocks.keep_blocks(
            self.shop, self.me, self.blog.slug, "Hours", from_markdown("Open on Friday.")["content"]
        )
        post = self.draft("A lamp", "Words.")
        body = {"type": "doc", "content": [{"type": "standing", "attrs": {"copy": kept.id}}]}
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="A lamp",
            subtitle="",
            body=body,
        )
        self.assertEqual(self.marks(post, "standing-copy"), [])
        kept_blocks.remove_kept(self.shop, self.me, self.blog.slug, kept.id, False)
        told = [
            mark
            for mark in proofing.read(self.shop, self.again(post), self.blog).marks
            if mark.check == "standing-copy"
        ]
        self.assertEqual(
            [(mark.text, mark.message.split("; ")[1]) for mark in told],
            [("Hours", "readers get nothing in its place.")],
        )

    def test_links_to_posts_and_partners_are_held_against_the_blog(self) -> None:
        house_facts.give_facts(self.shop, self.me, self.blog.slug, link_rule="shop.example paid")
        draft = self.draft("Not out", "Words.")
        post = self.draft("A lamp", f"A [draft](post:{draft.id}) and a [shop](https://shop.example/).")
        self.assertEqual(
            (self.marks(post, "link-target"), self.marks(post, "partner-links")), (["draft"], ["shop"])
        )

    def test_words_further_away_are_offered_one_more_at_each_reading(self) -> None:
        post = self.draft("A lamp", "The xmaintainencex and the kolordashpottt hum.")
        offered = [
            sum(
                bool(mark.mends)
                for mark in proofing.read(self.shop, self.again(post), self.blog).marks
                if mark.check == "spelling"
            )
            for _ in range(2)
        ]
        self.assertLessEqual(offered[0], offered[1])
        self.assertEqual(len([key for key in self.shop.cache if key[0] == "words"]), 2)

    def test_a_word_learned_for_oneself_is_forgotten_again(self) -> None:
        post = self.draft("A pump", "The dashpott.")
        house_words.learn(self.shop, self.me, post.id, "dashpott", "me")
        self.assertEqual(self.marks(post, "spelling"), [])
        house_words.forget_word(self.shop, self.me, "dashpott")
        self.assertEqual(self.marks(post, "spelling"), ["dashpott"])

    def test_what_is_out_is_not_updated_while_a_mark_must_be_settled(self) -> None:
        post = self.write("Out", "The the lamp.\n\n![](https://a.example/x.jpg)", date="2026-11-01")
        building.publish(self.shop, self.blog)
        done = mending.mend_all(self.shop, self.me, self.blog, "doubled-words", [post.id])
        updated, problems, _ = mending.update_all(self.shop, self.me, self.blog, done.waiting)
        self.assertEqual(updated, 0)
        self.assertIn("“Out”: 1 mark must be settled first", problems[0])

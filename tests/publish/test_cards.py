"""Posts as lists show them: form, note, teaser, and a digest that changes with whatever is shown."""

from __future__ import annotations

import re
import unittest
from pathlib import Path

from mobbet.actions import categories, placing, posts
from mobbet.core.document.from_markdown import from_markdown
from mobbet.publish import cards, feeds, templating
from mobbet.publish.cards import Card, Cards
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import ShopCase


class CardCase(ShopCase):
    def cards(self) -> tuple[Cards, SiteSnapshot]:
        snapshot = SiteSnapshot(self.shop.db, self.blog.id, self.clock())
        return Cards(snapshot), snapshot

    def card(self, post: Post, in_lists: bool = False) -> Card:
        cards, snapshot = self.cards()
        out = snapshot.post(post.id)
        return cards.in_lists(out) if in_lists else cards.of(out)


class CardTests(CardCase):
    def made(self, body: str, **settings: str) -> Card:
        return self.card(self.write("A post", body, date="2026-01-01", **settings))

    def test_the_form_follows_what_leads_the_text(self) -> None:
        for body, form, note in (
            ("> Said by somebody.\n\nWords.", "quotation", ""),
            ("[A shop](https://shop.example/a)\n\nWords.", "link", "link to shop.example"),
            ("| a | b |\n| - | - |\n| 1 | 2 |", "table", "a table: a, b"),
            ("Plain words.", "text", ""),
        ):
            with self.subTest(form):
                card = self.made(body)
                self.assertEqual((card.form, card.note), (form, note))

    def test_a_quotation_and_a_link_stand_in_the_list_themselves(self) -> None:
        self.assertEqual(self.made("> Said by\n> somebody.").quotation, "Said by somebody.")
        link = self.made("[A shop](https://shop.example/a)\n\nIt sells flex.")
        self.assertEqual((link.away, link.teaser), ("https://shop.example/a", "It sells flex."))

    def test_the_teaser_is_the_excerpt_or_what_stands_above_the_line(self) -> None:
        self.assertEqual(self.made("Long words.", excerpt="In <short>.").teaser, "In &lt;short&gt;.")
        self.assertEqual(
            self.made("Above *it*.\n\n:::teaser-line\n:::\n\nBelow.", excerpt="In short.").description,
            "In short.",
        )
        self.assertEqual(self.made("First.\n\nSecond.").teaser, "First.")

    def test_a_description_comes_from_the_best_there_is(self) -> None:
        self.assertEqual(self.made("Words of it.", description="For search.").description, "For search.")
        self.assertEqual(self.made("Words of it.").description, "Words of it.")
        self.assertEqual(
            self.made("![x](https://a.example/x.jpg)", subtitle="Below the title").description,
            "Below the title",
        )

    def test_reading_takes_a_minute_at_least(self) -> None:
        self.assertEqual((self.made("One two three.").words, self.made("One two three.").minutes), (3, 1))
        self.assertEqual(self.made("word " * 700).minutes, 4)

    def test_the_main_category_is_the_first(self) -> None:
        card = self.made("Words.", categories="[Lamps > Wiring, Clocks]")
        self.assertEqual(
            (card.category, [path for _, path in card.categories]), ("Wiring", ["/wiring/", "/clocks/"])
        )
        self.assertEqual(self.made("Words.").category, "")

    def test_of_a_post_behind_a_password_lists_show_what_its_author_lets_them(self) -> None:
        post = self.write(
            "Behind a door",
            "The secret words.",
            date="2026-01-01",
            visibility="password",
            password="knock knock",
            subtitle="The subtitle",
        )
        own, listed = self.card(post), self.card(post, in_lists=True)
        self.assertEqual((own.subtitle, own.teaser), ("The subtitle", "The secret words."))
        self.assertEqual((listed.subtitle, listed.teaser, listed.words), ("", "", 0))


class DigestTests(CardCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.write("A post", "Words.", date="2026-01-01", categories="Lamps", tags="flex")

    def test_the_same_facts_have_the_same_digest(self) -> None:
        self.assertEqual(self.card(self.post).digest, self.card(self.post).digest)

    def test_whatever_is_shown_alters_it(self) -> None:
        seen = {self.card(self.post).digest}
        for change in (self.reword, self.rename_category, self.retitle):
            with self.subTest(change.__name__):
                change()
                digest = self.card(self.post).digest
                self.assertNotIn(digest, seen)
                seen.add(digest)

    def save(self, title: str, words: str) -> None:
        self.clock.forward(60)
        post = self.again(self.post)
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title=title,
            subtitle="",
            body=from_markdown(words),
        )
        placing.place(self.shop, self.me, post.id)

    def reword(self) -> None:
        self.save("A post", "Other words.")

    def retitle(self) -> None:
        self.save("Another title", "Other words.")

    def rename_category(self) -> None:
        number = SiteSnapshot(self.shop.db, self.blog.id, self.clock()).post(self.post.id).categories[0]
        categories.rename(self.shop, self.me, "bench", number, "Lights")

    def test_a_draft_alters_nothing_until_it_is_placed(self) -> None:
        before = self.card(self.post).digest
        post = self.again(self.post)
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title="Not yet",
            subtitle="",
            body=from_markdown("Not yet."),
        )
        self.assertEqual(self.card(self.post).digest, before)


class FieldTests(unittest.TestCase):
    """A digest leaves out nothing that is shown: the fields it is made of are those that templates and feeds read."""

    def test_lists_show_no_field_that_their_digest_lacks(self) -> None:
        shown = set(re.findall(r"\bcard\.(\w+)", (templating.TEMPLATES / "item.html").read_text()))
        apart = {"categories", "minutes"}  # told beside the digest, where lists show them
        self.assertEqual(shown | {"picture"}, set(cards.LIST_FIELDS) | apart)

    def test_feeds_show_no_field_that_their_fingerprint_lacks(self) -> None:
        source = Path(feeds.__file__).read_text()
        shown = set(re.findall(r"\bcard\.(\w+)", source)) - {"categories"}
        self.assertEqual(shown, set().union(*feeds.FIELDS.values()))

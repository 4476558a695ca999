"""Finding posts: beside a naive scan, tolerant of a slip, in any script, with states as they are."""

from __future__ import annotations

import random
import re
from unittest import mock

from mobbet.actions import categories, placing, post_search, post_states, posts
from mobbet.core.document import schema
from mobbet.core.document.write import to_text
from mobbet.store import posts as post_store
from tests.shops import DAY, ShopCase

WORDS = "lamp fuse switch kettle glue hinge radio belt motor tap valve lamps fused switches".split()


class FindingTests(ShopCase):
    def found(self, query: str) -> list[str]:
        return [one.title for one in post_search.find(self.shop, self.blog, query).posts]

    def test_it_finds_what_a_naive_scan_finds(self) -> None:
        chance = random.Random(3)
        made = [
            self.write(
                f"{chance.choice(WORDS)} {number}",
                " ".join(chance.choice(WORDS) for _ in range(12)),
                tags=chance.choice(WORDS),
            )
            for number in range(40)
        ]
        texts = {}
        for post in made:
            body = schema.load(post_store.body(self.shop.db, post.id, self.again(post).revision))
            texts[post.id] = re.findall(r"\w+", f"{self.again(post).title} | {to_text(body)}".lower())
        for _ in range(60):
            one, two, three = chance.sample(WORDS, 3)
            for query, holds in (
                (f"{one} {two} ", lambda words, one=one, two=two: one in words and two in words),
                (f'"{one} {two}"', lambda words, one=one, two=two: (one, two) in zip(words, words[1:], strict=False)),
                (f"{one} -{three} ", lambda words, one=one, three=three: one in words and three not in words),
                (one[:3], lambda words, one=one: any(word.startswith(one[:3]) for word in words)),
            ):  # fmt: skip
                wanted = {number for number, words in texts.items() if holds(words)}
                result = post_search.find(self.shop, self.blog, query, 40)
                if wanted or not result.instead:
                    self.assertEqual(
                        ({found.id for found in result.posts}, result.total), (wanted, len(wanted)), query
                    )

    def test_titles_come_first(self) -> None:
        self.write("About tea", "The kettle, the kettle and the kettle.")
        self.write("A kettle", "Words.")
        self.assertEqual(self.found("kettle"), ["A kettle", "About tea"])

    def test_filters_say_what_is_wanted(self) -> None:
        lamps = categories.add(self.shop, self.me, "bench", "Lamps").subject
        self.write("In wiring", "x", categories="Lamps > Wiring", tags="flex", date="2026-03-10")
        self.write("In lamps", "x", categories="Lamps", date="2026-05-01")
        self.write("A draft", "x", tags="flex")
        self.write("A page", "x", kind="page", tags="flex")
        self.assertTrue(lamps)
        for query, titles in (
            ("in:lamps", {"In wiring", "In lamps"}), ("in:Wiring", {"In wiring"}), ("tag:flex", {"In wiring", "A draft", "A page"}), ("tag:flex is:draft", {"A draft", "A page"}), ("is:page", {"A page"}), ("tag:flex is:post is:draft", {"A draft"}), ("lamps is:pages", set()), ("before:2026-04 is:published", {"In wiring"}),
            ("after:2026-04 is:published", {"In lamps"}), (f"by:{self.me.name.split()[0]} tag:flex is:post", {"In wiring", "A draft"}), ("by:nobody", set()), ("in:nowhere", set()), ('in:"Lamps > Wiring"', {"In wiring"}),
        ):  # fmt: skip
            with self.subTest(query):
                self.assertEqual(set(self.found(query)), titles)

    def test_states_are_told_as_they_are(self) -> None:
        made = {
            name: self.write(name, "Words.", **more)
            for name, more in (
                ("draft", {}),
                ("out", {"date": "2026-11-01"}),
                ("coming", {"date": "2026-12-24"}),
                ("gone", {"date": "2026-11-01"}),
                ("aside", {}),
                ("down", {"date": "2026-11-01", "expires": "2026-11-20"}),
            )
        }
        placing.withdraw(self.shop, self.me, made["gone"].id)
        placing.set_aside(self.shop, self.me, made["aside"].id)
        self.clock.forward(4 * DAY)
        for query, name in (
            ("is:draft", "draft"),
            ("is:out", "out"),
            ("is:timetable", "coming"),
            ("is:withdrawn", "gone"),
            ("is:set-aside", "aside"),
            ("is:came-down", "down"),
        ):
            with self.subTest(query):
                self.assertEqual(self.found(query), [name])
                self.assertEqual(
                    post_search.find(self.shop, self.blog, query).posts[0].state,
                    post_states.state_of(self.shop, self.again(made[name])),
                )

    def test_a_slip_is_forgiven_when_nothing_matches(self) -> None:
        self.write("Five fuses", "The fuse and the switch.")
        result = post_search.find(self.shop, self.blog, "fusse swithc")
        self.assertEqual(
            ([one.title for one in result.posts], result.instead),
            (["Five fuses"], {"fusse": "fuse", "swithc": "switch"}),
        )
        self.assertEqual(post_search.find(self.shop, self.blog, "qqqqqq").total, 0)

    def test_few_words_of_a_long_query_are_tried_for_slips(self) -> None:
        with mock.patch.object(post_search.finding, "near_terms", return_value=[]) as near:
            post_search.find(
                self.shop, self.blog, '"' + " ".join(letter * 3 + "zqx" for letter in "abcdefghijklmnopqrst")
            )
        self.assertEqual(near.call_count, post_search.MOST_SLIPS)

    def test_any_script_is_found_within_its_sentences(self) -> None:
        self.write("電気ケトル", "電気ケトルを直すのは楽しい。")
        self.write("Кофемолка", "Мы чинили её вечером.")
        for query, title in (
            ("ケトルを", "電気ケトル"),
            ("直す", "電気ケトル"),
            ("чинили", "Кофемолка"),
            ("кофе", "Кофемолка"),
        ):
            with self.subTest(query):
                self.assertEqual(self.found(query), [title])

    def test_the_place_in_the_text_is_shown(self) -> None:
        self.write("A post", "Long before. " * 20 + "The dashpot holds oil. " + "Long after. " * 20)
        place = next(
            iter(post_search.places(self.shop, post_search.find(self.shop, self.blog, "dashpot")).values())
        )
        self.assertIn(("dashpot", True), place)
        self.assertLess(len("".join(words for words, _ in place)), 200)

    def test_a_draft_is_found_by_its_last_save(self) -> None:
        post = self.write("One", "Old words.")
        self.assertEqual(self.found("newest"), [])
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="One, newest",
            subtitle="",
            body=schema.EMPTY,
        )
        self.assertEqual((self.found("newest"), self.found("old")), (["One, newest"], []))

"""The sentence of the desk: from an address and back, with whose list it is."""

from __future__ import annotations

import unittest
from dataclasses import replace

from mobbet.actions import desk_views
from mobbet.core.errors import BadInput
from mobbet.store import desk_views as view_store
from mobbet.web.desk import filter as desk_filter
from mobbet.web.desk import filtered_rows
from mobbet.web.desk.filter import Filter, read_filter
from tests.shops import ShopCase


class ReadTests(unittest.TestCase):
    def test_words_that_mean_nothing_are_left_out(self) -> None:
        self.assertEqual(read_filter("lost", "me", "-1", "blue", "sideways"), Filter())
        self.assertEqual(
            read_filter("draft", "3", "12", "unsettled", "oldest"),
            Filter("draft", 3, 12, "unsettled", "oldest"),
        )

    def test_an_address_says_only_what_is_not_usual(self) -> None:
        for said, query in (
            (Filter(), ""),
            (Filter("draft", order="untouched"), "state=draft&order=untouched"),
            (Filter(author=7, usual=7), ""),
            (Filter(author=0, usual=7), "author=anyone"),
            (Filter(category=4), "category=4"),
        ):
            with self.subTest(query):
                self.assertEqual(said.query, query)

    def test_an_address_comes_back_as_the_filter_it_was_made_from(self) -> None:
        for said in (
            Filter("out", 0, 4, "clear", "touched", 7),
            Filter("", 2, 0, "", "newest", 7),
            Filter(usual=7, author=7),
        ):
            values = dict(part.split("=") for part in said.query.split("&") if part)
            with self.subTest(said):
                self.assertEqual(
                    read_filter(
                        *(values.get(name, "") for name in ("state", "author", "category", "marks", "order")),
                        usual=7,
                    ),
                    said,
                )

    def test_groups_show_what_names_an_author_at_the_most(self) -> None:
        self.assertEqual(
            [
                one.is_plain
                for one in (
                    Filter(),
                    Filter(author=3),
                    Filter(author=3, usual=3),
                    Filter("draft"),
                    Filter(order="oldest"),
                )
            ],
            [True, True, True, False, False],
        )
        self.assertEqual(
            [one.is_usual for one in (Filter(), Filter(author=3), Filter(author=3, usual=3))],
            [True, False, True],
        )


class SentenceTests(ShopCase):
    def test_the_sentence_offers_what_there_is_and_shows_what_is_chosen(self) -> None:
        self.write("A post", categories="Lamps > Wiring")
        sentence = desk_filter.sentence_of(self.shop, self.me, self.blog, Filter("draft", order="untouched"))
        self.assertEqual(
            [one.words for one in sentence.categories],
            ["any category", "Lamps, and what is below", "– Wiring, and what is below"],
        )
        self.assertEqual([one.words for one in sentence.authors], ["anyone", "me"])
        self.assertEqual([one.value for one in sentence.states if one.is_chosen], ["draft"])
        self.assertEqual(sentence.name, "drafts")

    def test_a_list_is_kept_under_a_name_and_forgotten(self) -> None:
        for name in ("", "  ", "x" * 61):
            with self.subTest(name), self.assertRaisesRegex(BadInput, "give the list one of 1 to 60"):
                desk_views.keep(self.shop, self.me, self.blog, name, "state=draft")
        desk_views.keep(self.shop, self.me, self.blog, "  Old   drafts ", "state=draft")
        kept = view_store.of(self.shop.db, self.blog.id, self.me.id)
        self.assertEqual([(name, query) for _, name, query in kept], [("Old drafts", "state=draft")])
        chosen = desk_filter.sentence_of(self.shop, self.me, self.blog, Filter("draft"))
        self.assertTrue(chosen.kept[0].is_chosen)
        desk_views.forget(self.shop, self.me, kept[0][0])
        self.assertEqual(view_store.of(self.shop.db, self.blog.id, self.me.id), [])

    def test_a_list_tells_how_many_it_has_and_an_empty_one_has_no_group(self) -> None:
        written = {self.write(f"Post {number}").id for number in range(7)}
        plain = Filter("draft", order="untouched")
        first = filtered_rows.rows(self.shop, self.blog, plain).groups[0]
        self.assertEqual({row.id for row in first.rows}, written)
        self.assertEqual(first.heading, "7 posts")
        self.write("About us", kind="page")
        groups = filtered_rows.rows(self.shop, self.blog, plain).groups
        self.assertEqual([group.heading for group in groups], ["7 posts and 1 page"])
        self.assertEqual(filtered_rows.rows(self.shop, self.blog, replace(plain, state="out")).groups, [])

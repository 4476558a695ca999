"""A footprint in words."""

import unittest

from mobbet.actions.footprints import Head
from mobbet.core.facts import Subject
from mobbet.core.keys import PageKey
from mobbet.publish.changes.altered import Altered
from mobbet.web.shell.footprints import in_words

SUBJECTS = {
    4: Subject(4, "Lamps", "lamps"),
    2: Subject(2, "Clocks", "clocks"),
    11: Subject(11, "Wiring", "wiring", 4),
}


def altered(*keys: str, what: str = "altered") -> list[Altered]:
    return [Altered(PageKey(key), f"/{key}/", what) for key in keys]


class InWordsTests(unittest.TestCase):
    def lines(self, pages: list[Altered], **more: object) -> list[str]:
        return [line.words for line in in_words(pages, SUBJECTS, **more).lines]

    def test_the_posts_own_page_comes_first(self) -> None:
        self.assertEqual(
            self.lines(altered("list/front/0", "post/3", "post/7"), post_id=7),
            ["this post’s page", "1 other post", "the front page"],
        )

    def test_categories_are_named_in_the_owners_order(self) -> None:
        self.assertEqual(
            self.lines(altered("list/category:11/0", "list/category:2/0", "list/category:4/0")),
            ["Lamps, Wiring, Clocks"],
        )

    def test_pages_of_a_list_are_counted_where_there_are_several(self) -> None:
        pages = altered(
            "list/category:4/0",
            "list/category:4/from-1",
            "list/front/from-2",
            "list/front/from-3",
            "list/month:2026-11/0",
            "list/tag:1/0",
            "list/tag:1/from-1",
        )
        self.assertEqual(
            self.lines(pages),
            ["2 older pages of the front", "Lamps, 2 pages", "1 tag page", "the page of November 2026"],
        )

    def test_feeds_are_told_once_whatever_their_formats(self) -> None:
        pages = altered("feed/all/atom", "feed/all/rss", "feed/category:2/atom", "feed/category:2/json")
        self.assertEqual(self.lines(pages), ["the blog’s feeds", "feed of Clocks"])

    def test_what_nobody_looks_at_by_itself_is_not_told(self) -> None:
        self.assertEqual(self.lines(altered("short/3", "media/1/whole", "asset/site.css", "card/3")), [])

    def test_old_addresses_that_redirect_and_pages_that_end_are_told_below(self) -> None:
        pages = [
            Altered(PageKey("post/3"), "/new/", "altered", None, "/old/"),
            *altered("former//old/", what="added"),
            *altered("list/category:2/from-1", what="removed"),
        ]
        words = in_words(pages, SUBJECTS)
        self.assertEqual(
            (words.count, words.addresses),
            (2, "Also 1 address that redirects. 1 old address leads to the new one. 1 page ends."),
        )

    def test_the_front_page_says_where_the_post_comes_to_stand(self) -> None:
        for head, words in (
            (Head(1, 10, "Which glue, honestly"), "first of ten; “Which glue, honestly” leaves it"),
            (Head(14, 20, ""), "number 14 of 20"),
            (Head(2, 12, "", True), "kept at the top"),
        ):
            self.assertEqual(
                self.lines(altered("list/front/0"), heads={"front": head}), [f"the front page: {words}"]
            )

    def test_the_menu_alters_every_page(self) -> None:
        words = in_words(altered("post/3", "short/3", "media/1/whole"), SUBJECTS, 3, every=1200)
        self.assertEqual(words.count, 1201)
        self.assertEqual(
            [line.words for line in words.lines],
            ["this post’s page", "every other page of the site, 1,200, for the menu stands on each"],
        )
        self.assertEqual(words.addresses, "Also 1 file of pictures or sound and 1 address that redirects.")

"""Pages beside posts: on no list, below one another, a post and back, with addresses that follow."""

import unittest

from mobbet.actions import categories, consistency, pages, placing
from mobbet.core.errors import BadInput
from mobbet.core.keys import ALL
from mobbet.core.values import existing
from mobbet.store import editions, placements, posts
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import ShopCase


class PageTests(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        self.out("About the bench", kind="about")
        self.out("Who mends here", kind="page", below="/about-the-bench/")

    def setUp(self) -> None:
        super().setUp()
        self.about, self.who = (existing(posts.by_id(self.shop.db, number)) for number in (1, 2))

    def path(self, post: Post) -> str:
        return placements.live_path(self.shop.db, post.id, self.clock())

    def html(self, path: str) -> str:
        row = existing(editions.page_at(self.shop.db, self.blog.id, path))
        return existing(self.body(row)).decode()

    def out(self, title: str, **settings: str) -> Post:
        return self.write(title, "Words.", date="2026-01-01", **settings)

    def test_a_page_stands_on_no_list_and_in_no_feed(self) -> None:
        self.out("A lamp", categories="Lamps")
        for path in ("/", "/archive/", "/feed.atom"):
            with self.subTest(path):
                self.assertNotIn("Who mends here", self.html(path))
        snapshot = SiteSnapshot(self.shop.db, self.blog.id, self.clock())
        self.assertEqual(len(snapshot.newest(ALL, 10)), 1)
        self.assertEqual(consistency.problems(self.shop), [])

    def test_it_has_no_date_and_byline_and_says_what_it_is(self) -> None:
        html = self.html("/about-the-bench/")
        self.assertNotIn("<time", html)
        self.assertNotIn("By Ines", html)
        self.assertIn('"@type":"AboutPage"', html)
        self.assertIn('og:type" content="website"', html)

    def test_it_stands_below_another_with_address_and_trail(self) -> None:
        self.assertEqual(self.path(self.who), "/about-the-bench/who-mends-here/")
        self.assertIn('<a href="../../about-the-bench/">About the bench</a>', self.html(self.path(self.who)))
        self.assertIn(">Who mends here</a></li>", self.html("/about-the-bench/"))
        self.assertIn(
            f"<loc>{self.blog.home}about-the-bench/who-mends-here/</loc>", self.html("/sitemap-pages-1.xml")
        )
        self.assertIn("sitemap-pages-1.xml", self.html("/sitemap.xml"))

    def test_pages_move_along_when_the_one_above_them_does(self) -> None:
        third = self.out("Their tools", kind="page", below="Who mends here")
        posts.settle(self.shop.db, self.about.id, self.clock(), slug="us")
        placing.place(self.shop, self.me, self.about.id)
        self.assertEqual(self.path(third), "/us/who-mends-here/their-tools/")
        self.assertIn("who-mends-here", self.html("/us/"))
        self.assertIn("../../us/who-mends-here/", self.html("/about-the-bench/who-mends-here/"))
        self.assertEqual(consistency.problems(self.shop), [])

    def test_a_post_becomes_a_page_and_back_and_keeps_its_filing(self) -> None:
        post = self.out("Find us", categories="Lamps", tags="flex")
        pages.set_kind(self.shop, self.me, post.id, "contact")
        placing.place(self.shop, self.me, post.id)
        self.assertEqual(self.path(post), "/find-us/")
        self.assertNotIn("Find us", self.html("/"))
        self.assertIn("find-us/", self.html("/lamps/find-us/"))
        number = posts.categories(self.shop.db, post.id)[0]
        categories.rename(self.shop, self.me, "bench", number, "Lights")
        pages.set_kind(self.shop, self.me, post.id, "post")
        placing.place(self.shop, self.me, post.id)
        self.assertIn("Find us", self.html("/"))
        self.assertEqual(consistency.problems(self.shop), [])

    def test_who_may_not_read_a_page_finds_no_trace_of_it(self) -> None:
        self.out("Our till", kind="page", below="About the bench", visibility="signed-in")
        self.out("Our bank", kind="page", below="Our till")
        self.assertNotIn("Our till", self.html("/about-the-bench/"))
        self.assertNotIn("Our till", self.html("/about-the-bench/our-till/our-bank/"))
        self.assertNotIn("our-till/<", self.html("/sitemap-pages-1.xml"))

    def test_what_cannot_be_is_refused_in_one_sentence(self) -> None:
        refused = {
            "Nowhere": "There is no page “Nowhere” on this blog; type the title or the address of one.",
            str(
                self.who.id
            ): "“About the bench” cannot stand below itself; choose a page that is not part of it.",
        }
        for typed, message in refused.items():
            with self.subTest(typed), self.assertRaises(BadInput) as caught:
                pages.set_below(self.shop, self.me, self.about.id, typed)
            self.assertEqual(str(caught.exception), message)
        with self.assertRaises(BadInput) as caught:
            pages.set_kind(self.shop, self.me, self.about.id, "leaflet")
        self.assertEqual(
            str(caught.exception), "“leaflet” is nothing a text can be; write post, page, about, contact."
        )

    def test_pages_stand_five_deep_and_no_deeper(self) -> None:
        above = self.who
        for number in range(3):
            page = self.write(f"Part {number}", "Words.", kind="page", below=str(above.id))
            above = page
        deepest = self.write("Part 4", kind="page")
        with self.assertRaises(BadInput):
            pages.set_below(self.shop, self.me, deepest.id, str(above.id))

    def test_comments_are_closed_on_a_page_until_it_is_opened(self) -> None:
        page = posts.again(self.shop.db, self.about)
        self.assertFalse(page.takes_comments)


if __name__ == "__main__":
    unittest.main()

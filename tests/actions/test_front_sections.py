"""The sections of the front page as readers get them, and what people name for them."""

from mobbet.actions import front_sections, kept_blocks, library, menus, most_read, new_blog, placing
from mobbet.core.audience import Reader
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.from_plain import from_plain
from mobbet.core.errors import BadInput
from mobbet.core.keys import FRONT
from mobbet.core.timing import month_number
from mobbet.core.values import existing
from mobbet.publish.pages import post_list
from mobbet.publish.pages.kinds import page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer
from mobbet.store import editions, posts
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import DAY, ShopCase, picture


class FrontCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        for number in range(1, 7):
            self.write(
                f"Post {number}",
                categories=("Lamps", "Clocks")[number % 2],
                tags="flex",
                date=f"2026-0{number}-01",
            )
        self.write("About us", kind="about", date="2026-01-01")
        self.publish()

    def give(self, change: menus.Change) -> None:
        menus.give_change(self.shop, self.me, "bench", change)

    def add(self, text: str, *shown: str) -> None:
        self.give(front_sections.adding(front_sections.read_section(self.shop, self.blog, text)))
        for one in shown:
            place = len(menus.given(self.shop, self.blog).sections) - 1
            self.give(front_sections.showing(self.shop, self.blog, place, one))

    def html(self, path: str = "/") -> str:
        return existing(self.body(existing(editions.page_at(self.shop.db, self.blog.id, path)))).decode()

    def section(self, kind: str) -> str:
        """The first section of a kind, as HTML; '' where there is none."""
        return self.html().partition(f'<section class="front-part {kind}')[2].partition("</section>")[0]


class ShowingTests(FrontCase):
    def test_chosen_posts_stand_in_their_order_and_only_once_with_an_anchor(self) -> None:
        self.add("chosen", "Post 4", "/lamps/post-2/", "1")
        titles = [self.section("chosen").index(f"Post {number}</a>") for number in (4, 2, 1)]
        self.assertEqual(titles, sorted(titles))
        self.assertEqual(self.html().count('id="post-4"'), 1)

    def test_a_category_shows_its_newest_and_leads_to_the_others(self) -> None:
        self.add("category:lamps")
        self.give(front_sections.most(1, 2))
        shown = self.section("category")
        self.assertIn('<a href="./lamps/">All of Lamps</a>', shown)
        self.assertEqual([n for n in range(1, 7) if f"Post {n}<" in shown], [4, 6])

    def test_a_post_that_strangers_may_not_read_is_in_no_section(self) -> None:
        self.add("chosen", "Post 4")
        self.add("category:lamps")
        for visibility in ("signed-in", "password"):
            posts.settle(self.shop.db, 4, self.clock(), visibility=visibility, listed="", password_key="x")
            placing.place(self.shop, self.me, 4)
            with self.subTest(visibility):
                self.assertNotIn("Post 4", self.html())
        self.assertNotIn("front-part chosen", self.html())

    def test_a_reader_of_a_restricted_post_finds_it_in_its_section(self) -> None:
        posts.settle(self.shop.db, 4, self.clock(), visibility="signed-in")
        placing.place(self.shop, self.me, 4)
        self.add("chosen", "Post 4")
        self.assertNotIn("Post 4", self.html())
        reader = Reader(is_signed_in=True)
        plan = Plan(SiteSnapshot(self.shop.db, self.blog.id, self.clock(), reader))
        page = existing(page_at(plan, post_list.key(FRONT)))
        self.assertIn(b"Post 4", render(Renderer(plan.snapshot.house, plan.snapshot.item), page).body)

    def test_who_writes_is_shown_by_their_newest_post(self) -> None:
        self.add("authors")
        self.assertIn(">Ines Farrow</a>", self.section("authors"))
        self.assertIn(">Post 6</a>", self.section("authors"))

    def test_pages_stand_without_author_and_date(self) -> None:
        self.add("pages")
        self.assertIn("About us", self.section("pages"))
        self.assertNotIn("<time", self.section("pages"))

    def test_a_saved_block_shows_its_new_words_with_the_next_edition_and_its_picture_is_out(self) -> None:
        item = library.add_picture(self.shop, self.me, self.blog, "sky.png", picture())
        block = kept_blocks.keep_blocks(
            self.shop, self.me, "bench", "Notice", from_plain("Pull the plug.")["content"]
        )
        self.add("blocks:Notice")
        self.assertIn("Pull the plug.", self.section("blocks"))
        words = from_markdown(f"Unplug it.\n\n![A lamp](media:{item.id})\n\n[Four](post:4)")
        kept_blocks.change_kept(self.shop, self.me, "bench", block.id, "Notice", words)
        self.publish()
        self.assertIn("Unplug it.", self.section("blocks"))
        self.assertIn('href="./lamps/post-4/"', self.section("blocks"))
        files = [row for row in editions.pages(self.shop.db, self.blog.id) if row.key.kind == "media"]
        self.assertTrue(files)
        self.assertEqual(self.publish(full=True).written, 0)
        kept_blocks.remove_kept(self.shop, self.me, "bench", block.id, True)
        self.assertEqual(self.section("blocks"), "")
        self.assertEqual(self.publish(full=True).written, 0)

    def test_with_a_page_as_the_front_door_there_are_no_sections(self) -> None:
        self.add("categories")
        self.give(menus.front_door(self.shop, self.blog, 7))
        self.assertNotIn("front-part", self.html("/") + self.html("/posts/"))

    def test_only_the_front_page_is_rewritten(self) -> None:
        before = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.add("categories")
        after = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.assertEqual([path for path in after if after[path] != before.get(path)], ["/"])


class MostReadTests(FrontCase):
    def read(self, number: int, count: int) -> None:
        self.shop.db.run("INSERT INTO reads VALUES (?, ?, ?)", number, month_number(self.clock()), count)

    def test_it_is_counted_now_and_then_and_not_with_every_reader(self) -> None:
        self.read(2, 5)
        self.read(5, 9)
        self.add("most_read")
        shown = self.section("most-read")
        self.assertLess(shown.index("Post 5"), shown.index("Post 2"))
        self.read(3, 50)
        self.clock.forward(DAY)
        self.publish(full=True)
        self.assertNotIn("Post 3", self.section("most-read"))
        self.assertEqual(most_read.count_again(self.shop), 1)
        self.assertIn("Post 3", self.section("most-read"))
        self.assertEqual(most_read.count_again(self.shop), 0)

    def test_a_blog_that_does_not_show_them_is_not_counted(self) -> None:
        self.read(2, 5)
        self.assertEqual(most_read.count_again(self.shop), 0)


class CategoriesElsewhereTests(FrontCase):
    def test_counts_of_the_foot_come_from_one_file(self) -> None:
        self.give(front_sections.foot_categories("counts"))
        self.assertIn('class="of-1"', self.html("/archive/"))
        self.assertIn('.of-1::after{content:"\\a0 3 posts"}', self.html("/counts.css"))
        before = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.write("Post 7", categories="Lamps", date="2026-07-01")
        self.publish()
        after = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.assertIn("4 posts", self.html("/counts.css"))
        self.assertEqual(before["/clocks/post-1/"], after["/clocks/post-1/"])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_foot_without_counts_has_no_such_file(self) -> None:
        self.give(front_sections.foot_categories("names"))
        self.assertIn("foot-categories", self.html("/archive/"))
        self.assertIsNone(editions.page_at(self.shop.db, self.blog.id, "/counts.css"))


class NamingTests(FrontCase):
    def test_nonsense_is_refused_in_a_sentence(self) -> None:
        other = new_blog.begin(
            self.shop,
            self.me,
            name="Other",
            address="other",
            zone="Europe/Lisbon",
            home="https://o.example/",
            source="",
            parts=[],
        ).blog
        block = kept_blocks.keep_blocks(self.shop, self.me, "other", "Theirs", from_plain("x")["content"])
        for text in (
            "",
            "x",
            "category:",
            "category:99",
            "tag:nothing",
            f"blocks:{block.id}",
            "blocks:",
            "newest",
            "category:²",
        ):
            with self.subTest(text), self.assertRaisesRegex(BadInput, "no section of a front page"):
                front_sections.read_section(self.shop, self.blog, text)
        self.add("chosen")
        for text in ("", "No such post", "About us", "99", "/lamps/", "²"):
            with self.subTest(text), self.assertRaisesRegex(BadInput, "nothing that can stand there"):
                self.give(front_sections.showing(self.shop, self.blog, 1, text))
        self.assertEqual(other.slug, "other")

    def test_a_new_blog_takes_over_the_sections_that_it_can_show(self) -> None:
        kept_blocks.keep_blocks(self.shop, self.me, "bench", "Notice", from_plain("x")["content"])
        for text in ("category:lamps", "blocks:Notice", "chosen", "tag:flex", "most_read"):
            self.add(text)
        made = new_blog.begin(
            self.shop,
            self.me,
            name="Second",
            address="second",
            zone="Europe/Lisbon",
            home="https://s.example/",
            source="bench",
            parts=list(new_blog.PARTS),
        )
        sections = menus.given(self.shop, made.blog).sections
        self.assertEqual([one.kind for one in sections], ["newest", "category", "blocks", "most_read"])

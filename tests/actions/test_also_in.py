"""One post in several blogs: one text and its times, the filing of each blog, and the rights of both."""

from mobbet.actions import (
    also_in,
    blogs,
    building,
    docket_lines,
    house_facts,
    kept_blocks,
    library,
    new_blog,
    people,
    placing,
)
from mobbet.actions import posts as post_actions
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.from_plain import from_plain
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.values import existing
from mobbet.store import blogs as blog_store
from mobbet.store import editions, filing, guests, posts
from mobbet.store.posts import Post
from mobbet.web.shell.scheduler import Scheduler
from tests.shops import DAY, ShopCase, picture


class AlsoCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        new_blog.begin(
            self.shop,
            self.me,
            name="Ferry Log",
            address="log",
            zone="Atlantic/Azores",
            home="https://log.example/",
            source="",
            parts=[],
        )
        self.write("A lamp", "Some **words**.", categories="Lamps", tags="flex", date="2026-01-01")
        self.publish()

    def setUp(self) -> None:
        super().setUp()
        self.log = existing(blog_store.by_slug(self.shop.db, "log"))

    def add(self, number: int = 1) -> Post:
        return also_in.add(self.shop, self.me, number, "log")

    def page(self, path: str, blog: int | None = None) -> str | None:
        row = editions.page_at(self.shop.db, blog or self.log.id, path)
        return existing(self.body(row)).decode() if row else None

    def paths(self) -> list[str]:
        return [row.path for row in editions.pages(self.shop.db, self.log.id) if row.key.kind == "post"]

    def save(self, number: int, text: str) -> None:
        post = posts.working(self.shop.db, number)
        post_actions.save_text(
            self.shop,
            self.me,
            number,
            base=post.number,
            title=post.title,
            subtitle="",
            body=from_markdown(text),
        )

    def whole(self) -> None:
        """Small editions of both blogs are what a full build makes."""
        for blog in (self.blog, self.log):
            self.assertEqual(building.publish(self.shop, blog, full=True).written, 0, blog.slug)


class FollowingTests(AlsoCase):
    def test_it_stands_in_lists_and_feeds_of_both_and_names_its_home(self) -> None:
        self.add()
        self.assertEqual(len(self.paths()), 1)
        html = existing(self.page(self.paths()[0]))
        self.assertIn("Some <strong>words</strong>.", html)
        self.assertIn('<link rel="canonical" href="https://bench.example/lamps/a-lamp/">', html)
        self.assertIn("A lamp", existing(self.page("/")))
        self.assertIn("A lamp", existing(self.page("/feed.atom")))
        self.assertIn(
            'canonical" href="https://bench.example/lamps/a-lamp/"',
            existing(self.page("/lamps/a-lamp/", self.blog.id)),
        )
        self.whole()

    def test_one_text_is_updated_in_both_with_one_change(self) -> None:
        self.add()
        self.save(1, "Other words.")
        self.assertIn("Some ", existing(self.page(self.paths()[0])))
        placing.place(self.shop, self.me, 1)
        self.assertIn("Other words.", existing(self.page(self.paths()[0])))
        self.assertIn("Other words.", existing(self.page("/lamps/a-lamp/", self.blog.id)))
        self.whole()

    def test_withdrawn_at_home_it_is_out_nowhere_and_comes_back_with_it(self) -> None:
        self.add()
        placing.withdraw(self.shop, self.me, 1)
        self.assertEqual(self.paths(), [])
        placing.place(self.shop, self.me, 1)
        self.assertEqual(len(self.paths()), 1)
        self.whole()

    def test_a_post_in_the_timetable_goes_out_in_both_at_once_and_comes_down_in_both(self) -> None:
        post = self.write("Later", categories="Lamps", date="2026-12-24T09:00", expires="2026-12-26T09:00")
        self.add(post.id)
        self.assertEqual(self.paths(), [])
        scheduler = Scheduler(self.shop, self.clock)
        for day, count in ((25, 1), (27, 0)):
            while self.clock() < 1_798_000_000 + (day - 23) * DAY:
                self.clock.forward(DAY // 2)
            scheduler.publish_due()
            here = [
                row.path for row in editions.pages(self.shop.db, self.blog.id) if row.path.endswith("/later/")
            ]
            self.assertEqual(
                (len(here), len([path for path in self.paths() if "later" in path])), (count, count), day
            )

    def test_an_update_for_later_waits_in_both(self) -> None:
        self.add()
        self.save(1, "New words.")
        docket_lines.set_update_time(self.shop, self.me, 1, "2026-12-01T09:00")
        placing.place(self.shop, self.me, 1)
        self.assertNotIn("New words.", existing(self.page(self.paths()[0])))
        self.clock.forward(20 * DAY)
        Scheduler(self.shop, self.clock).publish_due()
        self.assertIn("New words.", existing(self.page(self.paths()[0])))
        self.assertIn("New words.", existing(self.page("/lamps/a-lamp/", self.blog.id)))

    def test_another_address_at_home_is_named_by_the_other_blog(self) -> None:
        self.add()
        docket_lines.set_slug(self.shop, self.me, 1, "bright")
        placing.place(self.shop, self.me, 1)
        self.assertIn("https://bench.example/lamps/bright/", existing(self.page(self.paths()[0])))
        house_facts.give_facts(self.shop, self.me, "bench", home="https://other.example/")
        self.assertIn("https://other.example/lamps/bright/", existing(self.page(self.paths()[0])))
        self.whole()

    def test_pictures_and_saved_blocks_come_along(self) -> None:
        item = library.add_picture(self.shop, self.me, self.blog, "sky.png", picture())
        kept_blocks.keep_blocks(self.shop, self.me, "bench", "Notice", from_plain("Unplug it.")["content"])
        self.add()
        self.save(1, f"![Sky](media:{item.id})\n\n::: standing\ncopy: 1\n:::\n")
        placing.place(self.shop, self.me, 1)
        self.publish()
        building.publish(self.shop, self.log)
        html = existing(self.page(self.paths()[0]))
        self.assertIn("<img", html)
        self.whole()


class FilingTests(AlsoCase):
    def test_each_blog_files_it_by_itself(self) -> None:
        there = self.add()
        names = filing.subjects(self.shop.db, self.log.id)
        self.assertEqual(
            [names[number].name for number in posts.categories(self.shop.db, there.id)], ["Lamps"]
        )
        weather = filing.add_category(self.shop.db, self.log.id, None, "Weather", "weather")
        also_in.file_under(self.shop, self.me, 1, "log", weather.id)
        self.assertIn("A lamp", existing(self.page("/weather/")))
        self.assertIn("This has moved", existing(self.page("/lamps/")))
        self.save(1, "Again.")
        placing.place(self.shop, self.me, 1)
        self.assertIn("A lamp", existing(self.page("/weather/")))
        with self.assertRaisesRegex(BadInput, "no such category"):
            also_in.file_under(self.shop, self.me, 1, "log", 99)
        self.whole()

    def test_taken_out_its_address_there_says_so_and_it_can_come_back(self) -> None:
        self.add()
        path = self.paths()[0]
        also_in.remove(self.shop, self.me, 1, "log")
        self.assertEqual(self.paths(), [])
        self.assertIsNotNone(self.page("/lamps/a-lamp/", self.blog.id))
        self.add()
        self.assertEqual(self.paths(), [path])
        self.assertEqual(len(guests.of(self.shop.db, 1)), 1)
        self.whole()


class RightsTests(AlsoCase):
    def colleague(self, role: str, *slugs: str) -> people.Person:
        person = people.add_person(
            self.shop, name="Tomas", email="t@bench.example", password="a long password too"
        )
        for slug in slugs:
            blogs.add_member(self.shop, existing(blog_store.by_slug(self.shop.db, slug)), person, role)
        return person

    def test_the_rights_of_both_blogs_are_asked(self) -> None:
        here = self.colleague("editor", "bench")
        with self.assertRaises(NotFound):
            also_in.add(self.shop, here, 1, "log")
        self.add()
        with self.assertRaises(NotFound):
            also_in.file_under(self.shop, here, 1, "log", 1)

    def test_a_writer_has_only_own_posts_stand_elsewhere(self) -> None:
        writer = self.colleague("writer", "bench", "log")
        with self.assertRaises(NotAllowed):
            also_in.add(self.shop, writer, 1, "log")

    def test_who_may_not_change_the_other_blog_leaves_its_text_and_it_is_told(self) -> None:
        editor = self.colleague("editor", "bench")
        self.add()
        post = posts.working(self.shop.db, 1)
        post_actions.save_text(
            self.shop,
            editor,
            1,
            base=post.number,
            title="A lamp",
            subtitle="",
            body=from_markdown("By Tomas."),
        )
        placing.place(self.shop, editor, 1)
        self.assertNotIn("By Tomas.", existing(self.page(self.paths()[0])))
        self.assertTrue(also_in.guests_of(self.shop, existing(posts.by_id(self.shop.db, 1)))[0].is_behind)
        placing.withdraw(self.shop, editor, 1)
        self.assertEqual(self.paths(), [])

    def test_its_text_and_times_are_changed_at_home_alone(self) -> None:
        there = self.add()
        for act in (lambda: self.save(there.id, "x"), lambda: placing.place(self.shop, self.me, there.id)):
            with self.assertRaisesRegex(Refused, "lives in The Bench"):
                act()
        placing.withdraw(self.shop, self.me, there.id)
        self.save(1, "Again.")
        placing.place(self.shop, self.me, 1)
        self.assertEqual(self.paths(), [])

    def test_what_is_not_for_everyone_stands_at_home_alone(self) -> None:
        self.add()
        for visibility in ("password", "me"):
            posts.settle(self.shop.db, 1, self.clock(), visibility=visibility, password_key="x")
            placing.place(self.shop, self.me, 1)
            self.assertEqual(self.paths(), [], visibility)
        self.whole()

    def test_nonsense_is_refused(self) -> None:
        page = self.write("About", kind="about")
        there = self.add()
        for act, says in (
            (lambda: also_in.add(self.shop, self.me, 1, "bench"), "lives in this blog already"),
            (lambda: also_in.add(self.shop, self.me, 1, "log"), "stands in Ferry Log already"),
            (lambda: also_in.add(self.shop, self.me, page.id, "log"), "A page stands in one blog alone"),
            (lambda: also_in.add(self.shop, self.me, there.id, "bench"), "lives in another blog"),
            (lambda: also_in.remove(self.shop, self.me, 1, "nowhere"), "does not stand in “nowhere”"),
        ):
            with self.subTest(says), self.assertRaisesRegex(Refused, says):
                act()

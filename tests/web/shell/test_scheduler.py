import time
from unittest import mock

from mobbet.actions import attention, blogs, building, library, media_jobs, placing
from mobbet.actions.work import unpublished
from mobbet.core.document.links import media_src
from mobbet.core.errors import Broken
from mobbet.publish.editions import Published
from mobbet.store import editions, jobs
from mobbet.web.shell.scheduler import Scheduler
from mobbet.wiring import exact_time, open_folder, system_clock
from tests.shops import ShopCase, picture


class SchedulerTests(ShopCase):
    def wait_for(self, path: str, is_there: bool, seconds: float) -> float:
        """The moment at which the path came or went; fails when that takes too long."""
        end = time.time() + seconds
        while time.time() < end:
            if (editions.page_at(self.shop.db, self.blog.id, path) is not None) == is_there:
                return time.time()
            time.sleep(0.02)
        self.fail(f"{path} is not as it should be after {seconds} s")

    def test_it_publishes_on_the_second_and_takes_down_on_the_second(self) -> None:
        self.clock.instant = system_clock()
        due = self.clock.instant + 2
        post = self.write(
            "Soon",
            date=time.strftime("'%Y-%m-%dT%H:%M:%SZ'", time.gmtime(due)),
            expires=time.strftime("'%Y-%m-%dT%H:%M:%SZ'", time.gmtime(due + 2)),
        )
        self.publish()
        scheduler = Scheduler(open_folder(self.folder / "data"), exact_time)
        scheduler.start()
        self.addCleanup(scheduler.stop)
        for is_there, moment in ((True, due), (False, due + 2)):
            seen = self.wait_for("/posts/soon/", is_there, 6)
            self.assertGreaterEqual(seen, moment)
            self.assertLess(seen, moment + 1)
        self.assertEqual(post.title, "Soon")

    def test_it_catches_up_with_what_fell_due_while_it_slept(self) -> None:
        self.publish()
        self.write("Missed", date="2026-11-18 11:30")
        self.clock.forward(7200)
        Scheduler(self.shop, exact_time).publish_due()
        self.assertIsNotNone(editions.page_at(self.shop.db, self.blog.id, "/posts/missed/"))

    def test_copies_of_several_files_become_one_edition(self) -> None:
        self.publish()
        before = editions.current_number(self.shop.db, self.blog.id)
        for name, colour in (("a.png", "red"), ("b.png", "blue")):
            item = library.add_picture(self.shop, self.me, self.blog, name, picture(color=colour))
            self.write(name, f"![A]({media_src(item.id)})", date="2026-01-01")
        begun = editions.current_number(self.shop.db, self.blog.id)
        scheduler = Scheduler(self.shop, exact_time)
        while job := jobs.claim(self.shop.db):
            media_jobs.do(self.shop, job)
            scheduler.publish_due()
        self.assertGreater(begun, before)
        self.assertEqual(editions.current_number(self.shop.db, self.blog.id), begun + 1)

    def test_work_that_takes_long_holds_no_publication_up_for_long(self) -> None:
        self.publish()
        library.add_picture(self.shop, self.me, self.blog, "a.png", picture())
        with unpublished():
            self.write("A lamp", date="2026-01-01")
        scheduler = Scheduler(self.shop, exact_time)
        scheduler.publish_due()
        self.assertIsNone(editions.page_at(self.shop.db, self.blog.id, "/posts/a-lamp/"))
        with mock.patch("mobbet.web.shell.scheduler.COPIES_WAIT", 0):
            scheduler.publish_due()
        self.assertIsNotNone(editions.page_at(self.shop.db, self.blog.id, "/posts/a-lamp/"))

    def test_a_blog_that_cannot_be_published_holds_up_no_other_and_tells_its_desk(self) -> None:
        other = blogs.make_blog(
            self.shop, self.me, name="The Log", address="log", zone="UTC", home="https://log.example/"
        )
        with unpublished():
            self.write("A lamp", date="2026-01-01")
        publish = self.shop.press.publish

        def failing(blog_id: int, *values: object, **named: object) -> Published:
            if blog_id == self.blog.id:
                raise Broken("The disk is full; make room on it.")
            return publish(blog_id, *values, **named)

        scheduler = Scheduler(self.shop, exact_time)
        with mock.patch.object(self.shop.press, "publish", failing), self.assertLogs("mobbet.scheduler"):
            self.assertFalse(scheduler.publish_due())
        self.assertIsNotNone(editions.current(self.shop.db, other.id))
        self.assertEqual(
            [(one.what, one.title) for one in attention.wants(self.shop, self.me, self.blog)],
            [("publication", "The disk is full; make room on it.")],
        )
        self.assertTrue(scheduler.publish_due())
        self.assertEqual(attention.wants(self.shop, self.me, self.blog), [])

    def test_what_was_withdrawn_before_it_went_out_is_no_change_to_come(self) -> None:
        post = self.write("Soon", date="2026-12-01 09:00")
        self.assertIsNotNone(building.next_change(self.shop))
        placing.withdraw(self.shop, self.me, post.id)
        self.assertIsNone(building.next_change(self.shop))

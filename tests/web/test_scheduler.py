import time

from mobbet.store import editions
from mobbet.web.shell.scheduler import Scheduler
from mobbet.wiring import exact_time, open_folder, system_clock
from tests.shops import ShopCase


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
        post = self.write("Soon", date=time.strftime("'%Y-%m-%dT%H:%M:%SZ'", time.gmtime(due)), expires=time.strftime("'%Y-%m-%dT%H:%M:%SZ'", time.gmtime(due + 2)))
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

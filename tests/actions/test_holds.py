"""After an edition was put back nothing goes out by itself, until somebody publishes, withdraws or goes on."""

from mobbet.actions import attention, categories, comments, editions, footprints, placing, whereabouts
from mobbet.core.audience import STRANGER
from mobbet.core.comments import ANYONE, NONE
from mobbet.store import blogs, holds
from mobbet.store import editions as store
from mobbet.web.shell.scheduler import Scheduler
from tests.shops import ShopCase


class HoldTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.first = self.write("First", date="2026-11-10", categories="Lamps")
        self.publish()
        self.before = self.rows()
        self.second = self.write("Second", date="2026-11-11")
        self.timed = self.write("Timed", date="2026-11-27")
        self.publish()

    def rows(self) -> dict[str, str]:
        return {row.path: row.hash for row in store.pages(self.shop.db, self.blog.id)}

    def put_back(self, way: str = holds.ASKS) -> None:
        number = next(
            one.edition.number
            for one in editions.listed(self.shop, self.blog, 9)
            if "First" in one.edition.why
        )
        editions.put_back(self.shop, self.me, self.blog, number, way)
        self.before = self.rows()
        self.assertNotIn("/posts/second/", self.before)

    def pass_by(self) -> None:
        self.clock.forward(9 * 86400)
        Scheduler(self.shop, lambda: float(self.clock())).publish_due(is_first=True)

    def wants(self) -> list[tuple[str, str, int]]:
        found = attention.wants(self.shop, self.me, self.blog)
        return [(one.what, one.title, one.count) for one in found if one.what == "held"]

    def test_what_falls_due_waits_and_the_desk_asks(self) -> None:
        self.put_back()
        self.assertEqual(self.wants(), [])
        self.pass_by()
        self.assertEqual(self.rows(), self.before)
        self.assertEqual(self.wants(), [("held", "Timed", 1)])
        told = whereabouts.whereabouts(self.shop, self.timed, self.blog)
        self.assertIn("which was put back; what is written since waits.", told[0].words)
        editions.go_on(self.shop, self.me, self.blog)
        self.assertLessEqual({"/posts/second/", "/posts/timed/"}, self.rows().keys())
        self.assertEqual(self.wants(), [])

    def test_it_waits_quietly_by_choice(self) -> None:
        self.put_back(holds.WAITS)
        self.pass_by()
        self.assertEqual((self.wants(), self.rows()), ([], self.before))
        self.assertEqual(editions.held(self.shop, self.me, self.blog).due, ["Timed"])

    def test_other_changes_wait_and_are_published_with_the_rest(self) -> None:
        self.put_back()
        number = categories.find(self.shop, self.blog, "Lamps")
        categories.rename(self.shop, self.me, "bench", number, "Lights")
        self.assertEqual(self.rows(), self.before)
        editions.go_on(self.shop, self.me, self.blog)
        self.assertIn(b"Lights", self.site()["/subjects/"])
        self.assertNotEqual(self.rows()["/subjects/"], self.before["/subjects/"])

    def test_publishing_a_post_brings_all_that_is_written_and_says_so_before(self) -> None:
        self.put_back()
        new = self.write("New")
        effect = footprints.effect_of_placing(self.shop, self.me, self.blog, new.id)
        before = self.rows()
        placing.place(self.shop, self.me, new.id)
        now = self.rows()
        done = {path for path in before.keys() | now.keys() if before.get(path) != now.get(path)}
        self.assertEqual({page.path for page in effect.pages}, done)
        self.assertIn("/posts/second/", done)
        self.assertIsNone(editions.held(self.shop, self.me, self.blog))

    def test_placing_a_post_for_later_leaves_it_so_and_withdrawing_one_does_not(self) -> None:
        self.put_back()
        self.write("Later", date="2027-01-01")
        self.assertEqual(self.rows(), self.before)
        placing.withdraw(self.shop, self.me, self.first.id)
        self.assertNotIn("/lamps/first/", self.rows())

    def test_a_comment_that_was_taken_off_since_does_not_come_back(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", ANYONE, NONE)
        blog = blogs.by_id(self.shop.db, self.blog.id)
        typed = {"name": "Zed", "email": "", "text": "Quincunx"}
        number = comments.write(self.shop, blog, self.first.id, STRANGER, typed, "192.0.2.7").id
        self.assertIn(b"Quincunx", self.page_of_first())
        edition = store.current_number(self.shop.db, self.blog.id)
        comments.settle(self.shop, self.me, "bench", [number], "refused")
        editions.put_back(self.shop, self.me, self.blog, edition)
        self.assertNotIn(b"Quincunx", self.page_of_first())

    def page_of_first(self) -> bytes:
        return self.shop.pages.read(store.page_at(self.shop.db, self.blog.id, "/lamps/first/").hash)

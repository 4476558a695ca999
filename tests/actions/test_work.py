"""The unit of work."""

from mobbet.actions import placing
from mobbet.actions.work import changing, dry_run, unpublished
from mobbet.core.errors import Refused
from mobbet.store import blogs, editions, events, stale
from tests.shops import ShopCase


class UnitTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.write("A lamp")

    def edition(self) -> int:
        return editions.current_number(self.shop.db, self.blog.id)

    def test_what_follows_from_an_action_is_published_without_being_asked_for(self) -> None:
        woken: list[int] = []
        self.shop.on_change = lambda: woken.append(self.edition())
        placing.place(self.shop, self.me, self.post.id)
        self.assertEqual(woken, [2])
        newest = editions.current(self.shop.db, self.blog.id)
        self.assertEqual((newest.why, newest.person_id), ("“A lamp” is published", self.me.id))

    def test_a_unit_within_another_one_joins_it(self) -> None:
        with changing(self.shop, self.me, "two posts") as unit:
            placing.place(self.shop, self.me, self.post.id)
            placing.place(self.shop, self.me, self.write("A clock").id)
            self.assertEqual(self.edition(), 1)
        self.assertEqual((self.edition(), editions.current(self.shop.db, self.blog.id).why), (2, "two posts"))
        self.assertGreater(unit.published(self.blog).written, 4)

    def test_a_part_that_is_refused_is_rolled_back_alone(self) -> None:
        with changing(self.shop):
            blogs.settle(self.shop.db, self.blog.id, label="Notes")
            with self.assertRaises(Refused), changing(self.shop):
                blogs.settle(self.shop.db, self.blog.id, label="Lost")
                raise Refused("no")
        self.assertEqual(blogs.by_id(self.shop.db, self.blog.id).label, "Notes")

    def test_a_unit_that_fails_leaves_nothing_and_publishes_nothing(self) -> None:
        with self.assertRaises(Refused), changing(self.shop):
            placing.place(self.shop, self.me, self.post.id)
            raise Refused("no")
        self.assertEqual((self.edition(), stale.last_post(self.shop.db, self.blog.id)), (1, 0))

    def test_a_change_that_no_reader_sees_makes_no_edition(self) -> None:
        with changing(self.shop) as unit:
            blogs.settle(self.shop.db, self.blog.id, aside_days=3)
        self.assertEqual((self.edition(), unit.published(self.blog).written), (1, 0))

    def test_a_dry_run_answers_and_keeps_nothing(self) -> None:
        path = dry_run(self.shop, lambda: placing.place(self.shop, self.me, self.post.id).path)
        self.assertEqual((path, self.edition()), ("/posts/a-lamp/", 1))
        self.assertEqual(stale.last_post(self.shop.db, self.blog.id), 0)

    def test_what_is_left_to_the_scheduler_waits_for_it(self) -> None:
        with changing(self.shop, is_left_to_scheduler=True):
            placing.place(self.shop, self.me, self.post.id)
        self.assertEqual(self.edition(), 1)
        self.assertGreater(stale.last_post(self.shop.db, self.blog.id), 0)

    def test_a_maker_of_many_changes_publishes_them_itself(self) -> None:
        with unpublished():
            placing.place(self.shop, self.me, self.post.id)
        self.assertEqual(self.edition(), 1)
        self.assertGreater(self.publish().written, 3)

    def test_open_windows_learn_that_a_blog_changed(self) -> None:
        before = events.number(self.shop.db, self.blog.id)
        placing.place(self.shop, self.me, self.post.id)
        self.assertEqual(events.number(self.shop.db, self.blog.id), before + 1)

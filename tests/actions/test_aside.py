from mobbet.actions import aside, consistency, placing
from mobbet.core.errors import BadInput
from mobbet.store import editions, posts
from tests.shops import DAY, ShopCase


class AsideTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("A lamp", "About a flex.", date="2026-11-01", tags="[flex]").id
        self.other = self.write("Another", f"See [it](post:{self.lamp}).", date="2026-11-02").id
        self.publish()
        placing.withdraw(self.shop, self.me, self.lamp)
        placing.set_aside(self.shop, self.me, self.lamp)
        self.publish()

    def test_it_is_kept_for_the_days_of_the_rule_and_then_removed(self) -> None:
        self.clock.forward(30 * DAY - 60)
        self.assertEqual(aside.remove_aged(self.shop), 0)
        self.clock.forward(60)
        self.assertEqual(aside.remove_aged(self.shop), 1)
        self.assertIsNone(posts.by_id(self.shop.db, self.lamp))
        self.assertEqual(consistency.problems(self.shop), [])

    def test_what_readers_get_is_the_same_as_from_the_facts_anew(self) -> None:
        self.clock.forward(31 * DAY)
        aside.remove_aged(self.shop)
        out = {row.path: self.body(row) for row in editions.pages(self.shop.db, self.blog.id)}
        self.publish(full=True)
        self.assertEqual(
            {row.path: self.body(row) for row in editions.pages(self.shop.db, self.blog.id)}, out
        )

    def test_the_rule_may_keep_them_for_good(self) -> None:
        aside.keep_for(self.shop, self.me, "bench", "0")
        self.clock.forward(999 * DAY)
        self.assertEqual(aside.remove_aged(self.shop), 0)
        for typed in ("soon", "0000009999", "-1", ""):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, f"“{typed}” is no number of days"):
                aside.keep_for(self.shop, self.me, "bench", typed)

    def test_the_number_of_the_newest_post_is_never_given_again(self) -> None:
        placing.withdraw(self.shop, self.me, self.other)
        placing.set_aside(self.shop, self.me, self.other)
        self.clock.forward(40 * DAY)
        aside.remove_aged(self.shop)
        self.assertIsNotNone(posts.by_id(self.shop.db, self.other))
        self.write("A third")
        self.assertEqual(aside.remove_aged(self.shop), 1)

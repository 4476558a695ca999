"""Moving what is in the timetable: as it is, at the free slot of a day, with its effect told, and back."""

from __future__ import annotations

from mobbet.actions import blogs as blog_actions
from mobbet.actions import moving, people, placing, posts, slots
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.store import placements
from tests.shops import ShopCase


class MovingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("A lamp", "x", date="2026-12-01T09:00")
        self.write("A clock", "x", date="2026-12-10T09:00")

    def when(self) -> str:
        return next(row.goes_out_wall for row in placements.of_post(self.shop.db, self.lamp.id) if row.shows_from < row.shows_until)

    def test_a_post_is_moved_as_it_was_placed_and_its_effect_told(self) -> None:
        posts.save_text(self.shop, self.me, self.lamp.id, base=self.again(self.lamp).revision, title="A lamp, changed", subtitle="", body=schema.EMPTY)
        before = [row.revision for row in placements.of_post(self.shop.db, self.lamp.id)]
        moved = moving.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-05")
        self.assertEqual((self.when(), moved.before), ("2026-12-05T09:00", "2026-12-01T09:00"))
        self.assertIn("5 days before the next", moved.words)
        self.assertEqual({row.revision for row in placements.of_post(self.shop.db, self.lamp.id)}, set(before))
        moving.move(self.shop, self.me, "bench", self.lamp.id, moved.before)
        self.assertEqual(self.when(), "2026-12-01T09:00")

    def test_it_takes_the_free_slot_of_its_day(self) -> None:
        slots.add_slot(self.shop, self.blog, "FREQ=WEEKLY;BYDAY=TH", "18:30")
        moving.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-03")
        self.assertEqual(self.when(), "2026-12-03T18:30")

    def test_two_posts_on_one_day_are_pointed_out(self) -> None:
        self.assertIn("“A clock” goes out on the same day", moving.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-10").words)

    def test_what_cannot_be_is_refused_in_words(self) -> None:
        for said, kind, words in (("2026-11-01", Refused, "is past"), ("soon", BadInput, "soon")):
            with self.subTest(said), self.assertRaisesRegex(kind, words):
                moving.move(self.shop, self.me, "bench", self.lamp.id, said)
        writer = people.add_person(self.shop, name="Bo", email="bo@bench.example", password="long enough word")
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaises(NotAllowed):
            moving.move(self.shop, writer, "bench", self.lamp.id, "2026-12-05")
        placing.withdraw(self.shop, self.me, self.lamp.id)
        with self.assertRaisesRegex(Refused, "not in the timetable any more"):
            moving.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-05")

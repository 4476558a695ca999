"""Moving what is in the timetable: as it is, at the free slot of a day, with its effect told, and back."""

from __future__ import annotations

from mobbet.actions import blogs as blog_actions
from mobbet.actions import people, placing, post_states, posts, queue, rescheduling, slots, undoing
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.store import placements
from tests.shops import ShopCase


class MovingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("A lamp", "x", date="2026-12-01T09:00")
        self.write("A clock", "x", date="2026-12-10T09:00")

    def when(self, post: int = 0) -> str:
        return next(
            row.goes_out_wall
            for row in placements.of_post(self.shop.db, post or self.lamp.id)
            if row.shows_from < row.shows_until
        )

    def queued(self, *titles: str) -> list[int]:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU,TH")
        numbers = [self.write(title).id for title in titles]
        for number in numbers:
            slots.put_in_queue(self.shop, self.me, number)
        return numbers

    def test_a_post_is_moved_as_it_was_placed_and_its_effect_told(self) -> None:
        posts.save_text(
            self.shop,
            self.me,
            self.lamp.id,
            base=self.again(self.lamp).revision,
            title="A lamp, changed",
            subtitle="",
            body=schema.EMPTY,
        )
        before = [row.revision for row in placements.of_post(self.shop.db, self.lamp.id)]
        moved = rescheduling.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-05")
        self.assertEqual(self.when(), "2026-12-05T09:00")
        self.assertIn("5 days before the next", moved.words)
        self.assertEqual(
            {row.revision for row in placements.of_post(self.shop.db, self.lamp.id)}, set(before)
        )
        undoing.undo(self.shop, self.me, "bench", moved.number)
        self.assertEqual(self.when(), "2026-12-01T09:00")

    def test_it_takes_the_free_slot_of_its_day(self) -> None:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TH", "18:30")
        rescheduling.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-03")
        self.assertEqual(self.when(), "2026-12-03T18:30")

    def test_two_posts_on_one_day_are_pointed_out(self) -> None:
        self.assertIn(
            "“A clock” goes out on the same day",
            rescheduling.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-10").words,
        )

    def test_what_cannot_be_is_refused_in_words(self) -> None:
        for said, kind, words in (("2026-11-01", Refused, "is past"), ("soon", BadInput, "soon")):
            with self.subTest(said), self.assertRaisesRegex(kind, words):
                rescheduling.move(self.shop, self.me, "bench", self.lamp.id, said)
        writer = people.add_person(
            self.shop, name="Bo", email="bo@bench.example", password="long enough word"
        )
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaises(NotAllowed):
            rescheduling.move(self.shop, writer, "bench", self.lamp.id, "2026-12-05")
        placing.withdraw(self.shop, self.me, self.lamp.id)
        with self.assertRaisesRegex(Refused, "not in the timetable any more"):
            rescheduling.move(self.shop, self.me, "bench", self.lamp.id, "2026-12-05")

    def test_a_time_is_typed_as_people_say_it(self) -> None:
        rescheduling.move(self.shop, self.me, "bench", self.lamp.id, "fri 18:30")
        self.assertEqual(self.when(), "2026-11-20T18:30")

    def test_everything_after_a_post_is_pushed_by_a_week(self) -> None:
        clock = self.lamp.id + 1
        moved = rescheduling.push(self.shop, self.me, "bench", self.lamp.id)
        self.assertEqual((self.when(), self.when(clock)), ("2026-12-08T09:00", "2026-12-17T09:00"))
        self.assertIn("“A lamp” and 1 after it moved on by 7 days", moved.words)
        undoing.undo(self.shop, self.me, "bench", moved.number)
        self.assertEqual((self.when(), self.when(clock)), ("2026-12-01T09:00", "2026-12-10T09:00"))
        rescheduling.push(self.shop, self.me, "bench", clock)
        self.assertEqual((self.when(), self.when(clock)), ("2026-12-01T09:00", "2026-12-17T09:00"))

    def test_pushed_posts_of_the_queue_keep_their_new_times(self) -> None:
        radio, zip_ = self.queued("A radio", "A zip")
        rescheduling.push(self.shop, self.me, "bench", zip_)
        self.assertEqual((self.when(radio), self.when(zip_)), ("2026-11-19T09:00", "2026-12-01T09:00"))

    def test_what_comes_down_before_stays_when_the_rest_is_pushed(self) -> None:
        session = self.write("A session", date="2026-12-02T09:00", expires="2026-12-04T21:00").id
        moved = rescheduling.push(self.shop, self.me, "bench", self.lamp.id)
        self.assertIn("“A session” stays, since it comes down before", moved.words)
        self.assertEqual((self.when(), self.when(session)), ("2026-12-08T09:00", "2026-12-02T09:00"))
        with self.assertRaisesRegex(Refused, "comes down before that"):
            rescheduling.push(self.shop, self.me, "bench", session)

    def test_two_posts_change_places(self) -> None:
        clock = self.lamp.id + 1
        moved = rescheduling.swap(self.shop, self.me, "bench", self.lamp.id, clock)
        self.assertEqual((self.when(), self.when(clock)), ("2026-12-10T09:00", "2026-12-01T09:00"))
        undoing.undo(self.shop, self.me, "bench", moved.number)
        self.assertEqual(self.when(), "2026-12-01T09:00")
        with self.assertRaisesRegex(BadInput, "with itself"):
            rescheduling.swap(self.shop, self.me, "bench", clock, clock)

    def test_two_of_the_queue_change_places_in_it(self) -> None:
        radio, zip_ = self.queued("A radio", "A zip")
        rescheduling.swap(self.shop, self.me, "bench", radio, zip_)
        self.assertEqual(queue.waiting(self.shop, self.blog), [zip_, radio])
        self.assertEqual((self.when(zip_), self.when(radio)), ("2026-11-19T09:00", "2026-11-24T09:00"))

    def test_a_draft_is_placed_in_a_free_slot_and_taken_back(self) -> None:
        draft = self.write("A draft").id
        moved = rescheduling.place_at(self.shop, self.me, "bench", draft, "2026-12-03 09:00")
        self.assertIn(
            "“A draft” goes out Thu 3 Dec at 09:00; 2 days after the post before it, 7 days before the next",
            moved.words,
        )
        undoing.undo(self.shop, self.me, "bench", moved.number)
        self.assertEqual(
            post_states.state_of(self.shop, self.again(posts.posts.by_id(self.shop.db, draft))), "draft"
        )

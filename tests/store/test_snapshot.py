"""The snapshot's indexed queries, held against looking through all placements."""

import random
from unittest import mock

from mobbet.actions import placing
from mobbet.actions.permalinks import category_subjects
from mobbet.core.audience import EVERYONE
from mobbet.core.comments import SHOWN
from mobbet.core.facts import list_keys
from mobbet.core.filing import category_lists
from mobbet.core.timing import month_of
from mobbet.store import comments as store_comments
from mobbet.store import out_posts, placements
from mobbet.store import snapshot as snapshots
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import DAY, NOW, ShopCase


class SnapshotTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        chance = random.Random(2)
        for number in range(40):
            front = {
                "date": f"2026-{chance.randrange(9, 13):02d}-{chance.randrange(1, 28):02d}",
                "categories": chance.choice(("Lamps > Wiring", "Clocks", "[]")),
            }
            if number % 7 == 0:
                front["visibility"] = "only-me"
            if number % 5 == 0:
                front["expires"] = "2027-01-01"
            post = self.write(f"Post {number}", tags=chance.choice(("flex", "oil, flex", "")), **front)
            if number % 6 == 0:
                placing.withdraw(self.shop, self.me, post.id)
            elif number % 4 == 0:
                self.clock.forward(60)
                placing.place(self.shop, self.me, post.id)

    def naive(self, instant: int) -> dict[str, list[tuple[int, int]]]:
        """{list: (goes_out, post) in order}, by looking at every placement."""
        subjects, found = category_subjects(self.shop, self.blog), {}
        for row in placements.every(self.shop.db, self.blog.id):
            if row.shows_from <= instant < row.shows_until and row.audience == EVERYONE:
                for key in list_keys(
                    category_lists(subjects, row.categories),
                    row.tags,
                    month_of(row.goes_out, row.zone),
                    author=row.author_id,
                ):
                    found.setdefault(key, []).append((row.goes_out, row.post_id))
        return {key: sorted(rows) for key, rows in found.items()}

    def test_every_question_about_lists_has_the_naive_answer(self) -> None:
        for instant in (NOW - 60 * DAY, NOW, NOW + 30 * DAY, NOW + 60 * DAY):
            snapshot, wanted = SiteSnapshot(self.shop.db, self.blog.id, instant), self.naive(instant)
            with self.subTest(instant):
                self.assertEqual(snapshot.lists(), sorted(wanted))
            for key, rows in wanted.items():
                with self.subTest(f"{key} at {instant}"):
                    self.assertEqual(snapshot.count(key), len(rows))
                    self.assertEqual(
                        [(post.goes_out, post.id) for post in snapshot.window(key, 2, 3)], rows[2:5]
                    )
                    self.assertEqual(
                        [(post.goes_out, post.id) for post in snapshot.newest(key, 3)], rows[::-1][:3]
                    )
                    self.assertEqual([snapshot.rank(key, *row) for row in rows], list(range(len(rows))))

    def test_neighbours_are_the_posts_beside_one(self) -> None:
        snapshot, rows = SiteSnapshot(self.shop.db, self.blog.id, NOW), self.naive(NOW)["all"]
        for earlier, later in zip(rows, rows[1:], strict=False):
            self.assertEqual(snapshot.newer(*earlier).id, later[1])
            self.assertEqual(snapshot.older(*later).id, earlier[1])
        self.assertIsNone(snapshot.older(*rows[0]))
        self.assertIsNone(snapshot.newer(*rows[-1]))

    def test_posts_of_every_audience_are_named_once(self) -> None:
        for instant in (NOW, NOW + 60 * DAY):
            snapshot = SiteSnapshot(self.shop.db, self.blog.id, instant)
            shown = {
                row.post_id
                for row in placements.every(self.shop.db, self.blog.id)
                if row.shows_from <= instant < row.shows_until
            }
            found = list(snapshot.post_ids())
            self.assertEqual((set(found), len(found)), (shown, len(shown)))
            self.assertTrue(all(snapshot.post(number).id == number for number in found))

    def test_what_is_read_ahead_is_what_would_have_been_asked(self) -> None:
        for number in (3, 8):
            comment = store_comments.Comment(
                0, self.blog.id, number, None, None, 0, "A reader", "", "Words.", SHOWN, NOW, None
            )
            with self.shop.db.transaction():
                store_comments.add(self.shop.db, comment)
        for instant in (NOW, NOW + 60 * DAY):
            ahead = SiteSnapshot(self.shop.db, self.blog.id, instant)
            with (
                mock.patch.object(snapshots, "VERY_OFTEN", 3),
                mock.patch.object(out_posts, "AHEAD", 3),
                self.subTest(instant),
            ):
                for number in range(1, 45):
                    self.assertEqual(
                        ahead.comments(number),
                        SiteSnapshot(self.shop.db, self.blog.id, instant).comments(number),
                    )
                    self.assertEqual(
                        ahead.post(number), SiteSnapshot(self.shop.db, self.blog.id, instant).post(number)
                    )

    def test_no_two_stretches_of_a_post_overlap(self) -> None:
        for number in range(1, 41):
            rows = sorted(
                (row.shows_from, row.shows_until)
                for row in placements.of_post(self.shop.db, number)
                if row.shows_from < row.shows_until
            )
            for (_, until), (start, _) in zip(rows, rows[1:], strict=False):
                self.assertLessEqual(until, start)

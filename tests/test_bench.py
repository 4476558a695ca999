from unittest import mock

from bench import publishing as bench_going
from bench import readers as bench_readers
from tests.shops import ShopCase


class BenchTests(ShopCase):
    def test_footprints_and_builds_are_measured(self) -> None:
        for number in range(3):
            self.write(f"Post {number}", date=f"2026-01-0{number + 1}", categories="Lamps")
        self.publish()
        with mock.patch.object(bench_going, "ROUNDS", 1):
            found = {**bench_going.of_footprints(self.shop), **bench_going.of_building(self.shop)}
        self.assertEqual(len(found), 9)
        self.assertTrue(all(value >= 0 for value in found.values()))

    def test_readers_who_come_back_are_measured(self) -> None:
        self.write("Post", date="2026-01-01", categories="Lamps")
        self.publish()
        with mock.patch.multiple(bench_readers, SUBSCRIBERS=3, VIEWS=10):
            bench_readers.put_in_use(self.shop)
            found = bench_readers.figures(self.shop)
        self.assertEqual(len(found), 3)
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM subscriber"), 3)

import unittest
from datetime import UTC, datetime

from mobbet.core.backups import (
    Copy,
    Every,
    Files,
    instant_of,
    is_due,
    kept,
    name_of,
    read_copy,
    read_key,
    written_key,
)
from mobbet.core.errors import BadInput

HOUR, DAY = 3600, 86400


def at(text: str) -> int:
    return int(datetime.fromisoformat(text).replace(tzinfo=UTC).timestamp())


NOW = at("2026-12-01T12:00")


class KeptTests(unittest.TestCase):
    def test_hourly_copies_stay_for_a_day_daily_ones_for_a_month_and_monthly_ones_for_years(self) -> None:
        every_half_hour = [NOW - step * HOUR // 2 for step in range(2 * 24 * 400)]
        stay = kept(every_half_hour, NOW)
        ages = sorted(NOW - one for one in stay)
        self.assertEqual(sum(age <= DAY for age in ages), 25)
        self.assertIn(sum(DAY < age <= 31 * DAY for age in ages), (30, 31))
        self.assertIn(sum(age > 31 * DAY for age in ages), (12, 13))

    def test_what_is_kept_is_kept_again_an_hour_later_or_makes_way_for_a_newer_one_of_its_hour(self) -> None:
        copies, now = {NOW}, NOW
        for _ in range(24 * 90):
            now += HOUR
            copies = kept({*copies, now}, now)
        self.assertGreaterEqual(len(copies), 24 + 30 + 2)
        self.assertLess(len(copies), 24 + 33 + 4)

    def test_the_newest_stays_whatever_its_age(self) -> None:
        self.assertEqual(kept([NOW - 900 * DAY, NOW - 901 * DAY], NOW), {NOW - 900 * DAY})
        self.assertEqual(kept([], NOW), set())


class DueTests(unittest.TestCase):
    def test_when_the_next_one_is_due(self) -> None:
        for every, hour, last, now, expected in (
            (Every.DAY, 3, None, "2026-12-01T12:00", True),
            (Every.HOUR, 0, "2026-12-01T11:30", "2026-12-01T12:00", False),
            (Every.HOUR, 0, "2026-12-01T11:00", "2026-12-01T12:00", True),
            (Every.DAY, 3, "2026-12-01T02:59", "2026-12-01T03:00", True),
            (Every.DAY, 3, "2026-12-01T03:00", "2026-12-02T02:59", False),
            (Every.DAY, 3, "2026-12-01T03:00", "2026-12-02T03:00", True),
            (Every.WEEK, 3, "2026-11-30T03:00", "2026-12-06T23:00", False),
            (Every.WEEK, 3, "2026-11-30T03:00", "2026-12-07T03:00", True),
            (Every.WEEK, 3, "2026-11-24T03:00", "2026-11-30T02:00", False),
        ):
            with self.subTest(every=every, last=last, now=now):
                self.assertIs(is_due(every, hour, "UTC", at(last) if last else None, at(now)), expected)

    def test_an_hour_that_a_clock_change_skips_comes_once(self) -> None:
        last = at("2027-03-27T01:00")  # 02:00 in Berlin
        self.assertFalse(is_due(Every.DAY, 2, "Europe/Berlin", last, at("2027-03-28T00:30")))
        self.assertTrue(is_due(Every.DAY, 2, "Europe/Berlin", last, at("2027-03-28T01:30")))


class CopyTests(unittest.TestCase):
    def test_a_copy_is_read_as_it_was_written(self) -> None:
        copy = Copy(
            NOW, "1.0", 5, "ab", ("ab",), {"media": Files(1, 7, ("cd",))}, (("bench", "Bench", 3),), "key"
        )
        self.assertEqual(read_copy(copy.written()), copy)
        self.assertEqual((copy.posts, copy.size, copy.file_count), (3, 12, 1))

    def test_its_name_is_its_instant(self) -> None:
        self.assertEqual(name_of(NOW), "20261201T120000Z")
        self.assertEqual(instant_of("20261201T120000Z"), NOW)
        for other in ("20261301T120000Z", "20261201T120000", ".20261201T120000Z", ""):
            self.assertIsNone(instant_of(other))


class KeyTests(unittest.TestCase):
    def test_a_key_is_read_in_any_spelling(self) -> None:
        key = bytes(range(32))
        text = written_key(key)
        for typed in (text, text.lower(), text.replace("-", " "), f"  {text}\n"):
            self.assertEqual(read_key(typed), key)

    def test_a_slip_in_a_key_is_told(self) -> None:
        text = written_key(bytes(range(32)))
        for typed in ("", "none", text[:-1], "B" + text[1:], text.replace("A", "1"), "é" * 60):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, "no key of a backup"):
                read_key(typed)


if __name__ == "__main__":
    unittest.main()

import unittest
from datetime import UTC, date, datetime

from mobbet.core import timing
from mobbet.core.errors import BadInput


def utc(text: str) -> int:
    return int(datetime.fromisoformat(text).replace(tzinfo=UTC).timestamp())


INSTANTS = (
    ("2026-11-26T09:00", "Europe/Lisbon", "2026-11-26T09:00"),
    ("2026-07-01T09:00", "Europe/Lisbon", "2026-07-01T08:00"),
    ("2026-03-29T01:30", "Europe/Lisbon", "2026-03-29T01:30"),  # skipped: as far after the change
    ("2026-10-25T01:30", "Europe/Lisbon", "2026-10-25T00:30"),  # twice: the first
    ("2026-11-26T09:00", "Atlantic/Azores", "2026-11-26T10:00"),
    ("2026-10-04T02:15", "Australia/Lord_Howe", "2026-10-03T15:45"),
    ("2011-12-30T12:00", "Pacific/Apia", "2011-12-30T22:00"),  # a date that the zone skipped
)


class TimingTests(unittest.TestCase):
    def test_a_span_that_ends_with_a_day_has_all_of_it(self) -> None:
        self.assertEqual(
            timing.read_end("2026-11-26", "UTC"), timing.read_instant("2026-11-26 23:59", "UTC") + 59
        )
        self.assertEqual(
            timing.read_end("2026-11-26 18:00", "UTC"), timing.read_instant("2026-11-26 18:00", "UTC")
        )

    def test_a_wall_time_has_its_instant(self) -> None:
        for wall, zone, wanted in INSTANTS:
            with self.subTest(f"{wall} {zone}"):
                self.assertEqual(timing.instant_of_wall(wall, zone), utc(wanted))

    def test_wall_and_instant_go_back_and_forth(self) -> None:
        for wall in ("2026-11-26T09:00", "2026-07-01T23:59:30"):
            self.assertEqual(
                timing.wall(timing.instant_of_wall(wall, "Europe/Lisbon"), "Europe/Lisbon"), wall
            )

    def test_typed_times_are_read(self) -> None:
        for typed, wanted in (
            ("2026-11-26", "2026-11-26T00:00"),
            (" 2026-11-26 09:05 ", "2026-11-26T09:05"),
            ("2026-11-26T09:05:07", "2026-11-26T09:05:07"),
        ):
            self.assertEqual(timing.read_wall(typed), wanted)

    def test_wrong_times_are_refused_with_a_remedy(self) -> None:
        for typed, message in (
            ("soon", "write it like 2026-11-26 09:00"),
            ("2026-02-30", "not in the calendar"),
            ("1066-10-14", "too far away"),
            ("", "no date"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, message):
                timing.read_wall(typed)

    def test_an_offset_counts_before_the_zone(self) -> None:
        for typed in ("2026-11-26T09:00Z", "2026-11-26T10:00+01:00"):
            self.assertEqual(timing.read_instant(typed, "Pacific/Apia"), utc("2026-11-26T09:00"))
        with self.assertRaisesRegex(BadInput, "no date and time"):
            timing.read_instant("26T11:99Z", "UTC")

    def test_an_unknown_zone_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "There is no time zone “Port/Alder”"):
            timing.zone("Port/Alder")

    def test_times_are_told_in_words(self) -> None:
        now = utc("2026-11-23T14:05")
        self.assertEqual(timing.time_in_words(utc("2026-11-26T09:00"), "UTC", now), "Thu 26 Nov at 09:00")
        self.assertEqual(timing.time_in_words(utc("2027-01-02T09:00"), "UTC", now), "Sat 2 Jan 2027 at 09:00")
        for ago, words in (
            (0, "just now"),
            (3, "3 s ago"),
            (600, "10 min ago"),
            (7200, "today 12:05"),
            (86400, "yesterday"),
            (3 * 86400, "Fri 20 Nov"),
        ):
            with self.subTest(words):
                self.assertEqual(timing.ago_in_words(now - ago, "UTC", now), words)
        self.assertEqual(timing.short_day(date(2025, 11, 20), date(2026, 11, 23)), "20 Nov 2025")
        self.assertEqual(timing.day_in_words(now, "UTC"), "23 November 2026")

    def test_an_hour_is_the_clocks_and_a_day_may_have_23_or_25_of_them(self) -> None:
        half_past = timing.instant_of_wall("2026-11-18T09:40", "Asia/Kolkata")
        self.assertEqual(
            [timing.wall(at, "Asia/Kolkata") for at in timing.hour_of(half_past, "Asia/Kolkata")],
            ["2026-11-18T09:00", "2026-11-18T10:00"],
        )
        for day, hours in (("2026-03-29", 23), ("2026-06-01", 24), ("2026-10-25", 25)):
            with self.subTest(day):
                first, until = timing.day_of(day, "Europe/Lisbon")
                self.assertEqual((until - first) / 3600, hours)

    def test_a_month_follows_the_zone(self) -> None:
        self.assertEqual(timing.month_of(utc("2026-11-30T23:30"), "Asia/Tokyo"), "2026-12")
        self.assertEqual(timing.month_name("2026-12"), "December 2026")

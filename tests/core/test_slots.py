"""Slots against an independent count of days, in several zones, and their words."""

from __future__ import annotations

import calendar
import unittest
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from mobbet.core.errors import BadInput
from mobbet.core.slots import (
    Free,
    Slot,
    assign,
    free_slots,
    in_words,
    occurrences,
    read_days,
    read_rule,
    read_time,
)

ZONES = ("Europe/Lisbon", "America/New_York", "Australia/Lord_Howe", "Pacific/Apia", "Asia/Kathmandu", "UTC")
START = date(2026, 1, 1)
FIRST, LAST = 1_767_225_600, 1_767_225_600 + 10 * 366 * 86400


def slot(rule: str, time: str = "09:00", *excepted: str) -> Slot:
    return Slot(read_rule(rule, time, START.isoformat(), "UTC"), time, START.isoformat(), excepted)


def instants(days: list[date], hour: int, zone: str) -> list[int]:
    """The instants of these days at an hour, worked out by a way of its own: forwards from UTC, minute by minute where the hour is missing."""
    found = []
    for day in days:
        wanted = datetime(day.year, day.month, day.day, hour)
        moment = wanted.replace(tzinfo=ZoneInfo(zone))
        back = moment.astimezone(UTC).astimezone(ZoneInfo(zone)).replace(tzinfo=None)
        later = (wanted - back) if back < wanted else timedelta()
        found.append(int((moment + later).timestamp()))
    return found


def days_until(last: date) -> list[date]:
    return [START + timedelta(days=number) for number in range((last - START).days)]


class OccurrenceTests(unittest.TestCase):
    def held(self, rule: str, days: list[date], hour: int = 9) -> None:
        for zone in ZONES:
            with self.subTest(rule=rule, zone=zone):
                wanted = [instant for instant in instants(days, hour, zone) if FIRST < instant <= LAST]
                found = [one.instant for one in occurrences([slot(rule, f"{hour:02}:00")], zone, FIRST, LAST)]
                self.assertEqual(found, sorted(set(wanted)))

    def test_every_week_and_every_other_week_for_ten_years(self) -> None:
        days = days_until(date(2036, 1, 20))
        self.held("FREQ=WEEKLY;BYDAY=TU", [day for day in days if day.weekday() == 1])
        monday = START - timedelta(days=START.weekday())
        self.held(
            "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH",
            [day for day in days if day.weekday() in (1, 3) and ((day - monday).days // 7) % 2 == 0],
        )

    def test_the_last_thursday_and_the_hours_that_clock_changes_skip(self) -> None:
        days = days_until(date(2036, 1, 20))
        last = [
            day
            for day in days
            if day.weekday() == 3 and day.day > calendar.monthrange(day.year, day.month)[1] - 7
        ]
        self.held("FREQ=MONTHLY;BYDAY=-1TH", last)
        self.held("FREQ=WEEKLY;BYDAY=SU", [day for day in days if day.weekday() == 6], 2)

    def test_days_are_left_out_and_slots_that_meet_are_one(self) -> None:
        two = [slot("FREQ=WEEKLY;BYDAY=TU", "09:00", "2026-01-06"), slot("FREQ=MONTHLY;BYMONTHDAY=13")]
        self.assertEqual(
            [one.wall[:10] for one in occurrences(two, "UTC", FIRST, FIRST + 20 * 86400)],
            ["2026-01-13", "2026-01-20"],
        )

    def test_until_means_the_whole_day(self) -> None:
        found = occurrences([slot("FREQ=DAILY;UNTIL=20260103")], "UTC", FIRST, LAST)
        self.assertEqual(
            [one.wall for one in found], ["2026-01-01T09:00", "2026-01-02T09:00", "2026-01-03T09:00"]
        )

    def test_the_queue_takes_what_is_free_in_order(self) -> None:
        free = free_slots([slot("FREQ=DAILY")], "UTC", FIRST, FIRST + 4 * 86400, [FIRST + 32400])
        self.assertEqual([one.wall[8:10] for one in free], ["02", "03", "04"])
        self.assertEqual(
            assign([7, 5], free),
            [(7, Free("2026-01-02T09:00", FIRST + 118800)), (5, Free("2026-01-03T09:00", FIRST + 205200))],
        )


class ReadingTests(unittest.TestCase):
    def test_rules_in_words(self) -> None:
        for rule, words in (
            ("FREQ=WEEKLY;BYDAY=TU,TH", "every Tuesday and Thursday at 09:00"),
            ("FREQ=WEEKLY;INTERVAL=2;BYDAY=MO", "every other week on Monday at 09:00"),
            ("FREQ=MONTHLY;BYDAY=-1TH", "the last Thursday of the month at 09:00"),
            ("FREQ=MONTHLY;BYMONTHDAY=1,15", "on day 1 and 15 of the month at 09:00"),
            ("FREQ=DAILY;COUNT=3", "every day at 09:00, 3 times"),
        ):
            with self.subTest(rule):
                self.assertEqual(in_words(slot(rule)), words)

    def test_what_is_no_rule_is_refused_in_a_sentence(self) -> None:
        for rule, message in (
            ("every tuesday", "is no recurrence"), ("", "is no recurrence"), ("FREQ=HOURLY", "needs FREQ as DAILY"), ("FREQ=WEEKLY;BYDAY=XX", "is no recurrence"),
            ("FREQ=WEEKLY;INTERVAL=0", "is no recurrence"), ("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "gives no time within five years"), ("FREQ=WEEKLY;UNTIL=soonZ", "is no recurrence"),
        ):  # fmt: skip
            with self.subTest(rule), self.assertRaisesRegex(BadInput, message):
                slot(rule)

    def test_times_and_days_are_read_as_people_type_them(self) -> None:
        self.assertEqual((read_time(" 9:05 "), read_time("18.30")), ("09:05", "18:30"))
        self.assertEqual(read_days("2026-12-31, 2026-12-24"), ("2026-12-24", "2026-12-31"))
        for read, text in ((read_time, "25:00"), (read_time, "noon"), (read_days, "christmas")):
            with self.subTest(text), self.assertRaisesRegex(BadInput, f"“{text}” is no"):
                read(text)

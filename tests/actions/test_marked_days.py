from datetime import date

from mobbet.actions import marked_days, slots
from mobbet.core.calendars import read_days_of_file
from mobbet.core.errors import BadInput
from mobbet.store import marked_days as store
from tests.shops import DAY, ShopCase

HOLIDAYS = b"""BEGIN:VCALENDAR\r
VERSION:2.0\r
PRODID:-//Port Alder//Feasts//EN\r
BEGIN:VEVENT\r
UID:1\r
DTSTAMP:20260101T000000Z\r
DTSTART;VALUE=DATE:20261224\r
DTEND;VALUE=DATE:20270104\r
SUMMARY:Workshop\r
  closed\\, doors too\r
END:VEVENT\r
BEGIN:VEVENT\r
UID:2\r
DTSTAMP:20260101T000000Z\r
DTSTART;VALUE=DATE:20200601\r
RRULE:FREQ=YEARLY;UNTIL=20280601\r
EXDATE;VALUE=DATE:20270601\r
SUMMARY:Harbour day\r
END:VEVENT\r
BEGIN:VEVENT\r
UID:3\r
DTSTAMP:20260101T000000Z\r
DTSTART:20261130T233000Z\r
DTEND:20261201T000000Z\r
SUMMARY:Late in one zone\r
END:VEVENT\r
BEGIN:VEVENT\r
UID:4\r
DTSTAMP:20260101T000000Z\r
DTSTART;VALUE=DATE:20261202\r
STATUS:CANCELLED\r
SUMMARY:Called off\r
END:VEVENT\r
END:VCALENDAR\r
"""


class MarkedDaysTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU,TH")

    def turns(self, days: int) -> list[str]:
        now = self.clock()
        return [turn.wall[:10] for turn in slots.turns(self.shop, self.blog, now, now + days * DAY)]

    def test_slots_do_not_come_on_days_that_skip_them_and_the_queue_moves_on(self) -> None:
        radio, lamp = (self.write(title).id for title in ("A radio", "A lamp"))
        for number in (radio, lamp):
            slots.put_in_queue(self.shop, self.me, number)
        self.assertEqual(self.turns(9), ["2026-11-19", "2026-11-24", "2026-11-26"])
        marked_days.mark(self.shop, self.me, "bench", "2026-11-23", "2026-11-29", "holiday", True)
        self.assertEqual(self.turns(14), ["2026-11-19", "2026-12-01"])
        self.assertEqual(
            [
                turn.post_id
                for turn in slots.turns(self.shop, self.blog, self.clock(), self.clock() + 14 * DAY)
            ],
            [radio, lamp],
        )
        marked_days.unmark(self.shop, self.me, "bench", store.of_blog(self.shop.db, self.blog.id)[0].id)
        self.assertEqual(self.turns(9), ["2026-11-19", "2026-11-24", "2026-11-26"])

    def test_days_that_are_only_named_change_no_slot(self) -> None:
        marked_days.mark(self.shop, self.me, "bench", "2026-11-24", "", "session", False)
        self.assertIn("2026-11-24", self.turns(9))
        found = marked_days.on_days(self.shop, self.blog, date(2026, 11, 23), date(2026, 11, 25))
        self.assertEqual(
            {day: [one.words for one in marks] for day, marks in found.items()},
            {date(2026, 11, 24): ["session"]},
        )

    def test_what_cannot_be_is_told_in_words(self) -> None:
        for given, words in (
            (("soon", "", "x"), "“soon” is no day"), (("2026-12-24", "2026-12-01", "x"), "2026-12-01 is before"), (("2026-12-24", "", " "), "no name yet"),
            (("2026-12-24", "2030-12-24", "x"), "more than 366 days"),
        ):  # fmt: skip
            with self.subTest(given), self.assertRaisesRegex(BadInput, words):
                marked_days.mark(self.shop, self.me, "bench", *given, True)

    def test_a_calendar_file_marks_its_days_once(self) -> None:
        self.assertEqual(marked_days.bring_in(self.shop, self.me, "bench", HOLIDAYS, True), (3, 0))
        self.assertEqual(marked_days.bring_in(self.shop, self.me, "bench", HOLIDAYS, True), (0, 3))
        self.assertNotIn("2026-12-24", self.turns(60))
        with self.assertRaisesRegex(BadInput, "no calendar"):
            marked_days.bring_in(self.shop, self.me, "bench", b"\x89PNG", True)


class CalendarFileTests(ShopCase):
    def test_the_days_of_a_file_are_those_of_its_entries(self) -> None:
        found = read_days_of_file(HOLIDAYS, "Europe/Lisbon", date(2026, 11, 18), date(2029, 11, 18))
        self.assertEqual(
            [(one.first.isoformat(), one.last.isoformat(), one.words) for one in found],
            [
                ("2026-11-30", "2026-11-30", "Late in one zone"),
                ("2026-12-24", "2027-01-03", "Workshop closed, doors too"),
                ("2028-06-01", "2028-06-01", "Harbour day"),
            ],
        )

    def test_a_time_counts_for_its_day_in_the_zone(self) -> None:
        found = read_days_of_file(HOLIDAYS, "Asia/Tokyo", date(2026, 11, 18), date(2026, 12, 20))
        self.assertEqual([one.first.isoformat() for one in found], ["2026-12-01"])

    def test_rules_that_never_come_or_come_every_second_do_no_harm(self) -> None:
        for rule in (
            "FREQ=SECONDLY",
            "FREQ=DAILY;BYHOUR=1,2,3;BYMINUTE=1,2",
            "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30",
            "FREQ=YEARLY;BYMONTH=13",
        ):
            text = HOLIDAYS.replace(b"RRULE:FREQ=YEARLY;UNTIL=20280601", f"RRULE:{rule}".encode())
            with self.subTest(rule):
                found = [
                    one.words
                    for one in read_days_of_file(text, "Europe/Lisbon", date(2026, 11, 18), date(2027, 1, 18))
                ]
                self.assertEqual(found.count("Harbour day"), 62 if "BYHOUR" in rule else 0)

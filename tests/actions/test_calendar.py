"""The timetable as iCalendar: read by a parser, folded and escaped, at an address that can be renewed."""

from __future__ import annotations

import icalendar

from mobbet.actions import calendar, slots
from mobbet.core.errors import NotFound
from mobbet.store import blogs
from tests.shops import ShopCase

LONG = "A title; with commas, a back\\slash and a line of forty words " + "and more " * 12


class CalendarTests(ShopCase):
    def test_what_happens_is_read_by_any_program(self) -> None:
        self.write(LONG, "x", date="2026-12-01T09:00", expires="2026-12-05T21:00")
        self.write("電気ケトル", "x", date="2026-11-02T08:30")
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        text = calendar.calendar_of(self.shop, self.blog, "https://bench.example")
        self.assertTrue(all(len(line) <= 75 for line in text.split(b"\r\n")))
        self.assertNotIn(b"\n\n", text)
        read = icalendar.Calendar.from_ical(text)
        events = {str(event["summary"]): event for event in read.walk("VEVENT")}
        self.assertEqual(events[LONG.strip()]["dtstart"].dt.isoformat(), "2026-12-01T09:00:00+00:00")
        self.assertEqual(str(events[LONG.strip()]["url"]), "https://bench.example/posts/1")
        self.assertIn(f"{LONG.strip()} (comes down)", events)
        self.assertIn("電気ケトル", events)
        uids = [str(event["uid"]) for event in read.walk("VEVENT")]
        self.assertEqual(len(uids), len(set(uids)))
        self.assertGreater(sum(str(event["summary"]) == "Free slot" for event in read.walk("VEVENT")), 40)

    def test_its_address_is_private_and_can_be_renewed(self) -> None:
        with self.assertRaises(NotFound):
            calendar.by_key(self.shop, "bench", "")
        calendar.renew(self.shop, self.me, "bench")
        first = blogs.by_slug(self.shop.db, "bench").calendar_key
        self.assertEqual(calendar.by_key(self.shop, "bench", first).id, self.blog.id)
        calendar.renew(self.shop, self.me, "bench")
        with self.assertRaisesRegex(NotFound, "may have renewed it"):
            calendar.by_key(self.shop, "bench", first)

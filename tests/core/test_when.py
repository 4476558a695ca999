import random
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.when import clock_change, in_words, read_when

NOW = 1_795_000_000  # Wed 18 November 2026, 11:06 in Lisbon
SAID = {
    "thu 9": "2026-11-19T09:00", "Thursday at 18:30": "2026-11-19T18:30", "wed 9": "2026-11-25T09:00", "wed 12": "2026-11-18T12:00", "next wed": "2026-11-25T09:00",
    "last thursday": "2026-11-12T09:00", "tomorrow 18:30": "2026-11-19T18:30", "tomorrow": "2026-11-19T09:00", "today 7pm": "2026-11-18T19:00", "tonight": "2026-11-18T20:00",
    "yesterday noon": "2026-11-17T12:00", "in 2 weeks": "2026-12-02T09:00", "in two weeks at 7": "2026-12-02T07:00", "in 3 days 18h30": "2026-11-21T18:30",
    "in an hour": "2026-11-18T12:06", "in 90 minutes": "2026-11-18T12:36", "in half an hour": "2026-11-18T11:36", "in a month": "2026-12-18T09:00", "in 1 year": "2027-11-18T09:00",
    "3 days ago": "2026-11-15T09:00", "26/11 9:00": "2026-11-26T09:00", "26.11. 9.30": "2026-11-26T09:30", "3/2": "2027-02-03T09:00", "26/11/2031 at 8": "2031-11-26T08:00",
    "26 nov": "2026-11-26T09:00", "26th of November, 10am": "2026-11-26T10:00", "nov 26": "2026-11-26T09:00", "November 1st 2026 9": "2026-11-01T09:00", "thu 26 nov 18:00": "2026-11-26T18:00",
    "29 feb": "2028-02-29T09:00", "2026-11-26": "2026-11-26T09:00", "2026-11-26T07:05": "2026-11-26T07:05", "18:30": "2026-11-18T18:30", "9": "2026-11-19T09:00", "0900": "2026-11-19T09:00",
    "tomorrow at nine": "2026-11-19T09:00", "tomorrow morning at 9am": "2026-11-19T09:00", "next tuesday noon": "2026-11-24T12:00",
    "end of the month": "2026-11-30T09:00", "end of next week": "2026-11-29T09:00", "the beginning of next month at noon": "2026-12-01T12:00", "end of the year": "2026-12-31T09:00",
    "this evening": "2026-11-18T18:00", "thu evening at 7": "2026-11-19T19:00", "friday at half past nine": "2026-11-20T09:30", "quarter to ten": "2026-11-19T09:45",
    "nine in the evening": "2026-11-18T21:00", "the day after tomorrow at 8": "2026-11-20T08:00", "next week": "2026-11-25T09:00", "next month": "2026-12-18T09:00",
    "the weekend": "2026-11-21T09:00", "sunday night": "2026-11-22T20:00", "12 dec in the morning": "2026-12-12T09:00",
    "noon": "2026-11-18T12:00", "12am": "2026-11-19T00:00", "now": "2026-11-18T11:06",
}  # fmt: skip


class WhenTests(unittest.TestCase):
    def test_what_comes_down_at_the_end_of_a_month_stays_through_its_last_day(self) -> None:
        self.assertEqual(
            read_when("end of the month", NOW, "Europe/Lisbon", "comes_down_wall"), "2026-11-30T23:59"
        )
        self.assertEqual(
            read_when("end of the month at 18", NOW, "Europe/Lisbon", "comes_down_wall"), "2026-11-30T18:00"
        )

    def test_times_are_understood_as_people_say_them(self) -> None:
        for text, wall in SAID.items():
            with self.subTest(text):
                self.assertEqual(read_when(text, NOW, "Europe/Lisbon"), wall)
                self.assertEqual(read_when(f"  {text.upper()} ", NOW, "Europe/Lisbon"), wall)

    def test_what_is_no_time_is_told_with_examples(self) -> None:
        for text in (
            "",
            "soon",
            "31/2",
            "30 feb 2026",
            "thu 25:00",
            "13pm",
            "in many weeks",
            "26/13",
            "2026-02-30",
            "thu fri",
            "9:99",
        ):
            with (
                self.subTest(text),
                self.assertRaisesRegex(
                    BadInput, "write it like thu 9, tomorrow 18:30, in 2 weeks or 26/11 9:00"
                ),
            ):
                read_when(text, NOW, "Europe/Lisbon")

    def test_nonsense_never_does_anything_but_be_refused(self) -> None:
        chance = random.Random(6)
        parts = [*"0123456789/.:-, ", "in", "thu", "nov", "ago", "at", "pm", "week", "last", "26", "feb", "h"]
        for _ in range(4000):
            text = "".join(
                chance.choice(parts) + chance.choice(("", " ")) for _ in range(chance.randrange(1, 7))
            )
            try:
                self.assertRegex(read_when(text, NOW, "Europe/Lisbon"), r"^\d{4}-\d\d-\d\dT\d\d:\d\d$")
            except BadInput:
                pass

    def test_a_clock_change_is_told_with_what_happens(self) -> None:
        self.assertEqual(
            clock_change("2027-03-28T01:30", "Europe/Lisbon"),
            "The clocks skip 01:30 that night; it is 02:30 then.",
        )
        self.assertEqual(
            clock_change("2026-10-25T01:30", "Europe/Lisbon"),
            "01:30 comes twice that night, as the clocks go back; the first one is meant.",
        )
        self.assertEqual(clock_change("2026-11-26T09:00", "Europe/Lisbon"), "")

    def test_hours_pass_as_they_pass_over_a_clock_change(self) -> None:
        evening = 1_806_190_200  # Sat 27 March 2027, 23:30 in Lisbon
        self.assertEqual(read_when("in 4 hours", evening, "Europe/Lisbon"), "2027-03-28T04:30")

    def test_a_time_is_told_with_its_distance(self) -> None:
        self.assertEqual(
            in_words(NOW + 8 * 86400, "Europe/Lisbon", NOW), "Thu 26 Nov 2026 at 11:06, in 8 days"
        )


if __name__ == "__main__":
    unittest.main()

"""What the drawing of the timetable shows."""

from datetime import date

from mobbet.actions import blogs, files, marked_days, slots
from mobbet.web.timetable.weeks import Stretch, drawing_of
from tests.shops import ShopCase


class WeeksTests(ShopCase):
    def test_slips_tell_their_kind_and_free_slots_their_time(self) -> None:
        self.write("Out", date="2026-11-16 10:00")
        self.write("To come", date="2026-11-20 09:00", expires="2026-11-28 21:00")
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        drawn = drawing_of(self.shop, self.blog, Stretch(date(2026, 11, 16), 2))
        slips = {slip.words: slip for week in drawn.weeks for day in week.days for _, slip in day.slips}
        self.assertEqual(
            [(slip.kind, slip.head) for slip in slips.values()],
            [
                ("past", "10:00"),
                ("coming", "09:00"),
                ("free", "09:00 free slot"),
                ("down", "21:00 comes down"),
            ],
        )
        self.assertEqual([slip.wall for slip in slips.values() if slip.wall], ["2026-11-24T09:00"])

    def test_marked_days_and_clock_changes_are_bands(self) -> None:
        marked_days.mark(self.shop, self.me, "bench", "2026-12-24", "2027-01-03", "workshop closed", True)
        drawn = drawing_of(self.shop, self.blog, Stretch(date(2026, 12, 21), 2))
        self.assertEqual(sum(1 for week in drawn.weeks for day in week.days if day.bands), 11)
        autumn = drawing_of(self.shop, self.blog, Stretch(date(2026, 10, 19), 1))
        self.assertEqual(
            [band.words for day in autumn.weeks[0].days for _, band in day.bands], ["clocks back 1 h"]
        )

    def test_another_blog_stands_over_it_in_the_zone_of_this_one(self) -> None:
        log = blogs.make_blog(
            self.shop,
            self.me,
            name="The Log",
            address="log",
            zone="Atlantic/Azores",
            home="https://log.example/",
        )
        files.new_post(self.shop, self.me, "log", "---\ntitle: Geese\ndate: 2026-11-20 09:00\n---\nWords.\n")
        drawn = drawing_of(self.shop, self.blog, Stretch(date(2026, 11, 16), 1), [log])
        (slip,) = [slip for day in drawn.weeks[0].days for _, slip in day.slips]
        self.assertEqual(
            (slip.head, slip.pattern, slip.moves, slip.words),
            ("10:00", 1, False, "The Log: Geese, goes out Fri 20 Nov at 10:00"),
        )
        self.assertEqual(drawn.others, [(1, "The Log")])

    def test_a_week_by_its_hours_puts_slips_where_they_belong(self) -> None:
        self.write("Early", date="2026-11-20 09:00")
        self.write("Soon after", date="2026-11-20 09:10")
        self.write("Late", date="2026-11-20 18:00")
        drawn = drawing_of(self.shop, self.blog, Stretch(date(2026, 11, 16), 1, by_hours=True))
        ys = [y for day in drawn.weeks[0].days for y, _ in day.slips]
        hours = {words: y for y, words in drawn.weeks[0].hours}
        self.assertEqual((ys[0], ys[2]), (hours["09:00"], hours["18:00"]))
        self.assertGreater(ys[1], ys[0])

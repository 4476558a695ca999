import unittest
from datetime import date, timedelta

from mobbet.core.rhythm import PlannedPost, by_weeks, remarks, usual_gap
from mobbet.core.timing import clock_turns

FIRST = date(2026, 11, 2)


def going(days: int, category: int = 0, words: int = 100) -> PlannedPost:
    return PlannedPost(days * 86400, FIRST + timedelta(days=days), days, f"Post {days}", category, words)


class RemarkTests(unittest.TestCase):
    def told(self, *goings: PlannedPost, usual: int | None = 4, now: int = 0) -> list[tuple]:
        return [(one.what, *(post.post for post in one.posts)) for one in remarks(goings, usual, now)]

    def test_two_on_one_day_and_long_gaps_stand_out(self) -> None:
        self.assertEqual(
            self.told(going(1), going(1), going(5), going(14)), [("same day", 1, 1), ("gap", 5, 14)]
        )

    def test_three_of_one_category_in_a_row_stand_out_once(self) -> None:
        self.assertEqual(
            self.told(going(1, 7), going(3, 7), going(5, 7), going(7, 7), going(9, 8)),
            [("in a row", 1, 3, 5, 7)],
        )
        self.assertEqual(self.told(going(1), going(3), going(5)), [])

    def test_what_is_past_is_left_alone(self) -> None:
        self.assertEqual(self.told(going(1, 7), going(1, 7), going(20, 7), now=20 * 86400), [])
        self.assertEqual(self.told(going(1), going(20), now=2 * 86400), [("gap", 1, 20)])

    def test_without_a_usual_gap_none_is_long(self) -> None:
        self.assertEqual(self.told(going(1), going(90), usual=None), [])


class WeekTests(unittest.TestCase):
    def test_the_usual_gap_is_not_moved_by_one_pause(self) -> None:
        self.assertEqual(usual_gap([day * 86400 for day in (60, 20, 16, 12, 8)]), 4)
        self.assertIsNone(usual_gap([0, 86400]))

    def test_weeks_count_posts_words_and_categories(self) -> None:
        weeks = by_weeks([going(0, 7), going(6, 7, 50), going(7, 8), going(99)], FIRST, 3)
        self.assertEqual(
            [(week.posts, week.words, week.categories) for week in weeks],
            [(2, 150, {7: 2}), (1, 100, {8: 1}), (0, 0, {})],
        )

    def test_the_days_on_which_clocks_change_are_named(self) -> None:
        self.assertEqual(
            clock_turns(date(2026, 3, 1), date(2026, 12, 1), "Europe/Lisbon"),
            {date(2026, 3, 29): "clocks forward 1 h", date(2026, 10, 25): "clocks back 1 h"},
        )
        self.assertEqual(
            clock_turns(date(2026, 4, 1), date(2026, 4, 30), "Australia/Lord_Howe"),
            {date(2026, 4, 5): "clocks back 30 min"},
        )
        self.assertEqual(clock_turns(date(2026, 1, 1), date(2026, 12, 31), "Asia/Tokyo"), {})

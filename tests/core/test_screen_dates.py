import contextvars
import unittest
from collections.abc import Callable
from datetime import date

from mobbet.core import screen_dates, timing

AT, NOW = 1_795_683_600, 1_795_700_000  # Thu 26 November 2026 at 09:00 in Lisbon


def within(language: str, ask: Callable[[], str]) -> str:
    """What is answered in a context of its own with a language."""

    def run() -> str:
        screen_dates.use(language)
        return ask()

    return contextvars.copy_context().run(run)


class ScreenDateTests(unittest.TestCase):
    def test_without_a_language_dates_are_as_everywhere(self) -> None:
        zone = "Europe/Lisbon"
        for one, other in [
            (screen_dates.time_in_words(AT, zone, NOW), timing.time_in_words(AT, zone, NOW)),
            (screen_dates.ago_in_words(AT, zone, AT + 90), "1 min ago"),
            (screen_dates.day_in_words(AT, zone), "26 November 2026"),
            (screen_dates.short_date("2026-12-03"), "Thu 3 Dec"),
            (screen_dates.weekday_and_day(date(2026, 11, 20), True), "Fri 20 November 2026"),
        ]:
            with self.subTest(other):
                self.assertEqual(one, other)

    def test_each_language_writes_dates_in_its_own_way(self) -> None:
        zone = "Europe/Lisbon"
        for language, words in [
            ("de", "Do., 26. Nov., 09:00"), ("fr", "jeu. 26 nov., 09:00"), ("ja", "11月26日(木), 9:00"), ("en_US", "Thu, Nov 26, 9:00\u202fAM"),
        ]:  # fmt: skip
            with self.subTest(language):
                self.assertEqual(within(language, lambda: screen_dates.time_in_words(AT, zone, NOW)), words)

    def test_every_language_of_the_list_writes_every_form(self) -> None:
        for language in screen_dates.LANGUAGES:
            for name, ask in {
                "time": lambda: screen_dates.time_in_words(AT, "UTC", NOW + 400 * 86400),
                "ago": lambda: screen_dates.ago_in_words(AT, "UTC", AT + 5),
                "yesterday": lambda: screen_dates.ago_in_words(AT, "UTC", AT + 86400),
                "month": lambda: screen_dates.month_name("2026-11"),
                "short": lambda: screen_dates.short_month(date(2026, 11, 1)),
                "weekday": lambda: screen_dates.weekday_day_and_month(date(2026, 11, 1)),
                "day": lambda: screen_dates.day_and_month(date(2026, 11, 1)),
                "long": lambda: screen_dates.weekday_and_day(date(2026, 11, 1), True),
            }.items():
                with self.subTest(f"{language} {name}"):
                    self.assertTrue(within(language, ask).strip())

    def test_a_language_stays_within_its_context(self) -> None:
        within("de", lambda: "")
        self.assertEqual(screen_dates.month_name("2026-05"), "May 2026")

    def test_an_unknown_language_is_english(self) -> None:
        self.assertEqual(within("../x", lambda: screen_dates.month_name("2026-05")), "May 2026")

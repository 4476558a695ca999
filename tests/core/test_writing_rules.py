import unittest

from mobbet.core.errors import BadInput
from mobbet.core.fill_ins import read_facts
from mobbet.core.link_rules import read_rules, relations
from mobbet.core.revisions import DAY, HOUR, Aged, to_drop

NOW = 2_000_000_000


class RevisionRuleTests(unittest.TestCase):
    def drop(self, ages: list[int], kept: tuple[int, ...] = ()) -> list[int]:
        """Which of revisions of these ages in seconds go; they are numbered from 1, the oldest first."""
        ordered = sorted(ages, reverse=True)
        return to_drop(
            [Aged(number, NOW - age, number in kept) for number, age in enumerate(ordered, 1)], NOW
        )

    def test_the_last_day_is_kept_whole(self) -> None:
        self.assertEqual(self.drop([60 * minute for minute in range(0, 24 * 60, 10)]), [])

    def test_older_ones_are_thinned_to_hours_days_and_weeks(self) -> None:
        start = NOW - NOW % (7 * DAY)
        for age, stretch in ((3 * DAY, HOUR), (30 * DAY, DAY), (300 * DAY, 7 * DAY)):
            at = (start - age) - (start - age) % stretch
            within = [Aged(number, at + number * 60, False) for number in range(1, 6)]
            newest = Aged(99, NOW, False)
            with self.subTest(stretch):
                self.assertEqual(sorted(to_drop([*within, newest], NOW)), [1, 2, 3, 4])

    def test_what_was_placed_or_named_always_stays(self) -> None:
        ages = [300 * DAY + minute * 60 for minute in range(5)]
        self.assertTrue({2, 3}.isdisjoint(self.drop(ages, kept=(2, 3))))

    def test_the_newest_stays_however_old(self) -> None:
        self.assertEqual(self.drop([900 * DAY]), [])


class LinkRuleTests(unittest.TestCase):
    def test_rules_hold_for_a_domain_and_those_below_it(self) -> None:
        rules = read_rules("https://Shop.example/ paid\n\nwild.example not-vouched-for")
        for href, wanted in (
            ("https://shop.example/x", ("sponsored", "nofollow")), ("https://www.shop.example/", ("sponsored", "nofollow")),
            ("https://a.wild.example", ("nofollow",)), ("https://myshop.example", ()), ("/lamps/", ()), ("https://[", ()),
        ):  # fmt: skip
            with self.subTest(href):
                self.assertEqual(relations(href, rules), wanted)

    def test_a_rule_that_cannot_be_read_is_refused_with_its_line(self) -> None:
        for line, message in (
            ("nonsense", "names no domain"),
            ("shop.example free", "has no rule; end it with one of: paid"),
        ):
            with self.subTest(line), self.assertRaisesRegex(BadInput, message):
                read_rules(line)


class FactTests(unittest.TestCase):
    def test_facts_are_names_and_values(self) -> None:
        self.assertEqual(
            read_facts("Next session: Thu 26 Nov, 18:30\nphone: 21"),
            (("next-session", "Thu 26 Nov, 18:30"), ("phone", "21")),
        )

    def test_a_fact_that_cannot_be_is_refused_in_words(self) -> None:
        for line, message in (
            ("no colon", "is no fact"),
            ("title: x", "stands for the title already"),
            ("a: " + "x" * 301, "longer than 300 letters"),
            ("1: x", "is no fact"),
        ):
            with self.subTest(line), self.assertRaisesRegex(BadInput, message):
                read_facts(line)

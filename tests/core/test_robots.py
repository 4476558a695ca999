import unittest

from mobbet.core import robots
from mobbet.core.robot_examples import PEOPLE, ROBOTS
from mobbet.core.robots import Learned, Manner, suspicion
from tests.core import unseen_comments

NOTHING = Learned()


def without(name: str, text: str, is_robot: bool) -> Learned:
    """What takes one of the examples away, so that it is judged by the others."""
    less = dict.fromkeys(robots.signs_of(name, text), -1)
    return Learned(less if is_robot else {}, {} if is_robot else less, -is_robot, -(not is_robot))


class GuardTests(unittest.TestCase):
    def test_each_example_is_judged_rightly_by_the_others(self) -> None:
        missed = [
            name
            for name, text in ROBOTS
            if not suspicion(name, text, Manner(12), without(name, text, True)).looks_like_one
        ]
        held = [
            name
            for name, text in PEOPLE
            if suspicion(name, text, Manner(12), without(name, text, False)).looks_like_one
        ]
        self.assertLessEqual(len(missed), len(ROBOTS) // 10, missed)
        self.assertLessEqual(len(held), len(PEOPLE) // 20, held)
        elsewhere = Manner(12, post_words=frozenset({"zeppelin"}))
        held = [
            name
            for name, text in PEOPLE
            if suspicion(name, text, elsewhere, without(name, text, False)).looks_like_one
        ]
        self.assertLessEqual(len(held), len(PEOPLE) // 20, held)

    def test_of_comments_that_it_was_not_given_it_holds_robots_and_lets_people_through(self) -> None:
        manner = Manner(8, post_words=frozenset({"lamp", "switch", "glue", "belt"}))
        robots_held, people_held = (
            [name for name, text in some if suspicion(name, text, manner, NOTHING).looks_like_one]
            for some in (unseen_comments.ROBOTS, unseen_comments.PEOPLE)
        )
        self.assertGreaterEqual(len(robots_held), 0.95 * len(unseen_comments.ROBOTS))
        self.assertLessEqual(len(people_held), 1, people_held)

    def test_manner_speaks_by_itself(self) -> None:
        text = "I had the same trouble with mine."
        self.assertFalse(suspicion("Ann", text, Manner(40), NOTHING).looks_like_one)
        self.assertTrue(suspicion("Ann", text, Manner(40, is_trapped=True), NOTHING).looks_like_one)
        self.assertTrue(suspicion("Ann", text, Manner(1, refused_alike=3), NOTHING).looks_like_one)

    def test_whoever_is_known_or_signed_in_may_have_links(self) -> None:
        text = (
            "The drawings are at https://a.example and https://b.example, the list is at https://c.example."
        )
        self.assertTrue(suspicion("Ann", text, Manner(40), NOTHING).looks_like_one)
        self.assertFalse(
            suspicion("Ann", text, Manner(40, is_known=True, is_signed_in=True), NOTHING).looks_like_one
        )

    def test_the_reason_is_told(self) -> None:
        found = suspicion(
            "Casino",
            "Win money https://a.example https://b.example https://c.example https://d.example",
            Manner(1, refused_alike=3),
            NOTHING,
        )
        self.assertIn("refused three alike this week", found.words)
        self.assertIn("four links", found.words)
        self.assertEqual(suspicion("Ann", "Thank you.", Manner(40), NOTHING).words, "")

    def test_what_a_blog_showed_and_refused_counts_more_and_more(self) -> None:
        text = "Our gazebo catalogue has the finest gazebo of the season"
        self.assertFalse(suspicion("x", text, Manner(12), NOTHING).looks_like_one)
        signs = robots.signs_of("x", text)
        learned = Learned(dict.fromkeys(signs, 8), {}, 8, 8)
        self.assertTrue(suspicion("x", text, Manner(12), learned).looks_like_one)
        self.assertFalse(
            suspicion("x", text, Manner(12), Learned({}, dict.fromkeys(signs, 8), 8, 8)).looks_like_one
        )

    def test_nonsense_is_judged_in_time_and_within_bounds(self) -> None:
        for text in ("x" * 5000, "https://" * 600, "a " * 2500, "\u202e\u0000 ", "看" * 5000, "<a " * 1500):
            with self.subTest(text[:8]):
                self.assertTrue(0 <= suspicion(text[:80], text, Manner(), NOTHING).likelihood <= 1)

    def test_texts_that_differ_in_links_and_numbers_are_alike(self) -> None:
        self.assertEqual(
            robots.fingerprint("Buy 3 pills at http://a.example"),
            robots.fingerprint("buy PILLS at 77 http://b.example"),
        )
        self.assertNotEqual(robots.fingerprint("Buy pills"), robots.fingerprint("Buy lamps"))

import re
import unittest
from datetime import date

from mobbet.core.asking import block_of, counted, is_closed, read_answers, shows_outcome
from mobbet.core.errors import BadInput

QUESTIONS = [
    ["line", "Your name", [], True], ["email", "Your address", [], False], ["text", "What is broken?", [], False],
    ["choice", "When?", ["Thursday", "Never"], True], ["several", "With what?", ["Lamp", "Clock", "Zip"], False], ["scale", "How urgent?", [], False],
]  # fmt: skip


def block(**attrs: object):
    return block_of(
        {
            "key": "",
            "kind": "form",
            "title": "",
            "questions": QUESTIONS,
            "told": "",
            "outcome": "voted",
            "closes": "",
            **attrs,
        }
    )


class AnswerTests(unittest.TestCase):
    def test_what_was_typed_is_kept_by_question(self) -> None:
        typed = {"q0": [" Mira "], "q3": ["Thursday"], "q4": ["Lamp", "Zip", "Lamp"], "q5": ["4"]}
        self.assertEqual(
            read_answers(block(), typed),
            [
                ["Your name", "Mira"],
                ["When?", "Thursday"],
                ["With what?", ["Lamp", "Zip"]],
                ["How urgent?", "4"],
            ],
        )

    def test_nonsense_is_told_with_the_question(self) -> None:
        good = {"q0": ["Mira"], "q3": ["Never"]}
        for typed, words in (
            ({}, "“Your name” needs an answer"), ({**good, "q1": ["nonsense"]}, "is no e-mail address"), ({**good, "q3": ["Friday"]}, "is no choice of “When?”"),
            ({**good, "q4": ["Lamp", "Car"]}, "is no choice"), ({**good, "q5": ["6"]}, "is no choice"), ({**good, "q0": ["x" * 301]}, "300 is the most"),
            ({**good, "q2": ["x" * 10_001]}, "10,000 is the most"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(BadInput, re.escape(words)):
                read_answers(block(), typed)

    def test_a_poll_asks_what_can_be_counted_alone(self) -> None:
        poll = block(kind="poll")
        self.assertEqual([question[0] for question in poll.questions], ["choice", "several", "scale"])
        found = counted(
            poll,
            [
                [["When?", "Thursday"], ["With what?", ["Lamp", "Zip"]]],
                [["When?", "Thursday"]],
                [["When?", "Gone"]],
            ],
        )
        self.assertEqual(found[0].rows, (("Thursday", 2, 67), ("Never", 0, 0)))
        self.assertEqual(found[1].rows, (("Lamp", 1, 100), ("Clock", 0, 0), ("Zip", 1, 100)))
        self.assertEqual(found[2].total, 0)

    def test_the_outcome_is_seen_as_the_writer_said(self) -> None:
        day = date(2026, 12, 1)
        for outcome, closes, has_voted, seen in (
            ("voted", "", False, False), ("voted", "", True, True), ("closed", "2026-12-01", True, False), ("closed", "2026-11-30", False, True),
            ("never", "2026-11-30", True, False),
        ):  # fmt: skip
            with self.subTest(outcome + closes):
                poll = block(kind="poll", outcome=outcome, closes=closes)
                self.assertEqual(shows_outcome(poll, has_voted, day), seen)
        self.assertFalse(is_closed(block(closes="2026-12-01"), day))

import unittest

from bench import letter_kills
from bench.kills import run

ROUNDS = 6


class KillTests(unittest.TestCase):
    def test_a_process_that_is_killed_leaves_nothing_half_there(self) -> None:
        self.assertEqual(run(ROUNDS), [])

    def test_each_subscriber_gets_a_letter_once_though_its_sending_is_killed(self) -> None:
        self.assertEqual(letter_kills.run(ROUNDS, 60), [])

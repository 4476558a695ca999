import unittest

from bench.kills import run

ROUNDS = 6


class KillTests(unittest.TestCase):
    def test_a_process_that_is_killed_leaves_nothing_half_there(self) -> None:
        self.assertEqual(run(ROUNDS), [])

import gc
import unittest

from mobbet.publish.gc_tuning import RARE, rare_collections


class RareCollectionsTests(unittest.TestCase):
    def test_overlapping_users_leave_the_usual_thresholds(self) -> None:
        usual = gc.get_threshold()
        first, second = rare_collections(), rare_collections()
        first.__enter__()
        second.__enter__()
        first.__exit__(None, None, None)
        self.assertEqual(gc.get_threshold(), RARE)
        second.__exit__(None, None, None)
        self.assertEqual(gc.get_threshold(), usual)

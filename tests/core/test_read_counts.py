import unittest

from mobbet.core.read_counts import own_words


class OwnWordsTests(unittest.TestCase):
    def test_a_query_of_many_fields_is_no_own_link_and_breaks_nothing(self) -> None:
        self.assertEqual(own_words("from=Poster+on+the+door"), "poster on the door")
        for query in ("from=a&" + "b=1&" * 60, "from=" + "a" * 3000, "from=%", "from"):
            with self.subTest(query[:20]):
                self.assertIn(own_words(query), ("", "%"))

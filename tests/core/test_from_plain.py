"""Plain text keeps its paragraphs, its lines, its lists and its addresses."""

import random
import unittest

from mobbet.core.document.from_plain import from_plain
from mobbet.core.document.write import to_markdown, to_text

WIDE = "This line is long enough to be a paragraph of its own, since it goes on well beyond what anybody would call a line of verse."
READ = {
    "One.\n\nTwo.": "One.\n\nTwo.\n",
    "Ines Farrow\n12 Quay Lane\nPort Alder": "Ines Farrow\\\n12 Quay Lane\\\nPort Alder\n",
    f"{WIDE}\n{WIDE}": f"{WIDE}\n\n{WIDE}\n",
    "The quick brown fox jumps over the lazy dog and then it walks on\nto the other side of the river, where it meets a second fox that\nhas been waiting.": (
        "The quick brown fox jumps over the lazy dog and then it walks on to the other side of the river, where it meets a second fox that has been waiting.\n"
    ),
    "Shopping:\n- milk\n- eggs\n  - brown\n- bread": "Shopping:\n\n- milk\n- eggs\n  - brown\n- bread\n",
    "1. one\n2. two\n   more of two\n3. three": "1. one\n2. two more of two\n3. three\n",
    "3) three\n4) four": "3. three\n4. four\n",
    "- a\n\n- b\n\nEnd": "- a\n- b\n\nEnd\n",
    "• a\n• b": "- a\n- b\n",
    "1984. It was a year.": "1984\\. It was a year.\n",
    "See https://a.example/x. Or www.b.example, now.": (
        "See [https://a.example/x](https://a.example/x). Or [www.b.example](https://www.b.example), now.\n"
    ),
    "javascript:alert(1)": "javascript:alert(1)\n",
}


class FromPlainTests(unittest.TestCase):
    def test_what_lines_mean_follows_from_their_look(self) -> None:
        for text, markdown in READ.items():
            with self.subTest(text[:40]):
                self.assertEqual(to_markdown(from_plain(text)), markdown)

    def test_an_address_in_brackets_ends_where_it_should(self) -> None:
        for text, href in (
            ("(https://a.example/x)", "https://a.example/x"),
            ("https://a.example/x_(y)", "https://a.example/x_(y)"),
        ):
            self.assertIn(f'"href": "{href}"', str(from_plain(text)).replace("'", '"'))

    def test_no_word_is_lost(self) -> None:
        chance = random.Random(4)
        pieces = (
            "- ",
            "1. ",
            "  ",
            "\n",
            "\n\n",
            "word",
            "Ωμέγα",
            "词语",
            " ",
            "\t",
            "12) ",
            "end.",
            "http://x.example ",
            "• ",
            "\r\n",
        )
        for _ in range(300):
            text = "".join(chance.choice(pieces) for _ in range(chance.randint(1, 60)))
            words = sorted(word for word in text.split() if word[0].isalpha())
            read = sorted(word for word in to_text(from_plain(text)).split() if word[0].isalpha())
            self.assertEqual(read, words, repr(text))

    def test_white_space_alone_is_an_empty_text(self) -> None:
        self.assertEqual(from_plain(" \n\t\r\n").get("content", []), from_plain("").get("content", []))

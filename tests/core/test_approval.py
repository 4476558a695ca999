import unittest
from typing import Any

from mobbet.core.approval import ANYTHING, MOST_WORDS, NOTHING, SMALL, Text, is_within
from mobbet.core.document.from_markdown import from_markdown

SOURCE = (
    "## A heading\n\nPull the plug and **wait** for a minute.\n\n- one [link](https://one.example/)\n- two\n"
)


def text(source: str = SOURCE, title: str = "A title", subtitle: str = "") -> Text:
    return Text(title, subtitle, from_markdown(source))


class SmallChangeTests(unittest.TestCase):
    def is_small(self, **now: Any) -> bool:
        return is_within(SMALL, text(), text(**now))

    def test_a_few_other_words_are_small_wherever_they_stand(self) -> None:
        self.assertTrue(self.is_small(source=SOURCE.replace("a minute", "two minutes")))
        self.assertTrue(self.is_small(title="Another title", subtitle="With one"))
        self.assertTrue(self.is_small(source=SOURCE.replace("- two", "- two and a half")))

    def test_another_block_link_or_mark_is_not(self) -> None:
        for source in (
            SOURCE + "\nOne more paragraph.\n",
            SOURCE.replace("one.example", "other.example"),
            SOURCE.replace("**wait**", "wait"),
            SOURCE.replace("## A", "### A"),
            SOURCE + "\n![A dial](media:3)\n",
        ):
            with self.subTest(source):
                self.assertFalse(self.is_small(source=source))

    def test_many_words_are_not_also_when_they_are_the_same_in_another_order(self) -> None:
        words = [f"word{number}" for number in range(MOST_WORDS + 2)]
        before, after = " ".join(words), " ".join(reversed(words))
        self.assertFalse(is_within(SMALL, text(before), text(after)))
        self.assertTrue(is_within(SMALL, text(before), text(before.replace("word3", "other"))))

    def test_few_words_in_each_of_many_blocks_add_up(self) -> None:
        lines = "\n\n".join(f"Line {number} says so." for number in range(40))
        self.assertFalse(is_within(SMALL, text(lines), text(lines.replace("so", "no"))))

    def test_a_very_long_text_is_compared_in_no_time(self) -> None:
        long = "again " * 200_000
        self.assertFalse(is_within(SMALL, text(long), text("never " * 200_000)))


class OutlastsTests(unittest.TestCase):
    def test_nothing_outlasts_a_change_and_what_was_put_back_is_none(self) -> None:
        self.assertFalse(is_within(NOTHING, text(), text(title="A title!")))
        self.assertTrue(is_within(NOTHING, text(), text()))
        self.assertTrue(is_within(ANYTHING, text(), text("All else.")))

import random
import unittest

from mobbet.core.annotation import (
    LONGEST_QUOTE,
    OBJECT,
    Change,
    Passage,
    find,
    linear,
    lines_of,
    parts_of,
    passage_at,
)
from mobbet.core.document.from_markdown import from_markdown

SOURCE = """Nearly every lamp that reaches our bench has the same fault. The flex has bent ten thousand times where it enters the base.

## Before you open it

Pull the plug and put it where you can see it. Then write down which of the two wires went to the switch.

- one screwdriver
- a metre of new flex

![A dial](media:7)

Bend the flex slowly near the base with the lamp in the other hand.
"""


def text_of(source: str, title: str = "Rewiring a lamp") -> str:
    return linear(lines_of(title, "", from_markdown(source)))


class LinearTests(unittest.TestCase):
    def test_each_block_with_words_or_without_is_a_line_with_its_path(self) -> None:
        lines = lines_of("A title", "Below", from_markdown(SOURCE))
        self.assertEqual([line.text for line in lines[:2]], ["A title", "Below"])
        self.assertIn(((3, 1, 0), "a metre of new flex"), [(line.path, line.text) for line in lines])
        self.assertIn(f"{OBJECT}picture media:7", [line.text for line in lines])

    def test_a_passage_over_several_blocks_has_a_part_in_each(self) -> None:
        lines = lines_of("A title", "", from_markdown("One two.\n\nThree four."))
        text = linear(lines)
        passage = passage_at(text, text.index("two"), text.index(" four"))
        self.assertEqual(
            [(lines[number].text[first:last]) for number, first, last in parts_of(lines, passage)],
            ["two.", "Three"],
        )

    def test_the_same_words_elsewhere_are_told_apart_by_what_stands_beside_them(self) -> None:
        text = "red lamp here\nblue lamp there\nred lamp again"
        self.assertEqual(find(text, "lamp", "blue ", " there").start, text.index("blue") + 5)
        self.assertIsNone(find(text, "lamp", "", ""))
        self.assertIsNone(find(text, "kettle"))


class FollowingTests(unittest.TestCase):
    def follow(self, words: str, before: str, after: str) -> str:
        """The words of a passage after a change of Markdown; '' while it is gone."""
        one, other = text_of(before), text_of(after)
        found = Change(one, other).follow(passage_at(one, one.index(words), one.index(words) + len(words)))
        return "" if found.is_gone else other[found.start : found.end]

    def test_edits_around_it_and_in_it(self) -> None:
        cases = (
            ("two wires", SOURCE.replace("Pull the plug", "First of all pull the plug out"), "two wires"),
            (
                "ten thousand times",
                SOURCE.replace("ten thousand times", "many thousand times"),
                "many thousand times",
            ),
            ("two wires", SOURCE.replace("two wires", "two old wires"), "two old wires"),
            ("two wires", SOURCE.replace("the two wires", "the twoo wires"), "twoo wires"),
            ("two wires", SOURCE.replace("two wires", "wires"), "wires"),
            ("the two wires", SOURCE.replace("the two wires", "live and neutral"), ""),
            ("one screwdriver", SOURCE.replace("- one screwdriver\n", ""), ""),
            ("screwdriver", "A word first.\n\n" + SOURCE, "screwdriver"),
        )
        for words, after, expected in cases:
            with self.subTest(words, after=after):
                self.assertEqual(self.follow(words, SOURCE, after), expected)

    def test_a_block_that_moves_takes_its_passages_along(self) -> None:
        blocks = SOURCE.strip().split("\n\n")
        moved = "\n\n".join([blocks[-1], *blocks[:-1]])
        for words in ("Bend the flex slowly", "two wires", f"{OBJECT}picture media:7", "ten thousand times"):
            self.assertEqual(self.follow(words, SOURCE, moved), words)

    def test_paragraphs_that_are_split_or_joined_keep_theirs(self) -> None:
        self.assertEqual(
            self.follow("two wires", SOURCE, SOURCE.replace("see it. Then", "see it.\n\nThen")), "two wires"
        )
        joined = SOURCE.replace("the base.\n\n## Before you open it\n\nPull", "the base. Pull")
        self.assertEqual(self.follow("two wires", SOURCE, joined), "two wires")

    def test_what_was_taken_out_comes_back_with_its_words(self) -> None:
        one = text_of(SOURCE)
        passage = passage_at(one, one.index("two wires"), one.index("two wires") + 9)
        without = text_of(
            SOURCE.replace(
                "Pull the plug and put it where you can see it. Then write down which of the two wires went to the switch.",
                "",
            )
        )
        gone = Change(one, without).follow(passage)
        self.assertTrue(gone.is_gone)
        self.assertEqual(gone.quote, "two wires")
        back = Change(without, one).follow(gone)
        self.assertEqual(one[back.start : back.end], "two wires")

    def test_the_same_words_elsewhere_are_no_place_to_go_to(self) -> None:
        before = "Mind the switch on the left side of it.\n\nAnd the switch again."
        self.assertEqual(self.follow("the switch", before, "And the switch again."), "")

    def test_a_whole_other_text_leaves_nothing(self) -> None:
        self.assertEqual(self.follow("two wires", SOURCE, "Nothing of that.\n\nNothing at all."), "")

    def test_a_very_long_text_is_followed_in_time(self) -> None:
        before = "\n\n".join(f"Line {number} says again and again what it said." for number in range(3000))
        after = before.replace("again and again", "over and over")
        one, other = text_of(before), text_of(after)
        found = Change(one, other).follow(passage_at(one, one.index("Line 1500"), one.index("Line 1500") + 9))
        self.assertIn(other[found.start : found.end], ("Line 1500", ""))
        self.assertLessEqual(len("x" * LONGEST_QUOTE), LONGEST_QUOTE)


WORDS = (
    "lamp flex base switch plug wire screw bench fuse heat slow old new two one and the of to it in a".split()
)


class RandomEditTests(unittest.TestCase):
    """Random edits of a text whose every letter is known by a number, so that it is known what a passage was about."""

    def setUp(self) -> None:
        self.dice = random.Random(7)
        self.next = 0

    def fresh(self, words: str) -> list[tuple[str, int]]:
        found = [(letter, self.next + at) for at, letter in enumerate(words)]
        self.next += len(words)
        return found

    def sentence(self) -> str:
        return " ".join(self.dice.choices(WORDS, k=self.dice.randint(3, 14)))

    def edit(self, letters: list[tuple[str, int]]) -> list[tuple[str, int]]:
        """One random change: words typed, words taken out, a line moved, split, joined, or taken out."""
        size = len(letters)
        lines = [at for at, (letter, _) in enumerate(letters) if letter == "\n"]
        what = self.dice.choice(
            ("type", "type", "type", "delete", "delete", "replace", "move", "split", "join", "line")
        )
        at = self.dice.randrange(size)
        stretch = min(size, at + self.dice.randint(1, 12))
        if what == "type":
            return letters[:at] + self.fresh(self.dice.choice((" ", "x", self.sentence()))) + letters[at:]
        if what == "delete":
            return letters[:at] + letters[stretch:]
        if what == "replace":
            return letters[:at] + self.fresh(self.sentence()) + letters[stretch:]
        if what == "split":
            return letters[:at] + self.fresh("\n") + letters[at:]
        if not lines:
            return letters
        end = self.dice.choice(lines)
        if what == "join":
            return letters[:end] + letters[end + 1 :]
        start = max((one for one in lines if one < end), default=-1) + 1
        line, rest = letters[start : end + 1], letters[:start] + letters[end + 1 :]
        if what == "line":
            return rest + self.fresh("end")
        ends = [0, *(one + 1 for one, (letter, _) in enumerate(rest) if letter == "\n")]
        there = self.dice.choice(ends)
        return rest[:there] + line + rest[there:]

    def test_a_passage_is_found_while_it_stands_and_never_elsewhere(self) -> None:
        standing = found_again = wrong = 0
        for _ in range(60):
            letters = self.fresh(
                "\n".join(self.sentence() + f" {number}" for number in range(self.dice.randint(3, 12)))
            )
            text = "".join(letter for letter, _ in letters)
            passages = []
            for _ in range(6):
                start = self.dice.randrange(len(text) - 4)
                end = min(len(text), start + self.dice.randint(4, 40))
                if text[start:end].strip():
                    passages.append(
                        (
                            passage_at(text, start, end),
                            {number for letter, number in letters[start:end] if letter.strip()},
                        )
                    )
            for _ in range(12):
                before = text
                letters = self.edit(letters) or self.fresh("end")
                text = "".join(letter for letter, _ in letters)
                change = Change(before, text)
                passages = [(change.follow(passage), about) for passage, about in passages]
                numbers = {number for _, number in letters}
                for passage, about in passages:
                    is_whole = about <= numbers
                    standing += is_whole
                    if passage.is_gone:
                        continue
                    found = {
                        number for letter, number in letters[passage.start : passage.end] if letter.strip()
                    }
                    found_again += is_whole and len(found & about) >= 0.6 * len(about)
                    wrong += not found & about
        self.assertGreater(standing, 2000)
        self.assertGreaterEqual(found_again / standing, 0.95)
        self.assertEqual(wrong, 0)


class PassageTests(unittest.TestCase):
    def test_one_that_is_gone_reaches_nowhere(self) -> None:
        lines = lines_of("A title", "", from_markdown("Words."))
        self.assertEqual(parts_of(lines, Passage(-1, -1, "words", "", "")), [])

import unittest

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.proofing.bounded import MOST_SUGGESTED, MOST_TOLD, BoundedWords
from mobbet.core.proofing.material import LEAST, DocketFacts, Knowledge, Material
from mobbet.core.proofing.proof import MOST_READ, Proof

ENGLISH = "the lamp was on the bench and we mended it with a new flex before the evening came to the harbour".split()
GERMAN = "die Lampe stand auf der Bank und wir haben sie mit einem neuen Kabel repariert bevor der Abend kam".split()
GREEK = "η λάμπα ήταν πάνω στον πάγκο και την επισκευάσαμε με καινούργιο καλώδιο πριν έρθει το βράδυ".split()


def material(markdown: str, detected: str = "", **known: object) -> Material:
    words = frozenset(ENGLISH)
    knowledge = Knowledge(
        lambda word, language: word.lower() in words,
        BoundedWords(lambda word, language: ["lamp"]),
        has_dictionary=lambda language: language == "en",
        detect_language=lambda text: detected,
        **known,
    )
    return Material(from_markdown(markdown), DocketFacts(), "en", knowledge)


def marks(markdown: str, check: str, detected: str = "") -> list:
    return [mark for mark in Proof().marks(material(markdown, detected)) if mark.check == check]


class LanguageTests(unittest.TestCase):
    def test_a_text_in_another_language_asks_one_question(self) -> None:
        for words, guess, question in (
            (GERMAN, "de", "Most of these words are not English. Is this German?"),
            (GREEK, "el", "Most of these words are not English. Is this Greek?"),
            (GERMAN, "", "In which language is it written?"),
        ):
            with self.subTest(question):
                text = "\n\n".join(" ".join(words) for _ in range(40))
                self.assertEqual(marks(text, "spelling", guess), [])
                (asked,) = marks(text, "language", guess)
                self.assertIn(question, asked.message)
                self.assertEqual(asked.mends[-1].operation, {"do": "docket", "sheet": "language"})

    def test_the_guess_can_be_taken_at_once(self) -> None:
        (asked,) = marks(" ".join(GERMAN), "language", "de")
        self.assertEqual(
            (asked.mends[0].words, asked.mends[0].operation),
            ("It is German", {"do": "language", "language": "de"}),
        )

    def test_a_few_strange_words_are_marked_one_by_one(self) -> None:
        text = " ".join([*ENGLISH, "und wir haben"])
        self.assertEqual(marks(text, "language", "de"), [])
        self.assertEqual([mark.text for mark in marks(text, "spelling")], ["und", "wir", "haben"])

    def test_a_short_text_asks_nothing(self) -> None:
        self.assertEqual(marks(" ".join(GERMAN[: LEAST - 1]), "language", "de"), [])

    def test_words_said_to_be_of_another_language_do_not_count(self) -> None:
        text = " ".join([*ENGLISH[:8], f'<span lang="de">{" ".join(GERMAN)}</span>', *ENGLISH[8:]])
        self.assertEqual(marks(text, "language", "de"), [])


class BoundTests(unittest.TestCase):
    def test_the_same_word_is_one_mark_with_its_places(self) -> None:
        text = f"The lampp was here, and the lampp was there.\n\n{' '.join(ENGLISH)}\n\nA lampp too."
        (mark,) = [one for one in marks(text, "spelling") if one.text == "lampp"]
        self.assertEqual((mark.path, mark.start), ((0,), 4))
        self.assertEqual(mark.others, (((0,), 28, 33), ((2,), 2, 7)))

    def test_so_many_words_are_told_of_and_fewer_are_given_others(self) -> None:
        letters = "abcdefghij"
        strange = [
            "q" + "".join(letters[int(digit)] for digit in str(number)) for number in range(1000, 3500)
        ]
        text = "\n\n".join(" ".join([*ENGLISH, *strange[at : at + 12]]) for at in range(0, len(strange), 12))
        found = marks(text, "spelling")
        self.assertEqual(len(found), MOST_TOLD)
        self.assertEqual(sum(bool(mark.mends) for mark in found), MOST_SUGGESTED)

    def test_what_was_left_out_is_told_of_once_most_is_settled(self) -> None:
        proof, strange = (
            Proof(),
            [
                f"q{'abcdefghij'[at // 1000 % 10]}{'abcdefghij'[at // 100 % 10]}{'abcdefghij'[at // 10 % 10]}{'abcdefghij'[at % 10]}"
                for at in range(1500)
            ],
        )
        blocks = [" ".join([*ENGLISH, *strange[at : at + 10]]) for at in range(0, 1500, 10)]
        proof.marks(material("\n\n".join(blocks)))
        settled = "\n\n".join([*(" ".join(ENGLISH) for _ in blocks[:100]), *blocks[100:]])
        proof.marks(material(settled))
        found = [mark for mark in proof.marks(material(settled)) if mark.check == "spelling"]
        self.assertEqual(len(found), 500)

    def test_a_very_long_text_is_read_in_part_and_says_so(self) -> None:
        block = " ".join(ENGLISH) + "."
        text = "\n\n".join([block] * (2 * MOST_READ // len(block)))
        (mark,) = marks(text, "too-long")
        self.assertIn("The proof has read the first 200,000 letters; ", mark.message)

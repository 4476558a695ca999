"""The proof: planted faults are found, clean texts have none, and a mend leaves a sound document."""

from __future__ import annotations

import unittest

from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_markdown, to_text
from mobbet.core.errors import BadInput
from mobbet.core.proofing.bounded import BoundedWords
from mobbet.core.proofing.house import read_avoided, weighed
from mobbet.core.proofing.marks import Mark
from mobbet.core.proofing.material import (
    DocketFacts,
    Knowledge,
    LibraryItem,
    LinkAnswer,
    Material,
    OtherPost,
    PlannedNeighbour,
    Rules,
)
from mobbet.core.proofing.meant import OwnPost, own_posts
from mobbet.core.proofing.mending import mended
from mobbet.core.proofing.proof import Proof
from mobbet.core.proofing.table import CHECKS, WHY
from mobbet.services.dictionary import Hunspell

DICTIONARY = Hunspell()
SETTLED = DocketFacts(title="A lamp", description="How it was mended.", categories=("Lamps",))
CLEAN = """The bench stands by the window, where the light is best in the afternoon. An hour is enough for most lamps.

## What to bring

Bring the lamp, its bulb and a photograph. There are five chairs; their legs are uneven. It's easier than it looks, and the
shade keeps its shape. A European plug needs an adapter, and a one-way switch does not. I thought that that was all.

[The table of fuses](https://a.example/fuses) tells which one you need.
"""


HOUSE = Rules(
    "curly",
    "spaced",
    "sign",
    (("email", "e-mail"), ("in order to", "to"), ("basically", "")),
    (("shop.example", "paid"),),
)


def marks_of(
    document: dict,
    docket: DocketFacts = SETTLED,
    rules: Rules = Rules(),
    going: PlannedNeighbour = PlannedNeighbour(),
    **known: object,
) -> list[Mark]:
    knowledge = Knowledge(
        DICTIONARY.knows, BoundedWords(DICTIONARY.suggest), has_dictionary=DICTIONARY.has, **known
    )
    return Proof().marks(Material(document, docket, "en", knowledge, rules, going))


def marks(
    source: str,
    docket: DocketFacts = SETTLED,
    rules: Rules = Rules(),
    going: PlannedNeighbour = PlannedNeighbour(),
    **known: object,
) -> list[Mark]:
    return marks_of(from_markdown(source), docket, rules, going, **known)


class FaultTests(unittest.TestCase):
    def test_planted_faults_are_found(self) -> None:
        for source, check in (
            ("We recieve lamps.", "spelling"), ("Then i had it open.", "spelling"), ("The the lamp is old.", "doubled-words"), ("It is a old lamp.", "articles"), ("It took an year.", "articles"),
            ("Its a good lamp.", "confused-pairs"), ("The lamp and it's own switch.", "confused-pairs"), ("Their is a lamp.", "confused-pairs"),
            ("It is brighter and better then before.", "confused-pairs"), ("You should of asked.", "confused-pairs"), ("# A\n\n#### B", "headings"),
            ("**Before you begin**\n\nWords.", "headings"), (" ".join(["word"] * 45) + ".", "long-sentences"), ("Words. " * 130, "long-paragraphs"),
            ("It was. It is. It will be.", "sentence-starts"), ("![](https://a.example/x.jpg)", "alternative-text"), ("![IMG_2041.jpg](https://a.example/x.jpg)", "alternative-text"),
            ("![Picture of a lamp](https://a.example/x.jpg)", "alternative-text"), ("See [here](https://a.example/).", "link-words"),
            ("See [https://a.example/x](https://a.example/x).", "link-words"), ("[One](https://a.example/) and [one](https://b.example/).", "link-words"),
            ("A [lamp](http://a.example/).", "link-scheme"), ("~~~ mobbet:button words=\"Book\"\n~~~", "button"), ("A [lamp](#nowhere).", "link-target"), ("A [lamp](post:9).", "link-target"), ("word " * 700, "headings-missing"),
        ):  # fmt: skip
            with self.subTest(source[:50]):
                self.assertIn(check, {mark.check for mark in marks(source)})

    def test_a_clean_text_has_none(self) -> None:
        self.assertEqual([mark for mark in marks(CLEAN) if mark.check != "picture-missing"], [])

    def test_names_code_addresses_and_learned_words_are_left_alone(self) -> None:
        source = "Then Laran wrote `recieve` to laran@bench.example about PyAV and the dashpot of a colour-blind neighbour."
        self.assertEqual(
            [mark for mark in marks(source, learned=frozenset({"dashpot"})) if mark.check == "spelling"], []
        )

    def test_words_in_another_language_are_not_held_against_the_dictionary_of_the_post(self) -> None:
        source = 'He said <span class="language" lang="xx">kaputtes Ding</span> and left.'
        self.assertEqual([mark.text for mark in marks(source) if mark.check == "spelling"], [])
        document = from_markdown("Dit is kapot.")
        knowledge = Knowledge(knows=DICTIONARY.knows, has_dictionary=lambda language: language == "en")
        self.assertEqual(
            [
                mark
                for mark in Proof().marks(Material(document, SETTLED, "nl", knowledge))
                if mark.check == "spelling"
            ],
            [],
        )

    def test_words_in_letters_the_dictionary_cannot_write_are_left_alone(self) -> None:
        self.assertEqual(
            [
                mark.text
                for mark in marks("The 電気ケトル and the кофемолка hum 😀.")
                if mark.check == "spelling"
            ],
            [],
        )
        self.assertEqual(
            (DICTIONARY.suggest("кофемолка", "en"), DICTIONARY.suggest_more("кофемолка", "en")), ([], [])
        )

    def test_the_docket_is_read_as_well(self) -> None:
        for docket, known, check, severity in (
            (DocketFacts(), {}, "title", "must"), (DocketFacts(title="A lamp " * 20), {}, "title", "should"), (SETTLED, {"titles": {"a lamp": 7}}, "title", "should"),
            (DocketFacts(title="A lamp"), {"catch_all": "Notes"}, "category", "should"), (SETTLED, {"rule": "One category at least."}, "category", "must"),
            (DocketFacts(title="A", tags=("fuse", "fuses")), {}, "tags", "should"), (SETTLED, {"descriptions": {"how it was mended.": 7}}, "description", "should"),
        ):  # fmt: skip
            with self.subTest(f"{docket.title[:10]} {check}"):
                self.assertIn(
                    (check, severity),
                    {(mark.check, mark.severity) for mark in marks("Words.", docket, **known)},
                )

    def test_what_is_linked_and_shown_is_known(self) -> None:
        posts = {
            1: OtherPost("Draft", "draft"),
            2: OtherPost("Out", "out", True),
            3: OtherPost("Out", "out", False, frozenset({"fuses"})),
        }
        found = [
            mark.message
            for mark in marks("[a](post:1) [b](post:2) [c](post:3#fuses) [d](post:3#none)", posts=posts)
            if mark.check == "link-target"
        ]
        self.assertEqual([words.split("“")[1].split("”")[0] for words in found], ["Draft", "Out", "Out"])
        items = {5: LibraryItem("picture", "lamp.jpg", 300, 200, "", "", True, False, False)}
        self.assertEqual(
            {mark.check for mark in marks("![A lamp on a bench](media:5)", items=items)},
            {"credit", "picture-size"},
        )

    def test_words_that_sound_alike_are_told_apart(self) -> None:
        for source, meant in (
            ("The lamp lost it's shade.", "its"), ("Its raining, so bring a coat.", "It’s"), ("They're tools were wet.", "Their"), ("Their going to mend it.", "They’re"),
            ("We waited for there friends.", "their"), ("Your going to like it.", "You’re"), ("Put it in you're bag.", "your"), ("It is to hot to touch.", "too"),
            ("It happened to me to.", "too"), ("I want too see it.", "to"), ("It is cheaper then a new one.", "than"), ("First unplug it and than open it.", "then"),
            ("Do not loose the screw.", "lose"), ("A lose screw rattles.", "loose"), ("It had no affect on it.", "effect"), ("Damp will effect the motor.", "affect"),
            ("Who's kettle is this?", "Whose"), ("In principal it works.", "principle"), ("Everyone accept me came.", "except"), ("We gladly except cash.", "accept"),
            ("A peace of wire.", "piece"), ("You where late.", "were"), ("I know were it is.", "where"), ("Can you here the hum?", "hear"), ("Come over hear and look.", "here"),
            ("I wonder weather it works.", "whether"), ("We walked passed the shop.", "past"), ("In the passed few years.", "past"), ("It was quiet a surprise.", "quite"),
            ("The hall was very quite.", "quiet"), ("New break pads are cheap.", "brake"), ("Take a coffee brake first.", "break"), ("Some good advise helps.", "advice"),
            ("I advice you to wait.", "advise"), ("It has lead to trouble.", "led"), ("Bare in mind that it is live.", "Bear"), ("I had to by a new one.", "buy"),
            ("Held up buy the wire.", "by"), ("There is know fuse.", "no"), ("I no how it works.", "know"), ("She new that already.", "knew"), ("Please right down the date.", "write"),
            ("Turn it the write way.", "right"), ("Pull the flex threw the base.", "through"), ("See witch way it turns.", "which"), ("It is a waist of time.", "waste"),
            ("We meet every weak.", "week"), ("A week spring.", "weak"), ("It took the hole day.", "whole"), ("Drill a small whole in it.", "hole"), ("You should of asked.", "have"),
            ("I cut the wire of.", "off"), ("It came form the shelf.", "from"), ("Take it a part and look.", "apart"), ("We do it everyday.", "every day"), ("We put there cups away.", "their"), ("Who's is it?", "Whose"), ("The wires where loose.", "were"), ("Accept for one, all came.", "Except"), ("The lamp works, to.", "too"), ("Of coarse it works.", "course"),
        ):  # fmt: skip
            with self.subTest(source):
                self.assertIn(
                    meant,
                    [
                        mark.mends[0].operation["text"]
                        for mark in marks(source)
                        if mark.check == "confused-pairs"
                    ],
                )

    def test_the_house_style_for_words_is_applied_on_request(self) -> None:
        for source, check, after in (
            ('He said "so" and it\'s so.', "quotation-marks", "He said “so” and it’s so."), ("Late - and glad.", "dashes", "Late – and glad."), ("Wait...", "ellipses", "Wait…"),
            ("Send an email.", "house-words", "Send an e-mail."), ("In order to see it.", "house-words", "To see it."), ("One  lamp , two.", "spaces", "One lamp, two."),
            ("One lamp,two lamps.", "spaces", "One lamp, two lamps."),
        ):  # fmt: skip
            with self.subTest(source):
                document = from_markdown(source)
                found = [mark for mark in marks_of(document, rules=HOUSE) if mark.check == check]
                self.assertEqual(len(found), 1)
                self.assertEqual(to_text(mended(document, found[0].mends[0].operation)).strip(), after)

    def test_a_text_in_the_house_style_has_no_mark_of_it(self) -> None:
        source = (
            '“It’s so,” he said – and left… The pipe is 12" wide, from 3–5 metres. The lads’ shed is old.'
        )
        self.assertEqual(
            [mark.check for mark in marks(source, rules=HOUSE) if mark.check not in ("picture-missing",)], []
        )

    def test_links_are_held_against_what_came_back_and_against_the_rules(self) -> None:
        known = {
            "answers": {
                "https://a.example/": LinkAnswer("answered with 404", "3 Nov"),
                "https://b.example/": LinkAnswer("", "", "https://c.example/"),
            }
        }
        found = {
            mark.check: mark
            for mark in marks(
                "[one thing](https://a.example/#x), [two](https://b.example/), [three](https://shop.example/x)",
                rules=HOUSE,
                **known,
            )
        }
        self.assertIn(
            "answered with 404, since 3 Nov",
            [
                mark.message
                for mark in marks("[one](https://a.example/)", **known)
                if mark.check == "link-answers"
            ][0],
        )
        self.assertEqual(found["partner-links"].mends[0].operation["do"], "paid")
        self.assertEqual(found["link-answers"].mends[0].operation["href"], "https://c.example/")

    def test_own_posts_that_are_plainly_meant_are_offered(self) -> None:
        own = own_posts(
            [
                OwnPost(3, "Rewiring a desk lamp without losing the switch"),
                OwnPost(4, "Stuck zips", ("zip sliders",)),
                OwnPost(5, "Lamps"),
            ]
        )
        offered = {
            mark.text: mark.mends[0].operation["href"]
            for mark in marks("We were rewiring the desk lamp. Then a stuck zip. A lamp is a lamp.", own=own)
            if mark.check == "own-links"
        }
        self.assertEqual(offered, {"rewiring the desk lamp": "post:3", "stuck zip": "post:4"})
        self.assertEqual(
            [
                mark
                for mark in marks("A [desk lamp rewiring](post:3) and stuck zips.", own=own.without(4))
                if mark.check == "own-links"
            ],
            [],
        )

    def test_what_is_odd_about_going_out_is_told(self) -> None:
        for going, check in (
            (PlannedNeighbour("Mon 2 Nov at 09:00", is_past=True), "time"), (PlannedNeighbour(comes_down_first=True), "time"), (PlannedNeighbour("now", same_hour=("Fuses",)), "time"),
            (PlannedNeighbour(usual_readers="Lamps"), "readers"), (PlannedNeighbour(letters=(12, "Volunteers")), "letters"),
        ):  # fmt: skip
            with self.subTest(check):
                self.assertIn(check, {mark.check for mark in marks("Words.", going=going)})

    def test_a_hard_text_is_told_with_what_would_help(self) -> None:
        hard = (
            "Considerable organisational complexity characterises contemporary institutional communication, particularly regarding infrastructural responsibilities. "
            * 15
        )
        self.assertIn(
            "shorter words would help most",
            next(mark.message for mark in marks(hard) if mark.check == "reading-ease"),
        )
        self.assertNotIn(
            "reading-ease",
            {mark.check for mark in marks("We sat on the bench and drank our tea. The lamp was on. " * 15)},
        )

    def test_a_series_with_a_gap_is_told(self) -> None:
        self.assertIn(
            "has no part 3",
            next(mark.message for mark in marks("Words.", series_parts=(1, 2, 4)) if mark.check == "series"),
        )
        self.assertNotIn("series", {mark.check for mark in marks("Words.", series_parts=(1, 2, 3))})


class MendTests(unittest.TestCase):
    def test_each_mend_leaves_a_sound_document_and_removes_its_mark(self) -> None:
        own = own_posts([OwnPost(3, "Rewiring a desk lamp")])
        known = {"own": own, "answers": {"https://b.example/": LinkAnswer("", "", "https://c.example/")}}
        sources = (
            "We *recieve* **the the** lamps.", "Take an **new** lamp.", "Its a good [lamp](http://a.example/).", "# A\n\n#### Bee", "**Before you begin**\n\nWords.", "One.\n\n<p></p>\n\nTwo.",
            "See [two](https://b.example/).", "See [the **big** shop](https://shop.example/).", "We were rewiring the *desk* lamp.", "Send an *email* - \"so\"...", "A , b  c.",
            "<table><tr><td>A</td><td>B</td></tr><tr><td>1</td><td>2</td></tr></table>", "- We recieve\n- the the lamp", "> It's lid is lost.",
        )  # fmt: skip
        tried = 0
        for source in sources:
            document = from_markdown(source)
            for mark in marks_of(document, rules=HOUSE, **known):
                for mend in mark.mends:
                    if mend.operation["do"] == "docket":
                        continue
                    with self.subTest(f"{source} {mark.check} {mend.words}"):
                        after = mended(document, mend.operation)
                        self.assertEqual(schema.check(after), after)
                        self.assertNotIn(
                            (mark.check, mark.text, mark.path),
                            [
                                (one.check, one.text, one.path)
                                for one in marks_of(after, rules=HOUSE, **known)
                            ],
                        )
                        tried += 1
        self.assertGreater(tried, 15)

    def test_a_mend_keeps_the_marks_of_the_words_it_changes(self) -> None:
        document = from_markdown("We *recieve* lamps.")
        mend = next(mark for mark in marks_of(document) if mark.check == "spelling").mends[0]
        self.assertEqual(to_markdown(mended(document, mend.operation)).strip(), "We *receive* lamps.")

    def test_a_mend_of_a_text_that_changed_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "The text changed meanwhile"):
            mended(from_markdown("Short."), {"do": "replace", "path": [4], "start": 0, "end": 3, "text": "x"})


class HouseTests(unittest.TestCase):
    def test_avoided_words_are_read_line_by_line(self) -> None:
        self.assertEqual(read_avoided("Email: e-mail\n\nbasically"), (("email", "e-mail"), ("basically", "")))
        for typed, words in (
            (": x", "names no word"),
            ("x" * 90, "names no word"),
            ("e-mail: E-mail", "prefers the word it avoids"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, words):
                read_avoided(typed)

    def test_the_blog_says_how_grave_a_check_is(self) -> None:
        found = [Mark("spelling", "a"), Mark("dashes", "b"), Mark("title", "c")]
        self.assertEqual(
            [(mark.check, mark.severity) for mark in weighed(found, {"spelling": "must", "dashes": "off"})],
            [("spelling", "must"), ("title", "should")],
        )


class SlipTests(unittest.TestCase):
    def test_the_word_that_was_meant_comes_first(self) -> None:
        for typed, meant in (
            ("recieve", "receive"),
            ("Seperate", "Separate"),
            ("occured", "occurred"),
            ("accomodate", "accommodate"),
            ("wich", "which"),
            ("tommorow", "tomorrow"),
            ("publically", "publicly"),
        ):
            with self.subTest(typed):
                self.assertEqual(DICTIONARY.suggest(typed, "en")[0], meant)


class ProofTests(unittest.TestCase):
    def test_a_mark_names_its_passage_and_offers_a_mend(self) -> None:
        mark = next(mark for mark in marks("First.\n\nWe recieve lamps.") if mark.check == "spelling")
        self.assertEqual((mark.text, mark.path, mark.start, mark.end), ("recieve", (1,), 3, 10))
        self.assertEqual(
            mark.mends[0].operation, {"do": "replace", "path": [1], "start": 3, "end": 10, "text": "receive"}
        )

    def test_a_passage_that_did_not_change_is_not_read_again(self) -> None:
        proof, asked = Proof(), []
        knowledge = Knowledge(
            knows=lambda word, language: asked.append(word) or True, has_dictionary=lambda language: True
        )
        for source in ("One lamp.\n\nTwo zips.", "One lamp.\n\nNew words.\n\nTwo zips."):
            proof.marks(Material(from_markdown(source), SETTLED, "en", knowledge))
        self.assertEqual(asked, ["One", "lamp", "Two", "zips", "New", "words"])

    def test_every_check_is_in_the_table_once_and_says_why(self) -> None:
        self.assertEqual(len({check.run for check in CHECKS}), len(CHECKS))
        for name, why in WHY.items():
            with self.subTest(name):
                self.assertRegex(why.sentences, r"^[A-Z].+[.?] [A-Z].+[.]$")
                self.assertTrue(why.example and why.name)

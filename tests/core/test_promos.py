"""Which blocks stand below a post: by where it is filed, by its words, by weight and in turn."""

import time
import unittest
from dataclasses import replace

from mobbet.core import promos as rules
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput
from mobbet.core.facts import Subject
from mobbet.core.promo_places import Filed, named_in, standing, text_of, verdicts
from mobbet.core.promos import Promo, Promos

LAMPS, WIRING, CLOCKS = 1, 2, 3
TREE = {
    LAMPS: Subject(LAMPS, "Lamps", "lamps"),
    WIRING: Subject(WIRING, "Wiring", "wiring", parent_id=LAMPS),
    CLOCKS: Subject(CLOCKS, "Clocks", "clocks"),
}


def below(promos: Promos, post: Filed, text: str = "some words") -> list[int]:
    return [rule.id for rule in standing(promos, post, TREE, lambda: text)]


class StandingTests(unittest.TestCase):
    def test_a_rule_is_for_its_categories_with_what_is_below_them_and_for_its_tags(self) -> None:
        lamps, tag = Promo(1, 1, categories=(LAMPS,)), Promo(2, 1, tags=(7,))
        for post, found in (
            (Filed(1, (WIRING,), ()), [1]),
            (Filed(1, (CLOCKS, LAMPS), ()), [1]),
            (Filed(1, (CLOCKS,), (7,)), [2]),
            (Filed(1, (CLOCKS,), ()), []),
            (Filed(1, (99,), ()), []),
        ):
            with self.subTest(post):
                self.assertEqual(below(Promos((lamps, tag)), post), found)
        self.assertEqual(below(Promos((Promo(3, 1),)), Filed(1, (), ())), [3])

    def test_the_heavier_come_first_and_equal_ones_take_turns(self) -> None:
        promos = Promos((Promo(1, 1), Promo(2, 2), Promo(3, 3, weight=9)), most=2)
        first = [below(promos, Filed(number, (), ())) for number in range(40)]
        self.assertEqual({one[0] for one in first}, {3})
        self.assertEqual({one[1] for one in first}, {1, 2})

    def test_words_are_read_only_where_a_rule_has_some(self) -> None:
        def text() -> str:
            raise AssertionError("no rule has words to look for")

        self.assertTrue(standing(Promos((Promo(1, 1),)), Filed(1, (), ()), TREE, text))

    def test_one_that_is_kept_away_gives_its_place_to_the_next(self) -> None:
        promos = Promos((Promo(1, 1, never=("rival",), weight=9), Promo(2, 2)))
        self.assertEqual(below(promos, Filed(1, (), ()), "of a rival"), [2])


class NamingTests(unittest.TestCase):
    def test_a_name_is_found_as_a_whole_word_however_it_is_written(self) -> None:
        for text, word, found in (
            ("Rival’s lamps", "rival", True),
            ("the RIVAL", "Rival", True),
            ("rivals", "rival", False),
            ("rivals", "rival*", True),
            ("arrival", "rival", False),
            ("arrival", "rival*", False),
            ("Harbour \n Tools & Sons", "harbour tools", True),
            ("Straße", "STRASSE", True),
            ("Cafe\u0301 Royal", "café royal", True),
            ("ﬁnder", "finder", True),
            ("工具店東京は", "東京", True),
            ("see rival.example/lamps", "rival.example", True),
            ("C++ and D", "c++", True),
            ("", "rival", False),
            ("rival", "*", False),
        ):
            with self.subTest(text=text, word=word):
                self.assertEqual(bool(named_in(text_of({"type": "doc", "content": []}, text), [word])), found)

    def test_titles_descriptions_and_addresses_of_links_count(self) -> None:
        document = from_markdown(
            "See [there](https://rival.example/x).\n\n![A Rival lamp](https://p.example/a.png)"
        )
        text = text_of(document, "The Title")
        for word in ("rival.example", "a rival lamp", "the title"):
            self.assertEqual(named_in(text, [word]), word)

    def test_a_very_long_text_is_read_in_a_moment(self) -> None:
        text = text_of({"type": "doc", "content": []}, "a" * 200_000 + " rivalrival" * 50_000)
        started = time.perf_counter()
        self.assertEqual(named_in(text, ["rival"] * 1 + ["a" * 60, "nothing"]), "")
        self.assertLess(time.perf_counter() - started, 2)


class RuleTests(unittest.TestCase):
    def test_they_come_change_and_go(self) -> None:
        promos = rules.added(rules.added(Promos(), 4), 5, weight=9)
        self.assertEqual([rule.id for rule in promos.rules], [1, 2])
        promos = rules.changed(promos, 2, never=("x",))
        self.assertEqual(promos.rule(2).never, ("x",))
        self.assertEqual(rules.read_promos(rules.promos_text(promos)), promos)
        self.assertEqual(rules.added(rules.removed(promos, 1), 6).rules[-1].id, 3)

    def test_what_cannot_be_is_refused_in_a_sentence(self) -> None:
        one = rules.added(Promos(), 1)
        full = replace(one, rules=one.rules * rules.MOST_RULES)
        for act, says in (
            (lambda: rules.changed(one, 1, weight=10), "1 to 9; 10"),
            (lambda: rules.changed(one, 1, shows_from=9, shows_until=9), "end before it begins"),
            (lambda: rules.changed(one, 7, weight=1), "no rule 7"),
            (lambda: rules.added(full, 1), "50 rules are the most"),
            (lambda: rules.read_never(",".join(f"w{n}" for n in range(51))), "51 words are too many"),
            (lambda: rules.read_never("x" * 61), "61 letters"),
            (lambda: rules.changed(one, 1, tags=tuple(range(21))), "20 categories and tags"),
        ):
            with self.subTest(says), self.assertRaisesRegex(BadInput, says):
                act()

    def test_every_verdict_says_why(self) -> None:
        promos = Promos(
            (
                Promo(1, 1, categories=(LAMPS,), weight=9),
                Promo(2, 9),
                Promo(3, 1, shows_from=50),
                Promo(4, 1, shows_until=5),
                Promo(5, 1, categories=(CLOCKS,)),
                Promo(6, 1, never=("words",)),
                Promo(7, 1),
            )
        )
        found = verdicts(
            promos,
            Filed(1, (WIRING,), ()),
            TREE,
            "some words",
            10,
            lambda block: block == 1,
            lambda place: TREE[place].name,
        )
        self.assertEqual([one.rule.id for one in found if one.stands], [1])
        self.assertEqual(
            [one.why for one in found],
            [
                "stands below it: Lamps",
                "its block is no longer among the saved blocks",
                "its time has not come yet",
                "its time is over",
                "the post is filed elsewhere",
                "the post names “words”",
                "others weigh more, or have their turn here",
            ],
        )

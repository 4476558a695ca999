"""The menu as a value: two levels, edits that answer with another menu, and where entries lead."""

import random
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.menu import (
    FOOT,
    MENU,
    USUAL,
    Entry,
    Menu,
    MenuLink,
    Target,
    added,
    changed,
    links,
    menu_text,
    moved,
    places,
    read_address,
    read_menu,
    read_words,
    removed,
)

ABOUT, LAMPS, FLEX = Target.of("post", 3), Target.of("category", 1), Target.of("tag", 2)


class Site:
    """Knows everything but what it is told not to."""

    def __init__(self, *without: Target) -> None:
        self.without = without

    def link(self, target: Target) -> tuple[str, str] | None:
        return None if target in self.without else (target.upper(), f"/{target.kind}/")

    def parts(self, target: Target) -> list[Target]:
        return [Target.of("category", 7)] if target == LAMPS else []


class MenuTests(unittest.TestCase):
    def test_a_menu_is_kept_and_read_as_it_was(self) -> None:
        menu = Menu((Entry(ABOUT, "About", False, True, (Entry(LAMPS),)),), (), "{blog}", "cc-by", 3, 9)
        self.assertEqual(read_menu(menu_text(menu)), menu)
        self.assertEqual(read_menu("{}"), USUAL)

    def test_any_order_of_edits_keeps_every_entry_once(self) -> None:
        for seed in range(200):
            chance = random.Random(seed)
            menu, there = Menu((), ()), set()
            for number in range(30):
                spots = [place for place, _ in places(menu, MENU)]
                try:
                    if chance.random() < 0.5 or not spots:
                        above = chance.choice([(), *[spot for spot in spots if len(spot) == 1]])
                        menu = added(
                            menu, MENU, Entry(Target.of("post", number)), (*above, chance.randrange(4))
                        )
                        there.add(number)
                    elif chance.random() < 0.7:
                        to = chance.choice(
                            [(chance.randrange(4),), (chance.randrange(3), chance.randrange(3))]
                        )
                        menu = moved(menu, MENU, chance.choice(spots), to)
                    else:
                        menu = changed(menu, MENU, chance.choice(spots), words="W")
                except BadInput:
                    continue
                found = [entry.to.number for _, entry in places(menu, MENU)]
                self.assertEqual(sorted(found), sorted(there))

    def test_what_stands_below_an_entry_that_leads_nowhere_takes_its_place(self) -> None:
        entries = (Entry(ABOUT, below=(Entry(FLEX, "Flex"),)), Entry(LAMPS, parts=True))
        self.assertEqual(
            links(entries, Site(ABOUT)),
            (
                MenuLink("Flex", "/tag/"),
                MenuLink("CATEGORY:1", "/category/", True, (MenuLink("CATEGORY:7", "/category/"),)),
            ),
        )

    def test_a_menu_has_limits_that_are_told_in_one_sentence(self) -> None:
        full = Menu(tuple(Entry(Target.of("post", number)) for number in range(24)))
        refusals = {
            "24 entries are the most that stand there; take one out first.": lambda: added(
                full, MENU, Entry(LAMPS)
            ),
            "An entry that leads there stands there already.": lambda: added(USUAL, MENU, USUAL.menu[0]),
            "A menu has two levels, and a foot has one; choose another place.": lambda: added(
                USUAL, FOOT, Entry(LAMPS), (0, 0)
            ),
            "The menu has no entry 9; look at it again, somebody may have changed it.": lambda: removed(
                USUAL, MENU, (8,)
            ),
            "An entry cannot stand below itself; choose another place.": lambda: moved(
                USUAL, MENU, (1,), (1, 0)
            ),
        }
        for message, act in refusals.items():
            with self.subTest(message), self.assertRaises(BadInput) as caught:
                act()
            self.assertEqual(str(caught.exception), message)
        with self.assertRaises(BadInput):
            read_words("w" * 41)

    def test_an_address_is_whole_and_of_a_known_scheme(self) -> None:
        for text in ("https://tools.example/a?b=c#d", "mailto:ines@bench.example", "http://[::1]/"):
            self.assertEqual(read_address(text).address, text)
        for text in (
            "javascript:alert(1)",
            "java\tscript:x",
            "tools.example",
            "https://",
            "data:text/html,x",
            "https://a b/",
            "//tools.example",
        ):
            with self.subTest(text), self.assertRaises(BadInput):
                read_address(text)


if __name__ == "__main__":
    unittest.main()

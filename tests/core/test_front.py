"""The sections of a front page: added, moved, changed and refused."""

import unittest
from dataclasses import asdict

from mobbet.core import front
from mobbet.core.errors import BadInput
from mobbet.core.front import USUAL, Section
from mobbet.core.menu import Menu, menu_text, read_menu

LAMPS, CHOSEN = Section(front.CATEGORY, of=(3,)), Section(front.CHOSEN, of=(5, 6))


class SectionTests(unittest.TestCase):
    def test_they_come_move_change_and_go(self) -> None:
        sections = front.added(front.added(USUAL, LAMPS), CHOSEN, 0)
        self.assertEqual([one.kind for one in sections], ["chosen", "newest", "category"])
        self.assertEqual([one.kind for one in front.moved(sections, 0, 9)], ["newest", "category", "chosen"])
        self.assertEqual(front.changed(sections, 2, most=9)[2].most, 9)
        self.assertEqual(front.removed(sections, 2), sections[:2])

    def test_what_cannot_be_is_refused_in_a_sentence(self) -> None:
        full = (*USUAL, *(Section(front.TAG, of=(n,)) for n in range(1, front.MOST_SECTIONS)))
        wide = Section(front.CHOSEN, of=tuple(range(1, front.MOST_CHOSEN + 1)))
        for act, says in (
            (lambda: front.removed(USUAL, 0), "always stand on the front page"),
            (lambda: front.added(full, LAMPS), "12 sections are the most"),
            (lambda: front.added((*USUAL, LAMPS), LAMPS), "stands on the front page already"),
            (lambda: front.moved(USUAL, 7, 0), "has no section 8"),
            (lambda: front.with_one_more(CHOSEN, 5), "shown there already"),
            (lambda: front.with_one_more(wide, 99), "12 are the most"),
            (lambda: front.read_heading("x" * 61), "61 letters; 60 is the most"),
        ):
            with self.subTest(says), self.assertRaisesRegex(BadInput, says):
                act()

    def test_two_sections_of_chosen_posts_may_stand_there(self) -> None:
        self.assertEqual(len(front.added((*USUAL, CHOSEN), CHOSEN)), 3)

    def test_they_are_kept_with_the_menu_and_read_back(self) -> None:
        menu = Menu(sections=(LAMPS, *USUAL, CHOSEN), foot_categories="counts", subject_pictures=True)
        self.assertEqual(read_menu(menu_text(menu)), menu)
        self.assertEqual(read_menu("{}").sections, USUAL)
        self.assertEqual(front.read_section(asdict(CHOSEN)), CHOSEN)

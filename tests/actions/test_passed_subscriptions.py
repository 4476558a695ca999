"""What becomes of subscriptions to a category that is merged or removed."""

import json

from mobbet.actions import categories, category_tree, refiling, subscribers
from mobbet.actions.permalinks import category_subjects
from mobbet.store import subscribers as store
from tests.actions.test_mailings import LetterCase


class PassedSubscriptionTests(LetterCase):
    def setUp(self) -> None:
        super().setUp()
        for name in ("Lamps", "Zips"):
            self.write(f"On {name}", categories=name, date="2026-11-02")
        self.publish()
        self.lamps, self.zips = (self.number(name) for name in ("Lamps", "Zips"))
        for email, what in (
            ("a@alder.example", self.lamps),
            ("b@alder.example", self.lamps),
            ("b@alder.example", self.zips),
        ):
            subscribers.add(self.shop, self.me, self.blog, email, f"category:{what}", "post", "said so")

    def number(self, name: str) -> int:
        return next(one.id for one in category_subjects(self.shop, self.blog).values() if one.name == name)

    def wanted(self) -> dict[int, list[int]]:
        return {
            number: store.who_want(self.shop.db, self.blog.id, f"category:{number}")
            for number in (self.lamps, self.zips)
        }

    def test_a_merge_passes_them_on_and_its_undo_brings_them_back(self) -> None:
        before = self.wanted()
        done = category_tree.merge(self.shop, self.me, "bench", self.lamps, self.zips)
        self.assertEqual(self.wanted(), {self.lamps: [], self.zips: [1, 2]})
        refiling.undo(self.shop, self.me, self.blog, done.number)
        self.assertEqual(self.wanted(), before)

    def test_who_ended_letters_meanwhile_gets_none_again(self) -> None:
        done = category_tree.merge(self.shop, self.me, "bench", self.lamps, self.zips)
        for number in (1, 2):
            subscribers.end(self.shop, self.me, self.blog, number)
        refiling.undo(self.shop, self.me, self.blog, done.number)
        self.assertEqual(self.wanted(), {self.lamps: [], self.zips: []})

    def test_a_new_category_inherits_no_subscriber_of_one_that_is_removed(self) -> None:
        category_tree.remove(self.shop, self.me, "bench", self.zips, None)
        category_tree.remove(self.shop, self.me, "bench", self.lamps, None)
        for name in ("Clocks", "Radios"):
            categories.add(self.shop, self.me, "bench", name)
        rows = self.shop.db.column("SELECT what FROM subscription")
        self.assertEqual(rows, [])

    def test_what_is_asked_for_and_not_confirmed_yet_is_passed_on(self) -> None:
        subscribers.ask(
            self.shop, self.blog, "c@alder.example", f"category:{self.lamps}", "post", "192.0.2.1"
        )
        category_tree.merge(self.shop, self.me, "bench", self.lamps, self.zips)
        found = self.shop.db.value("SELECT wishes FROM subscriber WHERE email = 'c@alder.example'")
        self.assertEqual(json.loads(found), [[f"category:{self.zips}", "post"]])

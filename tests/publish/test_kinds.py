"""The table of the kinds of pages."""

import re
import unittest
from pathlib import Path

import mobbet
from mobbet.publish.pages.kinds import KINDS, RECIPES, all_keys, key_at, page_at
from mobbet.publish.plan import Plan
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import ShopCase

PACKAGE = Path(mobbet.__file__).parent
OWN = (PACKAGE / "publish" / "pages", PACKAGE / "core" / "keys.py")


class KindsTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        for number in range(1, 14):
            self.write(
                f"Post {number}", "Words.", date=f"2026-0{number % 3 + 1}-02", categories="Lamps", tags="flex"
            )
        self.publish()

    def test_the_path_of_every_page_leads_back_to_its_key(self) -> None:
        plan = Plan(SiteSnapshot(self.shop.db, self.blog.id, self.clock()))
        found = list(filter(None, (page_at(plan, key) for key in all_keys(plan))))
        self.assertGreater(len(found), 40)
        for page in found:
            with self.subTest(page.key):
                if page.key.kind == "short":
                    self.assertEqual(key_at(plan, page.path), f"post/{page.key.number}")
                elif page.key.kind not in (
                    "missing",
                    "card",
                ):  # neither stands at an address that people ask for
                    self.assertEqual(key_at(plan, page.path), page.key)

    def test_nothing_stands_at_nonsense(self) -> None:
        plan = Plan(SiteSnapshot(self.shop.db, self.blog.id, self.clock()))
        for path in (
            "",
            "//",
            "/lamps/page/0/",
            "/9999/99/",
            "/~zzzzzzzzzzzz",
            "/feed.exe",
            "/%00/",
            "/page/1/page/2/",
            "/page/from-0/",
            "/page/from-99999/",
            "/page/1/",
        ):
            with self.subTest(path):
                key = key_at(plan, path)
                self.assertIsNone(page_at(plan, key) if key else None)


class TableTests(unittest.TestCase):
    def test_each_kind_has_a_recipe_and_each_recipe_one_kind(self) -> None:
        named = [name for kind in KINDS.values() for name in kind.recipes]
        self.assertEqual(len(named), len(set(named)))
        self.assertEqual({name for name, kind in KINDS.items() if not kind.recipes}, {"short", "numbered"})
        self.assertEqual(set(named), set(RECIPES))

    def test_keys_and_list_names_are_spelled_by_their_own_modules_alone(self) -> None:
        kinds = "|".join(KINDS)
        literal = re.compile(rf'f?"(?:(?:category|tag|month|under|away|comments):[{{\d]|(?:{kinds})/[{{\w/])')
        allowed = {("publish/changes/exact.py", 'f"list/{'), ("publish/changes/pending.py", 'f"list/{')}
        found = {
            (str(path.relative_to(PACKAGE)), one)
            for path in PACKAGE.rglob("*.py")
            if not any(path.is_relative_to(own) for own in OWN)
            for one in literal.findall(path.read_text())
        }
        self.assertEqual(found - allowed, set())

"""Names of lists, keys of pages and names of changed facts."""

import json
import unittest

from mobbet.core.keys import ALL, FRONT, TOP, ChangedFact, ListName, PageKey


class ListNameTests(unittest.TestCase):
    def test_a_name_is_spelled_and_taken_apart_in_one_way(self) -> None:
        for name, parts in (
            (ListName.of("category", 3), ("category:3", "category", "3")),
            (ListName.of("month", "2026-11"), ("month:2026-11", "month", "2026-11")),
            (FRONT, ("front", "front", "")),
        ):
            with self.subTest(name):
                self.assertEqual((name, name.kind, name.which), parts)

    def test_a_list_without_pages_shows_on_those_of_another(self) -> None:
        found = [name.shown_on for name in (TOP, ListName("under:4"), ListName("tag:5"), ALL)]
        self.assertEqual(found, [FRONT, "category:4", "tag:5", ALL])

    def test_it_is_a_string_to_json(self) -> None:
        self.assertEqual(json.dumps([ListName.of("tag", 5)]), '["tag:5"]')

    def test_a_name_without_a_number_has_none(self) -> None:
        with self.assertRaises(ValueError):
            _ = FRONT.number


class ChangedFactTests(unittest.TestCase):
    def test_only_those_of_categories_and_tags_are_of_a_list(self) -> None:
        facts = [ChangedFact(text) for text in ("category:3", "tag:5", "media:17", "comments:12", "away:/a/")]
        self.assertEqual([fact.list_name for fact in facts], ["category:3", "tag:5", None, None, None])

    def test_an_address_keeps_its_colons(self) -> None:
        self.assertEqual(ChangedFact.of("away", "/a:b/").which, "/a:b/")


class PageKeyTests(unittest.TestCase):
    def test_the_parts_of_a_key(self) -> None:
        key = PageKey.of("list", ListName.of("category", 3), 2)
        self.assertEqual(
            (key, key.kind, key.list_name, key.last), ("list/category:3/2", "list", "category:3", "2")
        )

    def test_an_address_with_slashes_is_one_part(self) -> None:
        self.assertEqual(PageKey.of("former", "/lamps/old/").rest, "/lamps/old/")

    def test_the_number_is_that_of_the_post_or_item(self) -> None:
        self.assertEqual(
            (PageKey("post/12").number, PageKey("media/17/whole/image/webp/800").number), (12, 17)
        )

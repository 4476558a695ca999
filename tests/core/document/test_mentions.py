"""What a document refers to, and standing copies put in."""

from __future__ import annotations

import unittest

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.mentions import DEEPEST, expanded, linked_posts, standing_copies, walk
from mobbet.core.document.text import plain


def standing(number: int) -> dict:
    return {"type": "standing", "attrs": {"copy": number}}


def text(source: str, *more: dict) -> dict:
    document = from_markdown(source)
    return {**document, "content": [*document["content"], *more]}


class MentionsTests(unittest.TestCase):
    def test_posts_that_links_lead_to_are_named_once_in_order(self) -> None:
        self.assertEqual(
            linked_posts(
                text("[a](post:7) and [b](post:3#part), [again](post:7), [out](https://a.example/)")
            ),
            (7, 3),
        )

    def test_nodes_come_in_reading_order(self) -> None:
        kinds = [node["type"] for node in walk(text("# One\n\n- two\n- three\n\nfour"))]
        self.assertEqual(
            [kind for kind in kinds if kind != "text"],
            ["heading", "bulletList", "listItem", "paragraph", "listItem", "paragraph", "paragraph"],
        )

    def test_standing_copies_are_named_once(self) -> None:
        self.assertEqual(standing_copies(text("a", standing(2), standing(1), standing(2))), (2, 1))


class ExpandedTests(unittest.TestCase):
    def words(self, document: dict, copies: dict[int, dict]) -> str:
        return plain(expanded(document, copies.get)).strip()

    def test_a_copy_is_replaced_by_its_blocks(self) -> None:
        self.assertIn("Mind the mains", self.words(text("Words.", standing(1)), {1: text("Mind the mains.")}))

    def test_a_text_without_copies_stays_the_same_object(self) -> None:
        document = text("Words.")
        self.assertIs(expanded(document, {}.get), document)

    def test_an_unknown_copy_leaves_an_empty_line_at_the_most(self) -> None:
        self.assertEqual(self.words({"type": "doc", "content": [standing(9)]}, {}), "")

    def test_a_copy_in_itself_ends(self) -> None:
        found = expanded(text("Words.", standing(1)), {1: text("Round.", standing(1))}.get)
        self.assertEqual(sum(node.get("text") == "Round." for node in walk(found)), DEEPEST)

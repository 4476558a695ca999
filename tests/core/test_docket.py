import json
import unittest
from dataclasses import dataclass

from mobbet.core.audience import EVERYONE, PASSWORD
from mobbet.core.docket import COLUMNS, LINES, SHOWN, Docket, ShownLines, differing, frozen


@dataclass(frozen=True, kw_only=True)
class Post(Docket):
    visibility: str = EVERYONE
    comes_down_wall: str | None = None


class DocketTests(unittest.TestCase):
    def test_every_field_is_a_line_and_every_line_a_field(self) -> None:
        self.assertEqual(set(COLUMNS), set(Docket.__dataclass_fields__))
        self.assertEqual(set(SHOWN), set(ShownLines.__dataclass_fields__))
        self.assertEqual(len({line.words for line in LINES}), len(LINES))

    def test_a_placement_keeps_what_has_a_meaning_and_the_leads_digest(self) -> None:
        post = Post(
            lead=json.dumps({"digest": "ab12", "kind": "quote", "at": 0}),
            password_key="key",
            listed="title",
            leads_to=7,
        )
        kept = frozen(post)
        self.assertEqual(
            (kept["lead"], kept["password_key"], kept["listed"], kept["leads_to"]), ("ab12", "", "", None)
        )
        kept = frozen(
            Post(
                visibility=PASSWORD,
                comes_down_wall="2026-12-01T09:00",
                password_key="key",
                listed="title",
                leads_to=7,
            )
        )
        self.assertEqual((kept["password_key"], kept["listed"], kept["leads_to"]), ("key", "title", 7))

    def test_what_differs_is_told_line_by_line(self) -> None:
        self.assertEqual(differing(Post(), Docket()), [])
        self.assertEqual(
            differing(Post(excerpt="New", series_id=3, password_key="unused"), Docket()),
            ["the excerpt", "the series"],
        )

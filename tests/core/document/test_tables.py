"""Tables are square: rows are filled up, and spans stay inside."""

from __future__ import annotations

import unittest

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.tables import MOST_COLUMNS, empty_cell, squared
from mobbet.core.document.write import to_markdown


def cell(across: int = 1, down: int = 1, kind: str = "tableCell") -> dict:
    made = empty_cell(kind)
    return {**made, "attrs": {**made["attrs"], "colspan": across, "rowspan": down}}


def table(*rows: list[dict]) -> dict:
    return {"type": "table", "content": [{"type": "tableRow", "content": list(row)} for row in rows]}


def spans(made: dict) -> list[list[tuple[int, int]]]:
    return [
        [(one["attrs"]["colspan"], one["attrs"]["rowspan"]) for one in row.get("content", ())]
        for row in made["content"]
    ]


class SquaredTests(unittest.TestCase):
    def test_a_square_table_is_the_same_object(self) -> None:
        made = table([cell(), cell()], [cell(2)])
        self.assertIs(squared(made), made)

    def test_short_rows_are_filled_up(self) -> None:
        self.assertEqual(
            spans(squared(table([cell(), cell(), cell()], [cell()]))), [[(1, 1)] * 3, [(1, 1)] * 3]
        )

    def test_a_span_that_leaves_the_table_below_is_cut(self) -> None:
        self.assertEqual(spans(squared(table([cell(1, 9), cell()], [cell()]))), [[(1, 2), (1, 1)], [(1, 1)]])

    def test_a_span_that_would_lie_over_another_is_cut(self) -> None:
        self.assertEqual(spans(squared(table([cell(), cell(1, 2)], [cell(2)]))), [[(1, 1), (1, 2)], [(1, 1)]])

    def test_no_table_is_wider_than_the_most(self) -> None:
        made = squared(table([cell() for _ in range(MOST_COLUMNS + 7)]))
        self.assertEqual(len(made["content"][0]["content"]), MOST_COLUMNS)
        self.assertEqual(spans(squared(table([cell(1000)]))), [[(MOST_COLUMNS, 1)]])

    def test_a_row_of_headings_is_filled_with_headings(self) -> None:
        made = squared(table([cell(kind="tableHeader")], [cell(), cell()]))
        self.assertEqual(
            [one["type"] for one in made["content"][0]["content"]], ["tableHeader", "tableHeader"]
        )

    def test_a_row_without_cells_gets_them(self) -> None:
        self.assertEqual(spans(squared(table([], [cell(), cell()]))), [[(1, 1), (1, 1)], [(1, 1), (1, 1)]])


class MarkdownTests(unittest.TestCase):
    def test_a_table_without_a_heading_row_is_written_with_an_empty_one_and_read_as_it_was(self) -> None:
        document = from_markdown("|  |  |\n| --- | --- |\n| A | B |\n")
        (made,) = document["content"]
        self.assertEqual([len(row["content"]) for row in made["content"]], [2])
        self.assertEqual({one["type"] for row in made["content"] for one in row["content"]}, {"tableCell"})
        self.assertEqual(to_markdown(document), "|   |   |\n| --- | --- |\n| A | B |\n")

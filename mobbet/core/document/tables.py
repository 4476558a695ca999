"""Tables: every row of one width, no cell across another."""

from __future__ import annotations

from typing import Any

Node = dict[str, Any]

MOST_COLUMNS = 60


def squared(table: Node) -> Node:
    """The table with every row filled up to the widest, and spans cut where they overlap or leave it.

    A table that is square already is returned as it is.
    """
    rows = table["content"]
    taken: dict[tuple[int, int], bool] = {}
    placed: list[list[tuple[int, Node]]] = []
    width = 0
    for at, row in enumerate(rows):
        column, line = 0, []
        for cell in row.get("content", ()):
            while (at, column) in taken:
                column += 1
            if column >= MOST_COLUMNS:
                break
            cell = _fitted(cell, at, column, len(rows), taken)
            line.append((column, cell))
            column += cell["attrs"]["colspan"]
        placed.append(line)
    width = max((column for _, column in taken), default=-1) + 1
    content = [_filled(row, at, placed[at], max(1, width), taken) for at, row in enumerate(rows)]
    return table if content == rows else {**table, "content": content}


def _fitted(cell: Node, at: int, column: int, height: int, taken: dict[tuple[int, int], bool]) -> Node:
    """The cell with spans that leave neither the table nor its own free place; the place is taken."""
    attrs = cell["attrs"]
    across = 1
    most = min(attrs["colspan"], MOST_COLUMNS - column)
    while across < most and (at, column + across) not in taken:
        across += 1
    down = min(attrs["rowspan"], height - at)
    taken.update({(at + y, column + x): True for y in range(down) for x in range(across)})
    if (across, down) == (attrs["colspan"], attrs["rowspan"]):
        return cell
    return {**cell, "attrs": {**attrs, "colspan": across, "rowspan": down}}


def _filled(
    row: Node, at: int, line: list[tuple[int, Node]], width: int, taken: dict[tuple[int, int], bool]
) -> Node:
    """The row with empty cells where nothing stands."""
    kind = "tableHeader" if line and all(cell["type"] == "tableHeader" for _, cell in line) else "tableCell"
    gaps = [(column, empty_cell(kind)) for column in range(width) if (at, column) not in taken]
    cells = [cell for _, cell in sorted([*line, *gaps], key=lambda pair: pair[0])]
    return {"type": "tableRow", **({"content": cells} if cells else {})}


def empty_cell(kind: str = "tableCell") -> Node:
    """A cell with an empty paragraph."""
    attrs = {"colspan": 1, "rowspan": 1, "align": "start"}
    return {"type": kind, "attrs": attrs, "content": [{"type": "paragraph", "attrs": {"align": "start"}}]}

"""Tables that people exchange as CSV (RFC 4180)."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from mobbet.core.errors import BadInput

LONGEST_CELL = 20_000
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def cell(text: str) -> str:
    """A value that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(_FORMULA) else text


def rows_in(source: str, needed: str, most: int) -> Iterator[tuple[int, dict[str, str]]]:
    """(line, {column: value}) of a table whose first line names its columns, in small letters; parted by commas, semicolons or tabs.

    Empty lines are left out, and the apostrophe that `cell` put before a value. Raises BadInput where the column that is needed is not there, and for more
    rows than `most`.
    """
    head = source.lstrip("\ufeff").partition("\n")[0]
    divider = max(",;\t", key=head.count)
    csv.field_size_limit(LONGEST_CELL)
    try:
        lines = csv.reader(io.StringIO(source.lstrip("\ufeff")), delimiter=divider)
        columns = [name.strip().lower() for name in next(lines, [])]
        if needed not in columns:
            raise BadInput(
                f"The first line names no column “{needed}”; begin the list with a line such as {needed},what,every.",
                "file",
            )
        for count, row in enumerate(lines):
            if count >= most:
                raise BadInput(f"The list has more than {most:,} lines; bring it in in parts.", "file")
            if any(value.strip() for value in row):
                yield (
                    lines.line_num,
                    {name: _plain(value) for name, value in zip(columns, row, strict=False)}
                    | dict.fromkeys(columns[len(row) :], ""),
                )
    except csv.Error as error:
        raise BadInput(f"The list cannot be read as CSV ({error}); save it anew as CSV.", "file") from None


def _plain(value: str) -> str:
    value = value.strip()
    return value[1:] if value.startswith("'") and value[1:].startswith(_FORMULA) else value

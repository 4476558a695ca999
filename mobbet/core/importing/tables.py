"""Tables of posts as CSV."""

from __future__ import annotations

import csv
import io
import re
from typing import Any

from mobbet.core.errors import BadInput
from mobbet.core.importing.fields import (
    FIELDS,
    author_in,
    date_in,
    field_name,
    first,
    is_draft,
    line,
    several,
)
from mobbet.core.importing.item import HTML, MARKDOWN, Item, NotRead, addresses, names

MOST_ROWS = 50_000
_ELEMENT = re.compile(r"<[a-z][^<>]{0,300}>", re.IGNORECASE)


def read_table(data: str) -> list[Item | NotRead]:
    """A table of posts as CSV, one a row, with the names of its columns in the first. Raises BadInput without a title or text."""
    try:
        dialect: Any = csv.Sniffer().sniff(data[:4096], delimiters=",;\t")
    except csv.Error:
        dialect = csv.excel
    csv.field_size_limit(10_000_000)
    rows = csv.DictReader(io.StringIO(data.lstrip("\ufeff")), dialect=dialect)
    known = {field_name(name) for name in rows.fieldnames or ()}
    for what in ("title", "text"):
        if not known & set(FIELDS[what]):
            raise BadInput(
                f"The table has no column for the {what}; name one “{FIELDS[what][0]}” in its first row.",
                "source",
            )
    found: list[Item | NotRead] = []
    for number, row in enumerate(rows, 1):
        if number > MOST_ROWS:
            found.append(
                NotRead(f"row {number}", f"a table may have {MOST_ROWS:,} rows; bring the rest in by another")
            )
            break
        found.append(_row(number, {field_name(name): value for name, value in row.items() if name}))
    return found


def _row(number: int, fields: dict[str, Any]) -> Item | NotRead:
    title, text = line(fields, "title"), str(first(fields, "text") or "")
    if not title and not text.strip():
        return NotRead(f"row {number}", "it has neither a title nor a text")
    links = addresses(several(fields, "addresses"))
    key = line(fields, "key", 200) or (links[0] if links else title)
    has_elements = "markdown" not in fields and _ELEMENT.search(text[:20_000])
    kind = HTML if has_elements else MARKDOWN
    return Item(
        key, title, text, kind, date_in(fields), names(several(fields, "categories")), names(several(fields, "tags")), author_in(fields),
        line(fields, "excerpt", 1000), is_draft(fields), links, slug=line(fields, "slug"),
    )  # fmt: skip

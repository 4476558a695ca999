"""The result of a publication."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.publish.page_count import PageCount


@dataclass(frozen=True)
class Published:
    """What a publication came to. `seconds` is its own time; `edition` is the one readers get now.

    `written` and `removed` count every row of the edition, and `changed` the same by kind.
    """

    edition: int
    written: int
    removed: int
    pages: int
    seconds: float
    changed: PageCount = PageCount()

"""What a change does to one page."""

from __future__ import annotations

from typing import NamedTuple

from mobbet.core.keys import PageKey


class Altered(NamedTuple):
    """One page that a publication would change: its key in the plan, its path, and 'added', 'altered' or 'removed'.

    A page that moves has both its paths: `was` is the one it had.
    """

    key: PageKey
    path: str
    what: str
    leads_to: str | None = None
    was: str = ""


def moved_from(old: str, new: str) -> str:
    """The value of `was` for a page at these paths."""
    return old if old != new else ""

"""The result of a publication."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Published:
    """What a publication came to. `seconds` is its own time; `edition` is the one readers get now."""

    edition: int
    written: int
    removed: int
    pages: int
    seconds: float

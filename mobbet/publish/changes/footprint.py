"""The interface of the two strategies that find the pages a change alters."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from mobbet.publish.changes.altered import Altered


@dataclass(frozen=True)
class Footprint:
    """The pages that a change adds, alters or removes, by path. With `every`, so many others alter, since they show what stands on every page."""

    pages: list[Altered]
    every: int = 0


class Strategy(Protocol):
    """Looks at the site twice: with the change made, inside the transaction that is rolled back, and after the rollback.

    `exact.py` compares the pages themselves, with the current edition or at a moment. `counted.py` compares where posts and lists stand, for
    changes of the filing that concern a fifth of all posts. Property tests hold each against what a publication does.
    """

    def look_with_change(self) -> None: ...
    def footprint(self) -> Footprint: ...

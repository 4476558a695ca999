"""The state of a post: a function of its placements and the instant at which one asks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mobbet.core.timing import FOREVER

DRAFT = "draft"
IN_TIMETABLE = "in-timetable"
OUT = "out"
CAME_DOWN = "came-down"
WITHDRAWN = "withdrawn"
SET_ASIDE = "set-aside"

WORDS = {
    DRAFT: "a draft",
    IN_TIMETABLE: "in the timetable",
    OUT: "published",
    CAME_DOWN: "came down",
    WITHDRAWN: "withdrawn",
    SET_ASIDE: "set aside",
}


@dataclass(frozen=True)
class Showing:
    """One stretch of time in which readers get one revision of a post.

    Shown at instant t when `shows_from <= t < shows_until`; `comes_down` is when the person asked
    for it to come down (FOREVER for good), so an earlier `shows_until` means a later placement
    took over, or that the post was withdrawn.
    """

    shows_from: int
    shows_until: int
    comes_down: int = FOREVER

    def at(self, instant: int) -> bool:
        return self.shows_from <= instant < self.shows_until


def state_at(showings: Sequence[Showing], instant: int, aside: bool = False) -> str:
    """The state of a post with these showings at that instant."""
    if aside:
        return SET_ASIDE
    real = [showing for showing in showings if showing.shows_from < showing.shows_until]
    if any(showing.at(instant) for showing in real):
        return OUT
    if any(showing.shows_from > instant for showing in real):
        return IN_TIMETABLE
    if not real:
        return DRAFT
    last = max(real, key=lambda showing: showing.shows_until)
    return CAME_DOWN if last.shows_until == last.comes_down else WITHDRAWN

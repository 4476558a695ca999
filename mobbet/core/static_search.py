"""When the index is made anew by which readers search where a site stands as files."""

from __future__ import annotations

from mobbet.core.errors import BadInput
from mobbet.core.menu import SEARCH_PATH

NEVER, ALWAYS, DAY, WEEK = "", "always", "day", "week"
EVERY = {
    NEVER: "not at all",
    ALWAYS: "by an index that is made whenever the site is sent",
    DAY: "by an index that is made once a day at the most",
    WEEK: "by an index that is made once a week at the most",
}
"""{how often: in words, after “Readers search there”}."""
_PAUSES = {ALWAYS: 0, DAY: 86_400, WEEK: 7 * 86_400}
FOLDER = f"{SEARCH_PATH[1:]}index/"
"""Below the site: where the index lies."""


def read_every(text: str) -> str:
    """How often. Raises BadInput."""
    if text not in EVERY:
        raise BadInput(f"“{text[:20]}” is no choice; choose one of the list.", "static_search")
    return text


def is_due(every: str, made_at: int | None, is_current: bool, now: int) -> bool:
    """Whether an index is to be made: none is there, or one of an earlier edition whose time is over."""
    if every == NEVER or is_current:
        return False
    return made_at is None or now >= made_at + _PAUSES[every]

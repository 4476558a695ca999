"""Who may read what. One function decides, and every page, list, feed and picture asks it."""

from __future__ import annotations

from collections.abc import Iterable

from mobbet.core.errors import BadInput

EVERYONE = "everyone"
ONLY_ME = "only-me"

VISIBILITIES: dict[str, str] = {EVERYONE: "everyone", ONLY_ME: "only me"}
"""The choices of a post's visibility, with their words."""


def read_visibility(text: str) -> str:
    """A visibility that a person typed. Raises BadInput for one that does not exist."""
    value = text.strip().lower().replace(" ", "-")
    if value not in VISIBILITIES:
        raise BadInput(
            f"“{text}” is no visibility; choose {' or '.join(VISIBILITIES)}.", "visibility"
        )
    return value


def audience_of(visibility: str, author_id: int) -> str:
    """The audience kept with a page: 'everyone', or 'person:7' for the author alone."""
    return EVERYONE if visibility == EVERYONE else f"person:{author_id}"


def widest(audiences: Iterable[str]) -> str | None:
    """The audience of a file that several posts use: all who may read any of them; None without a post.

    Several single people are written 'person:3 person:7'.
    """
    distinct = sorted(set(audiences))
    if not distinct:
        return None
    return EVERYONE if EVERYONE in distinct else " ".join(distinct)


def may_read(audience: str, person_id: int | None) -> bool:
    """True when this reader (None is a stranger) may have a page of that audience."""
    return audience == EVERYONE or f"person:{person_id}" in audience.split()

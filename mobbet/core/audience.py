"""Who may read what. One function decides, `may_read`, and every page, list, feed and picture asks it.

A *visibility* is what a person chose for a post: `everyone`, `signed-in`, `group:3` (typed as `group:NAME`), `password`
or `only-me`. An *audience* is what is kept with a page: `everyone`, `signed-in`, `group:3`, `password:12` (the post
it opens), `person:7`; a file that several posts show has several, parted by spaces.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.errors import BadInput

EVERYONE = "everyone"
SIGNED_IN = "signed-in"
PASSWORD = "password"
LOCKED = "locked"
"""In lists: a post behind a password, whose title everyone sees who can be asked for it."""
ONLY_ME = "only-me"
GROUP = "group:"
COLLEAGUE_TITLE = "A colleague’s post"
"""What stands for the title of a post to those who see their own alone."""
PRIVATE_TITLE = "A post for its author alone"
"""What colleagues are shown in the place of the title of such a post, where its row cannot be left out."""

VISIBILITIES: dict[str, str] = {
    EVERYONE: "everyone",
    SIGNED_IN: "people who are signed in",
    PASSWORD: "anyone with the password",
    ONLY_ME: "only me",
}
"""The choices of a post's visibility beside the blog's groups, with their words."""

LISTED: dict[str, str] = {
    "": "not in lists",
    "title": "in lists with its title",
    "teaser": "in lists with title and teaser",
}
"""What everyone finds of a post behind a password in lists and feeds."""


@dataclass(frozen=True)
class Reader:
    """Somebody who asks for a page of one blog; a stranger as it stands.

    `groups` are the groups they are in, `opened` the posts whose password they typed; `works_here` is true for those
    who work on the blog, `sees_all` for those of them who may read all but what is for its author alone.
    """

    person_id: int | None = None
    is_signed_in: bool = False
    groups: frozenset[int] = frozenset()
    opened: frozenset[int] = frozenset()
    works_here: bool = False
    sees_all: bool = False
    is_host: bool = False
    """True for a static host, which answers everyone alike and asks nobody for a password."""


STRANGER = Reader()
STATIC_HOST = Reader(is_host=True)


def read_visibility(text: str) -> str:
    """A visibility that a person typed, a group by its name. Raises BadInput for one that does not exist."""
    value = text.strip().lower().replace(" ", "-")
    if value.startswith(GROUP):
        name = " ".join(text.strip()[len(GROUP) :].split())
        if name:
            return f"{GROUP}{name}"
    if value not in VISIBILITIES:
        raise BadInput(
            f"“{text}” is no visibility; choose {', '.join(VISIBILITIES)} or group:NAME.", "visibility"
        )
    return value


def audience_of(visibility: str, author_id: int, post_id: int) -> str:
    """The audience kept with the pages of a post."""
    return {ONLY_ME: f"person:{author_id}", PASSWORD: f"password:{post_id}"}.get(visibility, visibility)


def widest(audiences: Iterable[str]) -> str | None:
    """The audience of a file that several posts use: all who may read any of them; None without a post."""
    distinct = sorted(set(audiences))
    if not distinct:
        return None
    return EVERYONE if EVERYONE in distinct else " ".join(distinct)


def may_read(audience: str, reader: Reader) -> bool:
    """True when this reader may have a page of that audience."""
    return audience == EVERYONE or any(_is_of(one, reader) for one in audience.split())


def _is_of(audience: str, reader: Reader) -> bool:
    kind, _, number = audience.partition(":")
    if kind == "group":
        return reader.sees_all or int(number) in reader.groups
    if kind == "password":
        return reader.sees_all or int(number) in reader.opened
    if kind == "person":
        return reader.person_id == int(number)
    return audience == SIGNED_IN and reader.is_signed_in


def is_told_of(audience: str, viewer: int | None) -> bool:
    """Whether a person may be told that a page of that audience is there: not of one for somebody else alone. None is Mobbet itself."""
    return viewer is None or any(
        one in (f"person:{viewer}", "") or not one.startswith("person:") for one in audience.split() or [""]
    )


def covers(audience: str, other: str) -> bool:
    """True when everybody of the `other` audience may read what is for `audience`, so that a page for those may name it."""
    return audience in (EVERYONE, other) or (
        audience == SIGNED_IN and other.startswith(("group:", "person:"))
    )


def list_audience(audience: str, listed: str) -> str | None:
    """Who finds a post in lists and feeds: its readers; whoever can be asked for its password, where one is shown there; None for nobody."""
    if audience.startswith("password:"):
        return LOCKED if listed else None
    return None if audience.startswith("person:") else audience


def list_audiences(reader: Reader) -> tuple[str, ...]:
    """The audiences whose posts stand in lists for this reader."""
    signed_in = (SIGNED_IN,) if reader.is_signed_in else ()
    locked = () if reader.is_host else (LOCKED,)
    return (EVERYONE, *locked, *signed_in, *(f"group:{number}" for number in sorted(reader.groups)))

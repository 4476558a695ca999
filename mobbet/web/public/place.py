"""Where in the published sites a request goes: parsed from its address once, at the door."""

from __future__ import annotations

from collections.abc import MutableMapping
from typing import Any, NamedTuple

from mobbet.core.read_counts import READ_PATH

Scope = MutableMapping[str, Any]
_SCOPE_KEY = "mobbet.place"
PRIVATE = "/~/"
"""Paths below a blog that the application answers for: asking for a password, comments, feeds of groups."""


class Place(NamedTuple):
    """The blog's slug, the path below the blog ('' for an address without the slash after the slug), and where the blog begins on this server."""

    slug: str
    path: str
    root: str

    @property
    def private_path(self) -> str | None:
        """The path of the application's route, for a private path of the blog; None for a page of the site."""
        if not self.path.startswith(PRIVATE) or self.path.startswith(f"{READ_PATH}/"):
            return None
        return f"{PRIVATE}{self.slug}{self.path[2:]}"


def below_prefix(path: str) -> Place | None:
    """`/b/bench/lamps/` as the place `/lamps/` of `bench`; None for a path that is not below `/b/`."""
    if not path.startswith("/b/"):
        return None
    slug, slash, rest = path[3:].partition("/")
    return Place(slug, slash + rest, f"/b/{slug}")


def on_own_host(slug: str, path: str) -> Place:
    """A path of a blog that has a host of its own, at whose root it begins."""
    return Place(slug, path, "")


def with_place(scope: Scope, place: Place) -> Scope:
    return {**scope, _SCOPE_KEY: place}


def place_of(scope: Scope) -> Place:
    """The place that the door has read."""
    place: Place = scope[_SCOPE_KEY]
    return place


def root_of(scope: Scope, slug: str) -> str:
    """Where a blog begins on this server, as the request asked for it: nowhere on a host of its own."""
    place = scope.get(_SCOPE_KEY)
    return place.root if place else f"/b/{slug}"

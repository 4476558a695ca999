"""The pictures of a library, to choose from in a sentence."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.web.shell.contexts import Choice

MOST_PICTURES = 60


def pictures_of(here: Workshop, blog: Blog) -> list[Choice]:
    """The newest pictures of the library, to choose from."""
    rows = media.find(here.db, blog.id, Wanted(kind="picture"), MOST_PICTURES)
    return [Choice(str(row.id), row.caption or row.name) for row in rows]

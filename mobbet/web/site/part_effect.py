"""What giving a tried part of the house to readers alters, for the words of the main action."""

from __future__ import annotations

from collections.abc import Callable

from starlette.responses import Response

from mobbet.actions.footprints import Effect
from mobbet.core.errors import MobbetError
from mobbet.publish.pages.kinds import count_of
from mobbet.web.shell.rendering import html_of
from mobbet.web.site.look_contexts import PartEffect


def effect_of_part(find: Callable[[], Effect], without_pages: str = ": 0 pages") -> Response:
    """“: 433 pages”; `without_pages` where no page changes, and nothing where nothing is tried."""
    try:
        found = find()
        count = count_of([one.key for one in found.pages], found.every).pages
        words = f": {count:,} page{'s' if count != 1 else ''}" if count else without_pages
    except MobbetError:
        words = ""
    return Response(html_of(PartEffect(words)), media_type="text/html")

"""What giving a tried part of the house to readers alters, for the words of the main action."""

from __future__ import annotations

from starlette.responses import Response

from mobbet.actions import house
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError
from mobbet.publish.pages.kinds import count_of
from mobbet.store.people import Person
from mobbet.web.shell.rendering import html_of
from mobbet.web.site.look_contexts import PartEffect


def effect_of_part(here: Workshop, me: Person, slug: str, part: str) -> Response:
    """“: 433 pages”; nothing where nothing is tried."""
    try:
        found = house.effect(here, me, slug, part)
        count = count_of([one.key for one in found.pages], found.every).pages
        words = f": {count:,} page{'s' if count != 1 else ''}"
    except MobbetError:
        words = ""
    return Response(html_of(PartEffect(words)), media_type="text/html")

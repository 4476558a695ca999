"""A page that redirects to another address."""

from __future__ import annotations

from mobbet.core.audience import EVERYONE
from mobbet.core.facts import House
from mobbet.core.keys import PageKey
from mobbet.publish.values import Page

RECIPE = "redirect"


def redirect(house: House, key: PageKey, path: str, target: str, audience: str = EVERYONE) -> Page:
    """An address that redirects to another one, of this site or away from it."""
    return Page(key, path, RECIPE, [target, house.language, house.home], target, audience, target)

"""The routes that all parts of the house have: give what is tried to readers, put it back, undo what was given, and tell what that alters."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import house
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Refused
from mobbet.publish.published import Published
from mobbet.store.people import Person
from mobbet.web.shell.address import Address
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site.part_effect import effect_of_part

ShowAgain = Callable[[Workshop, Person, str, str], Response]
"""(workshop, person, slug, problem): the screen with the reason of a refusal."""


def add_part_routes(router: APIRouter, address: Address, part: str, show_again: ShowAgain) -> None:
    """Adds them below the address of the part's screen, which tells what came of each by `told`."""

    def given(here: Workshop, me: Person, slug: str, act: Callable[..., Published], told: str) -> Response:
        try:
            act(here, me, slug, part)
        except Refused as error:
            return show_again(here, me, slug, str(error))
        return see_other(address(slug, told=told))

    @router.post(address.at("put-back"))
    def put_back(here: Here, me: Me, slug: str) -> Response:
        house.put_back(here, me, slug, part)
        return see_other(address(slug, told="back"))

    @router.post(address.at("undo"))
    def undo(here: Here, me: Me, slug: str) -> Response:
        return given(here, me, slug, house.undo_given, "undone")

    @router.post(address.at("give"))
    def give(here: Here, me: Me, slug: str) -> Response:
        return given(here, me, slug, house.give, "given")

    @router.get(address.at("effect"))
    def effect(here: Here, me: Me, slug: str) -> Response:
        """How many pages giving what is tried alters, for the main action."""
        return effect_of_part(lambda: house.effect(here, me, slug, part))

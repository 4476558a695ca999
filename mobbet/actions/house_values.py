"""A part of the house as a value that is edited step by step: each change is tried first, or given to readers at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from mobbet.actions import house
from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.publish.published import Published
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

Value = TypeVar("Value")


@dataclass(frozen=True)
class HouseValue(Generic[Value]):
    """How a part (`core/house.PARTS`) is read and kept as JSON, and why an edition was made that has another one."""

    part: str
    read: Callable[[str], Value]
    text: Callable[[Value], str]
    why: str

    def given(self, workshop: Workshop, blog: Blog) -> Value:
        """What readers get now."""
        return self.read(house.given(workshop, blog, self.part))

    def present(self, workshop: Workshop, blog: Blog) -> Value:
        """What the blog's people see: what is tried, or else what is given."""
        return self.read(house.present(workshop, blog, self.part))

    def try_value(self, workshop: Workshop, person: Person, slug: str, value: Value) -> bool:
        """Has a value tried; the one that readers get ends the trial. Answers whether another one than theirs is tried. Only the owner may."""
        blog = owned_blog(workshop, person, slug)
        is_out = self.given(workshop, blog) == value
        text = house.given(workshop, blog, self.part) if is_out else self.text(value)
        return house.try_value(workshop, person, slug, self.part, text)

    def try_change(
        self, workshop: Workshop, person: Person, slug: str, change: Callable[[Value], Value]
    ) -> None:
        """Has the present value tried with a change. Raises BadInput where it cannot be made."""
        blog = owned_blog(workshop, person, slug)
        self.try_value(workshop, person, slug, change(self.present(workshop, blog)))

    def give_change(
        self, workshop: Workshop, person: Person, slug: str, change: Callable[[Value], Value]
    ) -> Published:
        """Makes a change of what readers get, at once; and of what is tried, which goes on. Raises BadInput where it cannot be made."""
        blog = owned_blog(workshop, person, slug)
        tried = house.tried(workshop, blog, self.part)
        with changing(workshop, person, self.why) as unit:
            value = self.text(change(self.given(workshop, blog)))
            house.give_value(workshop, person, blog, self.part, value, self.why)
            if tried:
                self.try_value(workshop, person, slug, _as_far_as_it_goes(self.read(tried), change))
        return unit.published(blog)


def _as_far_as_it_goes(value: Value, change: Callable[[Value], Value]) -> Value:
    """A value that is tried with a change that was made to the other one; as it is where the change does not fit it."""
    try:
        return change(value)
    except BadInput:
        return value

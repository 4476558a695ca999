"""The unit of work: one change, from its transaction to everything that follows from it.

    with changing(workshop, person, "the filing changed"):
        ...

When the outermost unit is left, its transaction is committed, and then what readers get is brought up to date for every blog of which it noted a
changed post or fact, the scheduler is woken, and open windows of these blogs are told. An action therefore cannot forget any of them. A unit within
another one joins it. `dry_run` is the same unit, rolled back.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import TypeVar

from mobbet.actions.workshop import Workshop
from mobbet.publish.published import Published
from mobbet.store import changes, editions, events, guests, holds, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

Answer = TypeVar("Answer")


@dataclass
class Unit:
    """A change that is being made, or was made. `why` and `person` are kept with the editions that follow.

    The site of a blog that stands at an edition which was put back (`store/holds.py`) is published by a change with `ends_hold` alone; what other
    changes note waits for that.
    """

    workshop: Workshop
    person: Person | None = None
    why: str = ""
    is_left_to_scheduler: bool = False
    ends_hold: bool = False
    is_dry_run: bool = False
    _since: dict[int, int] = field(default_factory=dict)
    _published: dict[int, Published] = field(default_factory=dict)

    def must_publish(self, blog_id: int) -> None:
        """Has a blog published at the end: one with a change that no note tells of, as of its house style."""
        self._since.setdefault(blog_id, editions.current_number(self.workshop.db, blog_id))

    def can_be_undone(self, blog: Blog, person: Person, words: str, before: str, kind: str = "filing") -> int:
        """Keeps how things stood before (JSON), and answers with the number by which this change is undone. The words say why, in an edition too."""
        self.why = words.rstrip(".")
        db, now = self.workshop.db, self.workshop.clock()
        return changes.add(db, blog.id, person.id, words, before, now, kind)

    def published(self, blog: Blog) -> Published:
        """What the publications of a blog since the change began came to; nothing but the current edition, where none was needed."""
        found = self._published.get(blog.id)
        if found is not None:
            return found
        current = editions.current(self.workshop.db, blog.id)
        return Published(current.number if current else 0, 0, 0, current.pages if current else 0, 0.0)


_open: ContextVar[Unit | None] = ContextVar("open unit of work", default=None)
_defers: ContextVar[bool] = ContextVar("publication is deferred", default=False)


class _RolledBack(Exception):
    """Ends the transaction of a dry run."""


@contextmanager
def changing(
    workshop: Workshop, person: Person | None = None, why: str = "", *, is_left_to_scheduler: bool = False
) -> Iterator[Unit]:
    """One unit of work, in one transaction. Joins the unit that is already open; what it wrote there is rolled back when it raises.

    With `is_left_to_scheduler`, what follows is published by the scheduler soon after, so that the person does not wait for it.
    """
    outer = _open.get()
    if outer is not None:
        outer.person, outer.why = outer.person or person, outer.why or why
        with workshop.db.savepoint():
            yield outer
        return
    unit = Unit(workshop, person, why, is_left_to_scheduler)
    with _opened(unit), workshop.db.transaction():
        noted_before = stale.last_notes(workshop.db)
        yield unit
        homes = guests.homes_since(workshop.db, noted_before)
        if homes:
            workshop.follow(workshop, unit.person, homes)
        changed = stale.blogs_since(workshop.db, noted_before) | unit._since.keys()
        for blog_id in changed:
            if unit.ends_hold:
                holds.end(workshop.db, blog_id)
            unit.must_publish(blog_id)
            if unit.why:
                stale.add_reason(workshop.db, blog_id, unit.why, unit.person.id if unit.person else None)
            events.add(workshop.db, blog_id)
    if changed:
        _follow(unit)


def is_deferred() -> bool:
    """Whether what is changed now is published later, as when very many posts are brought in."""
    return _defers.get()


def _follow(unit: Unit) -> None:
    """Publishes what a committed unit changed, and wakes the scheduler."""
    workshop = unit.workshop
    if not (unit.is_left_to_scheduler or _defers.get()):
        person_id = unit.person.id if unit.person else None
        for blog_id, since in unit._since.items():
            unit._published[blog_id] = workshop.press.publish(
                blog_id, workshop.clock(), False, since, unit.why, person_id
            )
    workshop.on_change()


def dry_run(workshop: Workshop, change: Callable[[], Answer]) -> Answer:
    """What a change answers that is made and rolled back; nothing is kept or published. Raises whatever it raises."""
    found: list[Answer] = []
    try:
        with _opened(Unit(workshop, is_dry_run=True)), workshop.db.transaction():
            found.append(change())
            raise _RolledBack
    except _RolledBack:
        return found[0]


@contextmanager
def _opened(unit: Unit) -> Iterator[None]:
    token = _open.set(unit)
    try:
        yield
    finally:
        _open.reset(token)


@contextmanager
def unpublished() -> Iterator[None]:
    """For makers of many changes: what follows from those is published when `actions.building.build` is asked for it."""
    token = _defers.set(True)
    try:
        yield
    finally:
        _defers.reset(token)

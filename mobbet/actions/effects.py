"""What a change would do to the site, known before it is made: the change is tried and taken back."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

from mobbet.actions import placing
from mobbet.actions.access import editable_post
from mobbet.actions.cabinet import Trial
from mobbet.actions.placing import Placed
from mobbet.actions.workshop import Workshop
from mobbet.publish import prints
from mobbet.publish.differing import differing
from mobbet.publish.editions import Altered
from mobbet.publish.gc_tuning import rare_collections
from mobbet.publish.outline import Outline, noted_lists, settled_edition
from mobbet.publish.prints import Around
from mobbet.store import addresses, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

Answer = TypeVar("Answer")


@dataclass(frozen=True)
class Head:
    """A post on the newest page of a list: its place from 1, how many stand there, and the title that leaves the page ('' for none)."""

    place: int
    size: int
    leaves: str


@dataclass(frozen=True)
class Effect:
    """The pages a change would add, alter or remove, what the change itself answered, and where the post will stand in lists.

    With `every`, each of so many pages alters, and `pages` does not name them.
    """

    pages: list[Altered]
    answer: Any = None
    heads: dict[str, Head] = field(default_factory=dict)
    every: int = 0


class _TakenBack(Exception):
    """Ends the transaction in which a change was tried."""


def effect_of(workshop: Workshop, blog: Blog, change: Callable[[], Any], in_short: bool = False) -> Effect:
    """The footprint of a change; nothing is kept of it. Raises whatever the change raises.

    With `in_short`, pages are counted rather than named where the house style alters all of them.
    """

    def tried() -> Effect:
        answer = change()
        every = workshop.press.altered_by_house(blog.id) if in_short else 0
        if every:
            return Effect([], answer, every=every)
        return Effect(_told(workshop, blog, workshop.press.footprint(blog.id, workshop.clock())), answer)

    return try_out(workshop, tried)


def effect_of_filing(workshop: Workshop, blog: Blog, change: Callable[[Workshop], Any]) -> Effect:
    """The footprint, in short, of a change that files posts anew and alters nothing else of them; in the time that reading the lists concerned takes.

    Where something else waits to be published as well, its pages are among those told, and each is looked at.
    """
    db, instant = workshop.db, workshop.clock()
    base = settled_edition(db, blog.id, instant)
    if base is None:
        return effect_of(workshop, blog, lambda: change(workshop), in_short=True)
    trial, instant = Trial(db), max(instant, base.instant)

    def tried() -> tuple[Any, Outline]:
        db.let_wait()  # posts still name what the change removes
        answer = change(replace(workshop, trial=trial))
        return answer, Outline(db, blog.id, instant, trial.shown(instant)[1], noted_lists(db, blog.id))

    with rare_collections():
        answer, after = try_out(workshop, tried)
        pages = differing(db, trial.shown(instant)[0], after)
    return Effect(_told(workshop, blog, pages or []), answer, every=base.pages if pages is None else 0)


_OF_POST = re.compile(r"(?:post|short|card)/(\d+)")


def _told(workshop: Workshop, blog: Blog, pages: list[Altered]) -> list[Altered]:
    """The pages without those of posts that the viewer is not told of."""
    hidden = posts.hidden(workshop.db)
    if not hidden:
        return pages

    def is_hidden(key: str) -> bool:
        found = _OF_POST.match(key)
        if found:
            return int(found[1]) in hidden
        owner = (
            addresses.owner(workshop.db, blog.id, key.partition("/")[2])
            if key.startswith("former/")
            else None
        )
        return owner is not None and owner[0] == "post" and owner[1] in hidden

    return [page for page in pages if not is_hidden(page.key)]


def effect_of_placing(workshop: Workshop, person: Person, blog: Blog, post_id: int) -> Effect:
    """The footprint of a post's main action: now, or at the moment at which it will go out. Raises what placing raises."""
    post, _ = editable_post(workshop, person, post_id)
    instant = placing.moment_of(workshop, blog, post)
    return _compared(
        workshop,
        blog,
        instant,
        lambda: (post_id, placing.place(workshop, person, post_id)),
        prints.state_at(workshop.db, blog.id, instant, post_id),
    )


def effect_of_new(workshop: Workshop, person: Person, blog: Blog, make: Callable[[], int]) -> Effect:
    """The footprint of making a post and placing it; `make` answers with its number."""

    def change() -> tuple[int, Placed]:
        post_id = make()
        return post_id, placing.place(workshop, person, post_id)

    return _compared(workshop, blog, None, change, None)


def _compared(
    workshop: Workshop,
    blog: Blog,
    instant: int | None,
    change: Callable[[], tuple[int, Placed]],
    state: dict[str, Any] | None,
) -> Effect:
    """The plan of a moment with the change and without it."""

    def tried() -> tuple[int, Around, Placed, dict[str, Head]]:
        post_id, placed = change()
        moment = (
            instant if instant is not None else max(workshop.clock(), placed.goes_out, placed.waits_until)
        )
        after = prints.prints_around(workshop.db, blog.id, moment, post_id, state)
        return moment, after, placed, _heads(after, state is None)

    moment, after, placed, heads = try_out(workshop, tried)
    before = prints.prints_without(workshop.db, blog.id, moment, after)
    return Effect(_told(workshop, blog, prints.compared(before, after.prints)), placed, heads)


def _heads(around: Around, is_new: bool) -> dict[str, Head]:
    """Where a post comes to stand on the newest pages that it alters."""
    snapshot, post_id = around.plan.snapshot, around.post_id
    size = snapshot.house.posts_on_page
    found = {}
    for name in (key[5:-2] for key in around.prints if key.startswith("list/") and key.endswith("/0")):
        newest = snapshot.newest(name, size + 1)
        place = next((at for at, post in enumerate(newest[:size], 1) if post.id == post_id), 0)
        if place:
            found[name] = Head(
                place, min(size, len(newest)), newest[size].title if is_new and len(newest) > size else ""
            )
    return found


def try_out(workshop: Workshop, tried: Callable[[], Answer]) -> Answer:
    """What something answers that is done and taken back; nothing is kept of it. Raises whatever it raises."""
    found: list[Answer] = []
    try:
        with workshop.db.transaction():
            found.append(tried())
            raise _TakenBack
    except _TakenBack:
        return found[0]

"""The footprint of a change, known before it is made: from a dry run."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

from mobbet.actions import placing
from mobbet.actions.access import editable_post
from mobbet.actions.filing_writer import FilingDryRun
from mobbet.actions.placing import Placed
from mobbet.actions.work import dry_run
from mobbet.actions.workshop import Workshop
from mobbet.core.keys import ListName, PageKey
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.counted import Counted
from mobbet.publish.changes.exact import AgainstEdition, AtMoment, state_at
from mobbet.publish.changes.footprint import Strategy
from mobbet.publish.changes.outline import settled_edition
from mobbet.publish.gc_tuning import rare_collections
from mobbet.publish.page_kind import Head
from mobbet.publish.pages.kinds import KINDS
from mobbet.store import addresses, holds, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

Answer = TypeVar("Answer")


@dataclass(frozen=True)
class Effect:
    """The pages a change would add, alter or remove, what the change itself answered, and where the post will stand in lists.

    With `every`, so many others alter as well, since they show what stands on every page.
    """

    pages: list[Altered]
    answer: Any = None
    heads: dict[ListName, Head] = field(default_factory=dict)
    every: int = 0


def effect_of(workshop: Workshop, blog: Blog, change: Callable[[], Any], in_short: bool = False) -> Effect:
    """The footprint of a change; nothing is kept of it. Raises whatever the change raises.

    With `in_short`, pages are counted rather than named where the house style alters all of them.
    """
    strategy = AgainstEdition(workshop.db, blog.id, workshop.clock(), in_short)
    return _effect(workshop, blog, change, strategy)


def effect_of_filing(workshop: Workshop, blog: Blog, change: Callable[[Workshop], Any]) -> Effect:
    """The footprint, in short, of a change that files posts anew and alters nothing else of them; in the time that reading the lists concerned takes.

    Where something else waits to be published as well, its pages are among those told, and each is looked at.
    """
    db, instant = workshop.db, workshop.clock()
    base = settled_edition(db, blog.id, instant)
    if base is None:
        return effect_of(workshop, blog, lambda: change(workshop), in_short=True)
    trial, instant = FilingDryRun(db), max(instant, base.instant)

    def changed() -> Any:
        db.defer_foreign_keys()  # posts still name what the change removes
        return change(replace(workshop, trial=trial))

    with rare_collections():
        strategy = Counted(db, blog.id, instant, lambda: trial.shown(instant))
        return _effect(workshop, blog, changed, strategy)


def effect_of_placing(
    workshop: Workshop, person: Person, blog: Blog, post_id: int, in_short: bool = False
) -> Effect:
    """The footprint of a post's main action: now, or at the moment at which it will go out. Raises what placing raises.

    With `in_short`, pages are counted rather than named where the house style alters all of them.
    """
    post, _ = editable_post(workshop, person, post_id)
    instant = placing.moment_of(workshop, blog, post)
    if instant <= workshop.clock() and holds.of_blog(workshop.db, blog.id):  # with it goes all that waits
        return effect_of(workshop, blog, lambda: placing.place(workshop, person, post_id), in_short)
    state = state_at(workshop.db, blog.id, instant, post_id)
    strategy = AtMoment(workshop.db, blog.id, state, post_id, instant, in_short)
    return _effect(workshop, blog, lambda: placing.place(workshop, person, post_id), strategy)


def effect_of_new(workshop: Workshop, person: Person, blog: Blog, make: Callable[[], int]) -> Effect:
    """The footprint of making a post and placing it; `make` answers with its number."""
    strategy = AtMoment(workshop.db, blog.id, None)

    def change() -> Placed:
        strategy.post_id = make()
        placed = placing.place(workshop, person, strategy.post_id)
        strategy.moment = max(workshop.clock(), placed.goes_out, placed.waits_until)
        return placed

    return _effect(workshop, blog, change, strategy)


def _effect(workshop: Workshop, blog: Blog, change: Callable[[], Any], strategy: Strategy) -> Effect:
    def tried() -> Any:
        answer = change()
        strategy.look_with_change()
        return answer

    answer = dry_run(workshop, tried)
    found = strategy.footprint()
    heads = strategy.heads if isinstance(strategy, AtMoment) else {}
    return Effect(_visible(workshop, blog, found.pages), answer, heads, found.every)


def _visible(workshop: Workshop, blog: Blog, pages: list[Altered]) -> list[Altered]:
    """The pages without those of posts that the viewer may not know of."""
    hidden = posts.hidden(workshop.db)
    if not hidden:
        return pages

    def is_hidden(key: PageKey) -> bool:
        if KINDS[key.kind].is_of_post:
            return key.number in hidden
        owner = addresses.owner(workshop.db, blog.id, key.rest) if key.kind == "former" else None
        return owner is not None and owner[0] == "post" and owner[1] in hidden

    return [page for page in pages if not is_hidden(page.key)]


def sorted_out(pages: list[Altered]) -> dict[str, Any]:
    """The addresses of a footprint: those added, altered and removed, and those that lead on."""
    from mobbet.publish.pages.kinds import count_of

    facts: dict[str, Any] = {"add": [], "alter": [], "remove": [], "redirects": []}
    facts["changed"] = count_of(page.key for page in pages)._asdict()
    for page in pages:
        if page.leads_to is not None:
            if page.what != "removed":
                facts["redirects"].append({"from": page.path, "to": page.leads_to})
            continue
        facts[{"added": "add", "altered": "alter", "removed": "remove"}[page.what]].append(page.path)
        if page.was:
            facts["remove"].append(page.was)
    return facts

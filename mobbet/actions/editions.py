"""Editions of a blog: listed, compared, and put back."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.access import blog_for, require, title_for
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import is_told_of
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.rights import Action
from mobbet.core.values import existing
from mobbet.publish.changes.altered import Altered
from mobbet.publish.page_count import PageCount
from mobbet.publish.published import Published
from mobbet.store import editions, holds, people, placements
from mobbet.store.blogs import Blog
from mobbet.store.editions import Edition, PageRow
from mobbet.store.holds import Hold
from mobbet.store.people import Person

ADDED, ALTERED, REMOVED = "added", "altered", "removed"


@dataclass(frozen=True)
class ListedEdition:
    """An edition with the name of whoever it was made for ('' for the timetable)."""

    edition: Edition
    by: str


def listed(workshop: Workshop, blog: Blog, most: int, before: int | None = None) -> list[ListedEdition]:
    """The newest editions, or those before a number, newest first."""
    found = editions.newest(workshop.db, blog.id, most, before)
    names = {
        number: existing(people.by_id(workshop.db, number)).name
        for number in {one.person_id for one in found}
        if number
    }
    return [ListedEdition(one, names.get(one.person_id or 0, "")) for one in found]


def edition(workshop: Workshop, blog: Blog, number: int) -> Edition:
    """One edition. Raises NotFound with the numbers there are."""
    found = editions.by_number(workshop.db, blog.id, number)
    if found is None:
        last = editions.current_number(workshop.db, blog.id)
        raise NotFound(
            f"There is no edition {number}; there are 1 to {last}."
            if last
            else "There is no edition yet; publish first."
        )
    return found


def altered_since(workshop: Workshop, blog: Blog, number: int) -> list[Altered]:
    """What differs between an edition (0 is the empty site) and the current one."""
    return compared(workshop, blog, number, editions.current_number(workshop.db, blog.id))


def compared(workshop: Workshop, blog: Blog, first: int, second: int) -> list[Altered]:
    """What the second edition adds to, alters on and removes from the first, by path."""
    old, new = (
        editions.differing(workshop.db, blog.id, one, other)
        for one, other in ((first, second), (second, first))
    )
    old, new = (
        {key: row for key, row in rows.items() if is_told_of(row.audience, workshop.db.viewer)}
        for rows in (old, new)
    )
    found = [Altered(key, row.path, REMOVED) for key, row in old.items() if key not in new]
    for key, row in new.items():
        was = old.get(key)
        if was is None:
            found.append(Altered(key, row.path, ADDED, row.leads_to))
        elif _shown(was) != _shown(row):
            found.append(
                Altered(key, row.path, ALTERED, row.leads_to, was.path if was.path != row.path else "")
            )
    return sorted(found, key=lambda one: (one.path, one.key))


def _shown(row: PageRow) -> tuple[str, str, str, str, str | None]:
    return row.path, row.type, row.hash, row.audience, row.leads_to


@dataclass(frozen=True)
class ComingBack:
    """What putting an edition back comes to: what comes back, what does not, and the posts that are the reason."""

    count: PageCount
    withheld: PageCount
    titles: list[str]


def coming_back(workshop: Workshop, person: Person, blog: Blog, number: int) -> ComingBack:
    """What of an earlier edition readers would get again; restrictions as they are now win."""
    # imported here, since it loads what renders pages, which listing editions does not need
    from mobbet.publish.pages.kinds import count_of

    require(workshop, person, blog, Action.OWN_HOUSE)
    back = workshop.press.restoration(blog.id, number)
    titles = [title_for(workshop, person, post_id) for post_id in sorted(back.reasons)]
    return ComingBack(count_of(row.key for row in back.rows), count_of(back.withheld), titles)


def put_back(workshop: Workshop, person: Person, blog: Blog, number: int, way: str = holds.ASKS) -> Published:
    """Gives readers the pages of an earlier edition, as a new one. The facts stay; nothing goes out by itself until somebody publishes, withdraws or
    goes on. `way` says whether the desk asks when something is due.

    Raises NotFound, BadInput for another way, and Refused for the edition that stands already.
    """
    require(workshop, person, blog, Action.OWN_HOUSE)
    if way not in (holds.ASKS, holds.WAITS):
        raise BadInput(f"“{way}” is no choice; choose whether the timetable asks or waits.", "way")
    edition(workshop, blog, number)
    if number == editions.current_number(workshop.db, blog.id):
        raise Refused(f"Edition {number} is what readers get now.")
    with changing(workshop, person):
        holds.begin(workshop.db, blog.id, holds.Hold(number, way, workshop.clock()))
        published = workshop.press.put_back(blog.id, number, person.id)
        note(workshop, person, "edition-put-back", blog.id, str(number))
    workshop.on_change()
    return published


@dataclass(frozen=True)
class Held:
    """A site that stands at an edition which was put back: the hold, and the titles of posts that were to go out or come down since."""

    hold: Hold
    due: list[str]


def held(workshop: Workshop, person: Person, blog: Blog) -> Held | None:
    """Whether a blog's site stands at an edition that was put back, with what is due."""
    blog_for(workshop, person, blog.slug)
    hold, current = holds.of_blog(workshop.db, blog.id), editions.current(workshop.db, blog.id)
    if hold is None or current is None:
        return None
    due = placements.turned_between(workshop.db, blog.id, current.instant, workshop.clock())
    return Held(hold, [title_for(workshop, person, post_id) for post_id in due])


def go_on(workshop: Workshop, person: Person, blog: Blog) -> Published:
    """Publishes what is written and due now; the timetable goes on by itself. Raises Refused where nothing was put back."""
    require(workshop, person, blog, Action.OWN_HOUSE)
    hold = holds.of_blog(workshop.db, blog.id)
    if hold is None:
        raise Refused("The timetable goes on already.")
    with changing(workshop, person, f"goes on after edition {hold.edition} was put back") as unit:
        holds.end(workshop.db, blog.id)
        unit.must_publish(blog.id)
    return unit.published(blog)

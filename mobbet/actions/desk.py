"""The lists of the desk: posts in hand, in the timetable and published, and pages."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core.rhythm import usual_gap
from mobbet.core.timing import FOREVER
from mobbet.store import desk
from mobbet.store.blogs import Blog
from mobbet.store.desk import DeskRow

PAGE = 24
"""So many rows of a group are shown at once."""


@dataclass(frozen=True)
class Page:
    """A page of one of the desk's groups; `more` is the place to go on after, or None at the end."""

    rows: list[DeskRow]
    more: tuple[int, int] | None


@dataclass(frozen=True)
class Rhythm:
    """Days since the last post, the usual gap in days (None with fewer than three posts), the next one out."""

    days_quiet: int | None
    usual_gap: int | None
    next_out: int | None


GROUPS: dict[str, tuple[Callable[..., list[DeskRow]], str, tuple[int, int]]] = {
    "in-hand": (desk.in_hand, "changed_at", (FOREVER, FOREVER)),
    "timetable": (desk.in_timetable, "shows_from", (0, 0)),
    "pages": (desk.pages, "changed_at", (FOREVER, FOREVER)),
    "published": (desk.published, "goes_out", (FOREVER, FOREVER)),
}
"""The groups of the desk: what asks for one, what it is in the order of, and where it begins."""


def group(
    workshop: Workshop, blog: Blog, name: str, after: tuple[int, int] | None = None, author: int = 0
) -> Page:
    """A page of a group, of all posts or of those by one author."""
    read, order, beginning = GROUPS[name]
    rows = read(workshop.db, blog.id, workshop.clock(), PAGE + 1, after or beginning, author)
    last = rows[:PAGE][-1:]
    return Page(rows[:PAGE], (getattr(last[0], order), last[0].id) if len(rows) > PAGE else None)


def rhythm(workshop: Workshop, blog: Blog) -> Rhythm:
    """Worked out from the last 25 posts; the usual gap is their median, so one long pause does not count."""
    now = workshop.clock()
    out = [row.goes_out for row in desk.published(workshop.db, blog.id, now, 25)]
    coming = desk.in_timetable(workshop.db, blog.id, now, 1)
    return Rhythm(
        (now - out[0]) // 86400 if out else None, usual_gap(out), coming[0].goes_out if coming else None
    )

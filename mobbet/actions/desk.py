"""What the desk lists: posts in hand, in the timetable and published."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.write import to_text
from mobbet.core.rhythm import usual_gap
from mobbet.core.searching import spaced
from mobbet.core.timing import FOREVER
from mobbet.store import desk, search
from mobbet.store.blogs import Blog
from mobbet.store.desk import DeskRow

MOST_IN_GROUP = 60
PAGE = 30
INDEX_AT_ONCE = 500


@dataclass(frozen=True)
class Groups:
    """The three groups of the desk; `more` is (goes_out, id) to go on after, or None at the end."""

    in_hand: list[DeskRow]
    in_timetable: list[DeskRow]
    published: list[DeskRow]
    more: tuple[int, int] | None


@dataclass(frozen=True)
class Rhythm:
    """Days since the last post, the usual gap in days (None with fewer than three posts), the next one out."""

    days_quiet: int | None
    usual_gap: int | None
    next_out: int | None


def groups(workshop: Workshop, blog: Blog, author: int = 0) -> Groups:
    """The groups of all posts, or of those by one author."""
    now = workshop.clock()
    published, more = older(workshop, blog, None, author)
    return Groups(
        desk.in_hand(workshop.db, blog.id, now, MOST_IN_GROUP, author),
        desk.in_timetable(workshop.db, blog.id, now, MOST_IN_GROUP, author),
        published,
        more,
    )


def older(workshop: Workshop, blog: Blog, before: tuple[int, int] | None, author: int = 0) -> tuple[list[DeskRow], tuple[int, int] | None]:
    """A page of published posts, and where the next one goes on."""
    rows = desk.published(workshop.db, blog.id, workshop.clock(), PAGE + 1, before or (FOREVER, FOREVER), author)
    page = rows[:PAGE]
    return page, (page[-1].goes_out, page[-1].id) if len(rows) > PAGE else None


def rhythm(workshop: Workshop, blog: Blog) -> Rhythm:
    """Worked out from the last 25 posts; the usual gap is their median, so one long pause does not count."""
    now = workshop.clock()
    out = [row.goes_out for row in desk.published(workshop.db, blog.id, now, 25)]
    coming = desk.in_timetable(workshop.db, blog.id, now, 1)
    return Rhythm(
        (now - out[0]) // 86400 if out else None,
        usual_gap(out),
        coming[0].goes_out if coming else None,
    )


def bring_up_to_date(workshop: Workshop, blog: Blog) -> None:
    """Lets the search index read what was written since it last did."""
    while search.stale(workshop.db, blog.id, 1):
        with workshop.db.transaction():  # a save that came between would be forgotten
            for row in search.stale(workshop.db, blog.id, INDEX_AT_ONCE):
                text = to_text(schema.load(row.body))
                search.index(workshop.db, row.post_id, spaced(row.title), spaced(f"{row.subtitle}\n{text}"))

"""What became of letters to subscribers, and how many links in them were opened."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.access import require
from mobbet.actions.mailings import word_of
from mobbet.actions.workshop import Workshop
from mobbet.core.read_counts import OWN_LINK
from mobbet.core.rights import Action
from mobbet.store import mailings, placements, read_counts
from mobbet.store.blogs import Blog
from mobbet.store.mailings import Mailing, Tally
from mobbet.store.people import Person


@dataclass(frozen=True)
class LetterNumbers:
    """A letter, what became of it, and how many pages were opened by its links."""

    mailing: Mailing
    tally: Tally
    opened: int


def newest(workshop: Workshop, person: Person, blog: Blog, most: int) -> list[LetterNumbers]:
    """The newest letters of a blog. Raises NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    found = mailings.newest(workshop.db, blog.id, most)
    tallies = mailings.tallies(workshop.db, [one.id for one in found])
    opened = read_counts.by_words(workshop.db, blog.id, [OWN_LINK + word_of(one.id) for one in found])
    return [
        LetterNumbers(one, tallies.get(one.id, Tally()), opened.get(OWN_LINK + word_of(one.id), 0))
        for one in found
    ]


def paths_in(workshop: Workshop, mailing: Mailing) -> list[str]:
    """Where readers find the posts that a letter shows, of those that are out."""
    found = (placements.path_shown(workshop.db, post, workshop.clock()) for post, _ in mailing.shown)
    return [path for path in found if path]


def days_out(workshop: Workshop, person: Person, blog: Blog, start: int, end: int) -> list[int]:
    """When posts of a blog went out between two instants. Raises NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    return mailings.went_out(workshop.db, blog.id, start, end)

"""What somebody subscribes to by e-mail, how often, and when a digest is due.

A subscription is to `all`, `category:3`, `author:2`, `series:4`, `comments:12` (those under a post) or `answers:34` (those to a comment).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from mobbet.core.errors import BadInput
from mobbet.core.keys import Name
from mobbet.core.timing import instant_of_wall, local

ALL = "all"
CATEGORY, AUTHOR, SERIES, COMMENTS, ANSWERS = "category", "author", "series", "comments", "answers"
KINDS = (CATEGORY, AUTHOR, SERIES, COMMENTS, ANSWERS)
POST, WEEK, MONTH = "post", "week", "month"
EVERY = {POST: "each post", WEEK: "once a week", MONTH: "once a month"}
"""How often letters come, in words."""
ASKED, ON, ENDED, ASIDE = "asked", "on", "ended", "aside"
STATES = {
    ON: "gets letters",
    ASKED: "has not confirmed yet",
    ENDED: "ended it",
    ASIDE: "set aside, since letters came back",
}
"""What a subscriber can be, in words."""
MOST_SUBSCRIPTIONS = 40
MOST_BOUNCES = 3
"""After so many letters that came back, nobody writes to an address any more."""
CONFIRM_SECONDS = 7 * 86400
"""For how long the link of a letter is good that asks to confirm."""
CONSENT_LENGTH = 200


@dataclass(frozen=True)
class Wish:
    """What somebody subscribes to, and how often letters about it come."""

    what: str
    every: str = POST


@dataclass(frozen=True)
class Matter:
    """What subscriptions are compared with: a post's number, its categories with all above them, its author and its series."""

    post_id: int
    categories: frozenset[int]
    author_id: int
    series_id: int | None


def read_every(text: str) -> str:
    """How often, as a person typed it. Raises BadInput."""
    value = text.strip().lower()
    if value not in EVERY:
        raise BadInput(f"“{text[:20]}” is no rhythm of letters; write {', '.join(EVERY)}.", "every")
    return value


def read_what(text: str) -> str:
    """A subscription's subject, as it is kept. Raises BadInput."""
    name = Name(text.strip())
    if name == ALL:
        return ALL
    if name.kind not in KINDS or not (
        name.which.isascii() and name.which.isdecimal() and len(name.which) < 16
    ):
        raise BadInput(
            f"“{text[:40]}” is nothing to subscribe to; write all, category:NUMBER, author:NUMBER, series:NUMBER or comments:NUMBER.",
            "what",
        )
    return Name.of(name.kind, name.number)


def is_about(what: str, matter: Matter) -> bool:
    """Whether a post is what somebody subscribed to."""
    name = Name(what)
    if name == ALL:
        return True
    number = name.number
    if name.kind == CATEGORY:
        return number in matter.categories
    if name.kind == AUTHOR:
        return number == matter.author_id
    return name.kind == SERIES and number == matter.series_id


def rhythm_for(wishes: Iterable[Wish], matter: Matter) -> str | None:
    """How soon somebody with these wishes is told of a post: the soonest of those that are about it; None for not at all."""
    found = {wish.every for wish in wishes if is_about(wish.what, matter)}
    return next((every for every in EVERY if every in found), None)


def _is_digest_day(every: str, day: date, weekday: int) -> bool:
    return day.weekday() == weekday if every == WEEK else day.day == 1


def digest_due(every: str, now: int, zone: str, weekday: int, at: str) -> int:
    """The last instant, up to now, at which a digest was due: `at` (HH:MM) on that weekday (0 is Monday), or on the first of a month."""
    return next(due for due in _digests(every, now, zone, weekday, at, -1) if due <= now)


def digest_next(every: str, now: int, zone: str, weekday: int, at: str) -> int:
    """The next instant after now at which a digest is due."""
    return next(due for due in _digests(every, now, zone, weekday, at, 1) if due > now)


def _digests(every: str, now: int, zone: str, weekday: int, at: str, step: int) -> Iterator[int]:
    """The instants at which digests are due, from today on, into the future or (with a step of -1) the past."""
    today = local(now, zone).date()
    for days in range(64):
        day = today + timedelta(days=step * days)
        if _is_digest_day(every, day, weekday):
            yield instant_of_wall(f"{day}T{at}", zone)

"""Those who get the bench's letters, the letters of the last weeks, and what was announced at an account elsewhere."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.actions import (
    announcing,
    categories,
    letter_numbers,
    letter_rules,
    mail_sending,
    read_counts,
    subscribers,
)
from mobbet.actions.mailings import word_of
from mobbet.actions.read_counts import Hit
from mobbet.actions.workshop import Workshop
from mobbet.core.announcing import STAND_IN
from mobbet.core.keys import Name
from mobbet.core.subscriptions import POST, WEEK, digest_due
from mobbet.core.values import existing
from mobbet.demo.reads import AGENTS
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import blogs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

WEEKS, FRIDAY = 6, 4
SUBSCRIBERS = (
    ("hanne@net-loft.example", "", POST), ("mira.holt@port-alder.example", "", POST), ("bo@harbour-post.example", "", WEEK),
    ("ilse@tide-mill.example", "", WEEK), ("odd@rope-walk.example", "Lamps", POST), ("juno@chandlery.example", "Clocks", POST),
    ("teo@harbour-school.example", "", WEEK), ("runa@slipway.example", "", POST),
)  # fmt: skip
"""(address, category or '' for everything, how often)."""
CONSENT = "wrote their address on the list by the door of a session"


def make_letters(workshop: Workshop, clock: SetClock, owner: Person, bench: Blog) -> None:
    """Opens letters some weeks ago, and sends what was due since."""
    now = clock()
    clock.instant = now - WEEKS * 7 * 86400
    letter_rules.set_rule(workshop, owner, bench.slug, "is_open", "yes")
    bench = existing(blogs.by_id(workshop.db, bench.id))
    announcing.add(
        workshop, owner, bench.slug, STAND_IN, "Harbour board", "", "https://harbour-board.example/bench", ""
    )
    for email, category, every in SUBSCRIBERS:
        what = Name.of("category", categories.find(workshop, bench, category)) if category else "all"
        subscribers.add(workshop, owner, bench, email, what, every, CONSENT)
    for instant in _moments(workshop, owner, bench, clock(), now):
        clock.instant = instant
        mail_sending.send_due(workshop)
        announcing.go_round(workshop)
    clock.instant = now
    _open_some(workshop, owner, bench)


def _open_some(workshop: Workshop, owner: Person, bench: Blog) -> None:
    """Some of those who got a letter open its links, soon after."""
    hits = []
    for mailing in (one.mailing for one in letter_numbers.newest(workshop, owner, bench, 30)):
        for path in letter_numbers.paths_in(workshop, mailing):
            hits += [
                Hit(mailing.made_at + 600 * (number + 1), path, f"from={word_of(mailing.id)}", f"198.51.100.{number + 1}", AGENTS[number % 4], "", "pt-PT", "")
                for number in range(4 + mailing.id % 4)
            ]  # fmt: skip
    read_counts.count(workshop, bench, hits)


def _moments(workshop: Workshop, owner: Person, bench: Blog, start: int, end: int) -> Iterator[int]:
    """When letters about posts were due in that time, and digests, in order."""
    days = {
        digest_due(WEEK, end - 7 * 86400 * week, bench.zone, FRIDAY, "09:00") + 60 for week in range(WEEKS)
    }
    out = {instant + 900 for instant in letter_numbers.days_out(workshop, owner, bench, start, end)}
    yield from sorted(instant for instant in days | out if instant <= end)

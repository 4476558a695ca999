"""Letters that came back: an address to which three could not be delivered is written to no more."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.bounces import Bounce, bounces_in, messages_in
from mobbet.core.letters import is_sealed, read_message_id
from mobbet.core.subscriptions import ASIDE, MOST_BOUNCES
from mobbet.store import mailings, subscribers


@dataclass
class Returned:
    """How many letters came back for good, how many of those were new, what else there was, and how many addresses were set aside."""

    final: int = 0
    new: int = 0
    others: int = 0
    aside: int = 0


def read(workshop: Workshop, data: bytes, into: Returned | None = None) -> Returned:
    """Counts the letters that came back by the notifications in a file or a message; one that was read before counts no more."""
    found = into or Returned()
    for message in messages_in(data):
        bounces = bounces_in(message)
        found.others += not bounces
        for bounce in bounces:
            _count(workshop, bounce, found)
    return found


def _count(workshop: Workshop, bounce: Bounce, found: Returned) -> None:
    """Counts a letter of ours; one without the Message-ID that only its recipient can know counts for nothing, so that nobody sets another's address aside."""
    known = read_message_id(bounce.message_id)
    subscriber = subscribers.by_id(workshop.db, known[1]) if known else None
    if (
        not bounce.is_final
        or known is None
        or subscriber is None
        or not is_sealed(known[0], subscriber.key, known[2])
    ):
        found.others += 1
        return
    found.final += 1
    with changing(workshop):
        if mailings.set_bounced(workshop.db, known[0], subscriber.id, bounce.reason, workshop.clock()):
            found.new += 1
            subscribers.count_bounce(workshop.db, subscriber.id, bounce.reason, MOST_BOUNCES)
            after = subscribers.by_id(workshop.db, subscriber.id)
            found.aside += after is not None and after.state == ASIDE != subscriber.state


def fetch(workshop: Workshop) -> Returned:
    """The same of the mailbox to which letters come back. Raises Broken."""
    found = Returned()

    def take(message: bytes) -> None:
        read(workshop, message, found)

    workshop.services.returned_mail.fetch(take)
    return found

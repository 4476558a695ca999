"""Rate limits for passwords, letters and comments, by account, network and device; counted before anything is checked."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import TooSoon
from mobbet.core.networks import one_client
from mobbet.core.pacing import WINDOW, wait
from mobbet.store import people


def count_try(workshop: Workshop, *keys: tuple[str, str]) -> None:
    """Counts a try under each (kind of `core/pacing.PACES`, whose), all or none.

    Looking and counting are one transaction, so that many tries at once are as slow as one after the other. Raises TooSoon, and counts nothing then.
    """
    now = workshop.clock()
    with changing(workshop):
        longest = max(
            wait(kind, *people.tries(workshop.db, _key(kind, whose), now - WINDOW), now)
            for kind, whose in keys
        )
        if longest > 0:
            raise TooSoon(
                f"Too many tries; wait {longest} second{'s' if longest != 1 else ''} and try again.", longest
            )
        people.forget_tries_before(workshop.db, now - WINDOW)
        for kind, whose in keys:
            people.add_try(workshop.db, _key(kind, whose), now)


def forget_tries(workshop: Workshop, *keys: tuple[str, str]) -> None:
    """Forgets tries, since the last one was right."""
    with changing(workshop):
        for kind, whose in keys:
            people.forget_tries(workshop.db, _key(kind, whose))


def network(address: str) -> tuple[str, str]:
    """The key of a client's network."""
    return "network", one_client(address)


def _key(kind: str, whose: str) -> str:
    return f"{kind}:{whose}"[:400]

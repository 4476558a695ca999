"""Checks the outgoing links of all posts in the background, each address once a week."""

from __future__ import annotations

from mobbet.actions import menus
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.web_addresses import split_address
from mobbet.store import blogs, proofs
from mobbet.store.proofs import LinkAnswer

WEEK, DAY, HOUR = 7 * 86400, 86400, 3600
AT_ONCE = 12


def try_some(workshop: Workshop, most: int = AT_ONCE) -> int:
    """Asks some addresses that are due, one of each host, and keeps what came back; answers with how many.

    A place that fails is asked again after an hour, and told of only when it fails again.
    """
    asked: set[str] = set()
    every, now = blogs.every(workshop.db), workshop.clock()
    homes = tuple(blog.home for blog in every)
    of_menus = [
        address for blog in every if blog.tries_links for address in menus.addresses_away(workshop, blog)
    ]
    found = [*proofs.due(workshop.db, of_menus, now), *proofs.to_ask(workshop.db, now, most * 4)]
    for address in dict.fromkeys(found):
        host = split_address(address).hostname or ""
        if address.startswith(homes):
            _keep(
                workshop,
                LinkAnswer(address, workshop.clock(), workshop.clock() + WEEK, "", "", workshop.clock(), 0),
            )
        elif host not in asked and len(asked) < most:
            asked.add(host)
            _ask(workshop, address)
    return len(asked)


def _ask(workshop: Workshop, address: str) -> None:
    before = proofs.answers(workshop.db, [address]).get(address)
    told, now = workshop.services.ask(address), workshop.clock()
    if not told.is_known:
        since = before.since if before else now
        _keep(
            workshop,
            LinkAnswer(
                address,
                now,
                now + max(told.wait, DAY),
                before.problem if before else "",
                before.ends_at if before else "",
                since,
                before.tries if before else 0,
            ),
        )
        return
    is_same = before is not None and before.problem == told.problem and before.ends_at == told.ends_at
    tries = (before.tries if before and before.problem else 0) + 1 if told.problem else 0
    pause = WEEK if not told.problem else HOUR if tries == 1 else DAY if tries < 7 else WEEK
    _keep(
        workshop,
        LinkAnswer(
            address,
            now,
            now + pause,
            told.problem,
            told.ends_at,
            before.since if before and is_same else now,
            tries,
        ),
    )
    if not is_same or tries == 2:
        with changing(workshop):
            proofs.forget_read(workshop.db, proofs.posts_leading_to(workshop.db, address))


def _keep(workshop: Workshop, answer: LinkAnswer) -> None:
    with changing(workshop):
        proofs.set_answer(workshop.db, answer)

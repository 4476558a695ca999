"""Tells people's devices of what waits (Web Push): what each device wants, and the sending of notices."""

from __future__ import annotations

import json
from collections.abc import Iterable

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Broken, NotTaken
from mobbet.core.names import one_line
from mobbet.core.pushes import Device
from mobbet.store import people, push
from mobbet.store.people import Person

AT_ONCE, MOST_FAILURES, MOST_DEVICES = 20, 5, 20
LONGEST = 200
_ABOUT = "the key of notices to devices"
GONE = (404, 410)
"""Answers of a push service that knows a device no more (RFC 8030, 7.3)."""


def public_key(workshop: Workshop) -> str:
    """The key by which browsers know this server; made when it is first asked for."""
    known = push.key(workshop.db)
    if known is None:
        with changing(workshop):
            known = push.key(workshop.db) or _made(workshop)
    return known[1]


def _made(workshop: Workshop) -> tuple[str, str]:
    from mobbet.services import pushing  # with its cryptography, which most commands do without
    from mobbet.services.vault import Vault

    private, public = pushing.new_key()
    sealed = Vault(workshop.settings.sealing_key).seal(private, _ABOUT)
    push.keep_key(workshop.db, sealed, public)
    return sealed, public


def choose(workshop: Workshop, person: Person, device: Device, kinds: tuple[str, ...]) -> None:
    """Chooses what a device of one's own is told of; nothing takes it off the list. Raises BadInput for too many devices."""
    with changing(workshop):
        push.drop_device(workshop.db, device.endpoint)
        if push.count(workshop.db, person.id) >= MOST_DEVICES:
            raise BadInput(
                f"{MOST_DEVICES} of your devices are told of things already; turn one of them off first.",
                "kinds",
            )
        if kinds:
            push.keep_device(workshop.db, person.id, device, kinds, workshop.clock())


def tell(workshop: Workshop, whom: Iterable[Person], kind: str, words: str, address: str) -> None:
    """Notes what to tell those who want to hear of such things; within a unit of work. It is sent soon after."""
    for person in whom:
        if push.devices(workshop.db, person.id, kind):
            push.add_notice(
                workshop.db, person.id, kind, one_line(words)[:LONGEST], address, workshop.clock()
            )


def send_waiting(workshop: Workshop) -> int:
    """Sends notices to devices, each at most once; answers with how many reached a push service."""
    sent = 0
    for notice in push.waiting(workshop.db, AT_ONCE):
        with changing(workshop):
            push.drop_notice(workshop.db, notice.id)
        if people.by_id(workshop.db, notice.person_id) is None:
            continue
        payload = json.dumps({"kind": notice.kind, "words": notice.words, "address": notice.address}).encode()
        for device in push.devices(workshop.db, notice.person_id, notice.kind):
            sent += _send(workshop, device, payload)
    return sent


def _send(workshop: Workshop, device: Device, payload: bytes) -> bool:
    from mobbet.services import pushing
    from mobbet.services.vault import Vault

    known = push.key(workshop.db)
    if known is None:
        return False
    try:
        private = Vault(workshop.settings.sealing_key).open(known[0], _ABOUT)
        subject = f"mailto:{workshop.settings.mail_from or 'nobody@localhost'}"
        headers = pushing.headers_of(private, device.endpoint, subject, workshop.clock())
        status = workshop.services.pages.send(device.endpoint, pushing.encrypted(payload, device), headers)
    except (NotTaken, Broken):
        status = 0
    with changing(workshop):
        if 200 <= status < 300:
            push.note_success(workshop.db, device.endpoint)
        elif status in GONE:
            push.drop_device(workshop.db, device.endpoint)
        else:
            push.note_failure(workshop.db, device.endpoint, MOST_FAILURES)
    return 200 <= status < 300

"""Sends editions to places outside: only the differences, so that no page links to one that is not there yet."""

from __future__ import annotations

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, replace
from functools import partial

from mobbet.actions import static_search
from mobbet.actions.access import require
from mobbet.actions.recording import note
from mobbet.actions.target_files import files_of, stage_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Broken, MobbetError, NotAllowed, NotFound, Refused
from mobbet.core.places_outside import (
    Credentials,
    Place,
    check_allowed,
    check_credentials,
    is_same_or_within,
    read_credentials,
    read_place,
    shown,
)
from mobbet.core.rights import Action
from mobbet.core.values import existing
from mobbet.publish.targets.folder import file_of
from mobbet.publish.targets.host import File, Host
from mobbet.publish.targets.opening import open_host
from mobbet.services.vault import Vault
from mobbet.store import blogs, editions, targets
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.targets import Lying, Target

FIRST_PAUSE, LONGEST_PAUSE = 15, 3600
BATCH = 64
"""After so many files it is written down what has arrived."""


@dataclass(frozen=True)
class Sent:
    """What a sending came to."""

    edition: int
    written: int
    removed: int
    files: int


@dataclass(frozen=True)
class Checked:
    """What a comparison of fingerprints found at a target."""

    files: int
    missing: list[str]
    altered: list[str]
    left: list[str]
    strange: list[str]


def add(
    workshop: Workshop, person: Person, blog: Blog, address: str, credentials: Credentials = Credentials()
) -> Target:
    """A new place to send the site of a blog to, with what it asks for.

    Raises BadInput, NotAllowed for what the operator does not name, and Broken or Refused where it cannot be reached.
    """
    require(workshop, person, blog, Action.OWN_HOUSE)
    place, password = read_place(address)
    credentials = check_credentials(replace(credentials, secret=credentials.secret or password))
    check_allowed(place, workshop.settings.allowed, workshop.settings.data)
    _check_alone(workshop, blog, place)
    open_host(place, workshop.settings.allowed, credentials).close()
    with changing(workshop):
        _check_alone(workshop, blog, place)
        number = targets.add(workshop.db, blog.id, str(place), workshop.clock())
        if credentials != Credentials():
            targets.set_credentials(
                workshop.db, number, _vault(workshop).seal(credentials.kept(), _about(str(place)))
            )
        note(workshop, person, "place-added", blog.id, shown(str(place)))
        return existing(targets.by_id(workshop.db, number))


def renew_credentials(workshop: Workshop, person: Person, target: Target, credentials: Credentials) -> None:
    """Gives a place other credentials, once it has taken them. Raises what `add` raises."""
    require(workshop, person, existing(blogs.by_id(workshop.db, target.blog_id)), Action.OWN_HOUSE)
    credentials = check_credentials(credentials)
    place, _ = read_place(target.address)
    check_allowed(place, workshop.settings.allowed, workshop.settings.data)
    open_host(place, workshop.settings.allowed, credentials).close()
    with changing(workshop):
        targets.set_credentials(
            workshop.db, target.id, _vault(workshop).seal(credentials.kept(), _about(target.address))
        )
        targets.try_now(workshop.db, target.id)
        note(workshop, person, "place-credentials", target.blog_id, shown(target.address))


def _check_alone(workshop: Workshop, blog: Blog, place: Place) -> None:
    """Raises BadInput where something else is sent to the same place, or within it, or around it."""
    for other in targets.every(workshop.db):
        with suppress(BadInput):
            if is_same_or_within(place, read_place(other.address)[0]):
                whose = (
                    f"The site is sent to {shown(other.address)} already"
                    if other.blog_id == blog.id
                    else "Another blog is sent there"
                )
                raise NotAllowed(f"{whose}; a place belongs to one blog, so name another one.")


def _open(workshop: Workshop, target: Target) -> Host:
    """The place of a target, judged anew, since the operator may have changed what is allowed. Raises what opening raises."""
    place, password = read_place(target.address)
    check_allowed(place, workshop.settings.allowed, workshop.settings.data)
    kept = _vault(workshop).open(target.credentials, _about(target.address)) if target.credentials else ""
    credentials = read_credentials(kept)
    return open_host(
        place, workshop.settings.allowed, replace(credentials, secret=credentials.secret or password)
    )


def _vault(workshop: Workshop) -> Vault:
    return Vault(workshop.settings.sealing_key)


def _about(address: str) -> str:
    """What sealed credentials are bound to."""
    return f"target {address}"


def remove(workshop: Workshop, person: Person, blog: Blog, number: int) -> None:
    """Sends nothing there any more; what lies there stays."""
    require(workshop, person, blog, Action.OWN_HOUSE)
    target = target_of(workshop, blog, number)
    with changing(workshop):
        targets.remove(workshop.db, target.id)
        note(workshop, person, "place-removed", blog.id, shown(target.address))


def target_of(workshop: Workshop, blog: Blog, number: int) -> Target:
    found = targets.by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound("This place is no more; reload the page.")
    return found


def is_due(workshop: Workshop, target: Target) -> bool:
    """Whether a target is behind and may be tried now."""
    if target.next_try > workshop.clock():
        return False
    if target.edition < editions.current_number(workshop.db, target.blog_id):
        return True
    return static_search.is_time(workshop, existing(blogs.by_id(workshop.db, target.blog_id)))


def try_to_send(workshop: Workshop, blog: Blog, target: Target) -> Sent | None:
    """Sends what differs; where it fails, notes why and when to try again. None where another process is at it, or it failed."""
    try:
        with only_sender(workshop, target) as is_only:
            return send(workshop, blog, target) if is_only else None
    except MobbetError as error:
        pause = min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** min(target.tries, 12))
        with changing(workshop):
            targets.set_failed(workshop.db, target.id, str(error), workshop.clock() + pause)
        return None


@contextmanager
def only_sender(workshop: Workshop, target: Target) -> Iterator[bool]:
    """True for one process at a time; the system takes the lock away from one that dies."""
    with (workshop.settings.data / f"target-{target.id}.lock").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            yield False
            return
        yield True


def send(workshop: Workshop, blog: Blog, target: Target) -> Sent:
    """Sends the current edition: files and posts first, then lists, and at last removals. What has arrived is written down
    as it goes, so that a broken line goes on where it was. Raises Broken.
    """
    static_search.bring_up_to_date(workshop, blog)
    number = editions.current_number(workshop.db, blog.id)
    wanted = {name: (hash, file) for name, hash, file in files_of(workshop, blog)}
    there = targets.files(workshop.db, target.id)
    put = [name for name, (hash, _) in wanted.items() if name not in there or there[name].hash != hash]
    gone = sorted(there.keys() - wanted.keys())
    host = _open(workshop, target)
    try:
        progress = _Progress(workshop, target, len(put))
        for stage in (0, 1, 2):
            names = [name for name in put if stage_of(wanted[name][1]) == stage]
            for at in range(0, len(names), BATCH):
                batch = {name: wanted[name] for name in names[at : at + BATCH]}
                progress.send(host, batch)
        host.remove(gone)
        host.finish(wanted)
    finally:
        with suppress(Broken):
            host.close()
    with changing(workshop):
        targets.set_files(workshop.db, target.id, {}, gone)
        targets.set_sent(workshop.db, target.id, number, workshop.clock())
    return Sent(number, len(put), len(gone), len(wanted))


class _Progress:
    """Sends batches and writes down what arrived, also of one that broke off.

    What is on its way is written down before: of a sending that was killed nobody knows whether it lies there, and it must be removed
    where it has left the site meanwhile.
    """

    def __init__(self, workshop: Workshop, target: Target, wanted: int) -> None:
        self._workshop, self._target, self._wanted, self._done = workshop, target, wanted, 0
        self._note({})

    def send(self, host: Host, batch: dict[str, tuple[str, File]]) -> None:
        arrived: dict[str, Lying] = {}
        prints: dict[str, str] = {}

        def read(file: File) -> bytes:
            body = file.read()
            prints[file.name] = host.fingerprint(body)
            return body

        self._note(dict.fromkeys(batch, Lying("")))
        try:
            files = (replace(file, read=partial(read, file)) for _, file in batch.values())
            host.put(
                files, lambda file: arrived.update({file.name: Lying(batch[file.name][0], prints[file.name])})
            )
        finally:
            self._note(arrived)

    def _note(self, files: dict[str, Lying]) -> None:
        self._done += sum(bool(one.hash) for one in files.values())
        with changing(self._workshop):
            targets.set_files(self._workshop.db, self._target.id, files, [])
            targets.set_progress(self._workshop.db, self._target.id, self._done, self._wanted)


def check(workshop: Workshop, person: Person, blog: Blog, target: Target) -> Checked:
    """Compares the fingerprints of what lies at a target with what should; what differs is sent the next time, and what an earlier edition
    left there is removed then. Raises Broken, Refused.
    """
    require(workshop, person, blog, Action.OWN_HOUSE)
    with only_sender(workshop, target) as is_only:
        if not is_only:
            raise Refused("It is being sent just now; check it when it is done.")
        known = targets.files(workshop.db, target.id)
        host = _open(workshop, target)
        try:
            there = host.fingerprints()
            all_wanted = {name: file for name, _, file in files_of(workshop, blog)}
            wanted = {
                name: known[name].fingerprint or host.fingerprint(file.read())
                for name, file in all_wanted.items()
                if name in known
            }
        finally:
            with suppress(Broken):
                host.close()
    missing = sorted(wanted.keys() - there.keys())
    altered = sorted(
        name for name, print_there in there.items() if name in wanted and wanted[name] != print_there
    )
    others = there.keys() - all_wanted.keys()
    left = sorted(others & {*known, *map(file_of, editions.ever_at(workshop.db, blog.id))})
    with changing(workshop):
        targets.set_files(workshop.db, target.id, dict.fromkeys([*altered, *left], Lying("")), missing)
        targets.set_checked(workshop.db, target.id, workshop.clock())
        if missing or altered or left:
            targets.set_behind(workshop.db, target.id)
    return Checked(len(wanted), missing, altered, left, sorted(others - {*left}))


def try_again(workshop: Workshop, person: Person, target: Target) -> None:
    """Does not wait for the pause after a failure to end."""
    require(workshop, person, existing(blogs.by_id(workshop.db, target.blog_id)), Action.OWN_HOUSE)
    with changing(workshop):
        targets.try_now(workshop.db, target.id)

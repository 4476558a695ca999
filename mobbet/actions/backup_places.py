"""Where the server sends backups by itself, when, and what came of it; for those who own every blog of the server."""

from __future__ import annotations

import os
from dataclasses import dataclass, replace

from mobbet.actions import backups
from mobbet.actions.access import require_every_blog
from mobbet.actions.backups import Checked, Made, Opened, OpenFolder
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.backups import KEY_BYTES, Every, is_due, read_key, written_key
from mobbet.core.errors import BadInput, MobbetError, NotFound
from mobbet.core.places_outside import (
    Credentials,
    check_allowed,
    check_credentials,
    is_same_or_within,
    read_credentials,
    read_place,
    shown,
)
from mobbet.core.values import existing
from mobbet.services.vault import Vault
from mobbet.store import backups as store
from mobbet.store import targets
from mobbet.store.backups import BackupCopy, BackupPlace
from mobbet.store.people import Person

FIRST_PAUSE, LONGEST_PAUSE = 60, 6 * 3600
CHECKS = {"each": 0, "day": 86400, "week": 7 * 86400}
"""{how often a copy is checked: the seconds since the last check after which another one is}."""
LATE = {Every.HOUR: 6 * 3600, Every.DAY: 2 * 86400, Every.WEEK: 9 * 86400}
"""Seconds without a good copy after which the desk says so."""


@dataclass(frozen=True)
class Rhythm:
    """How often a backup is made, at which hour of the day, and how often a copy is checked: 'each', once a 'day' or a 'week'."""

    every: Every = Every.DAY
    hour: int = 3
    checks: str = "day"


def read_rhythm(every: str, hour: str, checks: str) -> Rhythm:
    """Raises BadInput for what is none of the choices."""
    if every not in list(Every):
        raise BadInput(f"“{every[:40]}” is no time for a backup; choose every hour, day or week.", "every")
    if not hour.isdecimal() or int(hour[:3]) > 23:
        raise BadInput(f"“{hour[:40]}” is no hour; choose one from 0 to 23.", "hour")
    if checks not in CHECKS:
        raise BadInput(
            f"“{checks[:40]}” is no rule for checking; choose each copy, once a day or a week.", "checks"
        )
    return Rhythm(Every(every), int(hour), checks)


def add(
    workshop: Workshop,
    person: Person,
    address: str,
    credentials: Credentials,
    key: str,
    rhythm: Rhythm,
    zone: str,
) -> tuple[BackupPlace, str]:
    """A new place for backups, and the key that is shown this once; '' for a place that is not encrypted.

    `key` is '' for none, `new` for a new one, or the key of the backups that lie there already. Raises BadInput, NotAllowed for what the
    operator does not name, and Broken or Refused where the place cannot be used.
    """
    require_every_blog(workshop, person)
    place, password = read_place(address)
    credentials = check_credentials(replace(credentials, secret=credentials.secret or password))
    check_allowed(place, workshop.settings.allowed, workshop.settings.data)
    if store.at(workshop.db, str(place)):
        raise BadInput(f"Backups go to {shown(str(place))} already; name another place.", "address")
    for one in targets.every(workshop.db):
        if is_same_or_within(place, read_place(one.address)[0]):
            raise BadInput("A site is sent there; name a place for backups alone.", "address")
    made = os.urandom(KEY_BYTES) if key == "new" else read_key(key) if key else None
    with backups.open_place(
        place, workshop.settings.allowed, credentials, made, workshop.settings.data
    ) as files:
        files.begin()
    vault = _vault(workshop)
    about = _about(str(place))
    with changing(workshop, person):
        number = store.add(
            workshop.db, str(place), vault.seal(credentials.kept(), about), vault.seal(written_key(made), about) if made else "",
            rhythm.every, rhythm.hour, zone, rhythm.checks, workshop.clock(),
        )  # fmt: skip
        note(workshop, person, "backup-place-added", None, shown(str(place)))
        return existing(store.by_id(workshop.db, number)), written_key(made) if key == "new" and made else ""


def set_rhythm(workshop: Workshop, person: Person, number: int, rhythm: Rhythm, zone: str) -> None:
    require_every_blog(workshop, person)
    place = place_of(workshop, number)
    with changing(workshop, person):
        store.set_rhythm(workshop.db, place.id, rhythm.every, rhythm.hour, zone, rhythm.checks)
        note(workshop, person, "backup-place-changed", None, shown(place.address))


def remove(workshop: Workshop, person: Person, number: int) -> None:
    """Makes no more backups there; those that lie there stay."""
    require_every_blog(workshop, person)
    place = place_of(workshop, number)
    with changing(workshop, person):
        store.remove(workshop.db, place.id)
        note(workshop, person, "backup-place-removed", None, shown(place.address))


def ask_now(workshop: Workshop, person: Person, number: int) -> None:
    """Has a backup made as soon as the server looks, whatever its time."""
    require_every_blog(workshop, person)
    with changing(workshop, person):
        store.ask_now(workshop.db, place_of(workshop, number).id)


def place_of(workshop: Workshop, number: int) -> BackupPlace:
    place = store.by_id(workshop.db, number)
    if place is None:
        raise NotFound("This place for backups is no more; reload the page.")
    return place


def due(workshop: Workshop) -> list[BackupPlace]:
    """The places whose turn it is."""
    return [place for place in store.every(workshop.db) if _is_due(workshop, place)]


def _is_due(workshop: Workshop, place: BackupPlace) -> bool:
    now = workshop.clock()
    if place.next_try > now:
        return False
    last = next(iter(store.copies(workshop.db, place.id)), None)
    return bool(place.is_asked) or is_due(
        Every(place.every), place.hour, place.zone, last.at if last else None, now
    )


def run(workshop: Workshop, place: BackupPlace, open_folder: OpenFolder) -> BackupCopy | None:
    """Makes a backup, checks it where that is due, and removes old copies; None where it failed, which is noted and tried again."""
    try:
        with _open(workshop, place) as files, backups.alone(workshop.settings.data):
            made = backups.make(workshop, files)
            _note(workshop, place, made)
            if _check_is_due(workshop, place):
                _note_checked(
                    workshop, place, made.copy.at, backups.check(workshop, files, made.copy.at, open_folder)
                )
            good = next((one.at for one in store.copies(workshop.db, place.id) if one.is_good), None)
            backups.remove_old(workshop, files, good)
            with changing(workshop):
                store.keep_only(workshop.db, place.id, set(files.copies()))
                store.set_done(workshop.db, place.id)
    except MobbetError as error:
        pause = min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** min(place.tries, 12))
        with changing(workshop):
            store.set_failed(workshop.db, place.id, str(error), workshop.clock() + pause)
        return None
    return next(iter(store.copies(workshop.db, place.id)), None)


def _note(workshop: Workshop, place: BackupPlace, made: Made) -> None:
    one = made.copy
    with changing(workshop):
        store.note(
            workshop.db,
            BackupCopy(place.id, one.at, made.seconds, one.size, made.sent, one.file_count, one.posts),
        )


def _check_is_due(workshop: Workshop, place: BackupPlace) -> bool:
    checked = [one.checked_at for one in store.copies(workshop.db, place.id) if one.checked_at is not None]
    return not checked or workshop.clock() - max(checked) >= CHECKS[place.checks]


def _note_checked(workshop: Workshop, place: BackupPlace, at: int, checked: Checked) -> None:
    with changing(workshop):
        store.set_checked(workshop.db, place.id, at, workshop.clock(), checked.seconds, checked.problem)


def _open(workshop: Workshop, place: BackupPlace) -> Opened:
    """The place, judged anew, since the operator may have changed what is allowed."""
    read, _ = read_place(place.address)
    check_allowed(read, workshop.settings.allowed, workshop.settings.data)
    vault, about = _vault(workshop), _about(place.address)
    key = read_key(vault.open(place.key, about)) if place.key else None
    credentials = read_credentials(vault.open(place.credentials, about) if place.credentials else "")
    return backups.open_place(read, workshop.settings.allowed, credentials, key, workshop.settings.data)


def _vault(workshop: Workshop) -> Vault:
    return Vault(workshop.settings.sealing_key)


def _about(address: str) -> str:
    """What sealed credentials are bound to."""
    return f"backups {address}"


@dataclass(frozen=True)
class Standing:
    """How backups stand: the newest good copy, those that could not be read back since, and whether there is no good one for long."""

    good: BackupCopy | None
    bad: tuple[BackupCopy, ...]
    is_late: bool


def standing(workshop: Workshop) -> Standing | None:
    """None where no backup is made by this server."""
    places = store.every(workshop.db)
    if not places:
        return None
    copies = {place.id: store.copies(workshop.db, place.id) for place in places}
    good = max(
        (one for each in copies.values() for one in each if one.is_good), key=lambda one: one.at, default=None
    )
    bad = tuple(
        one for each in copies.values() for one in each if one.problem and (good is None or one.at > good.at)
    )
    since = good.at if good else min(place.made_at for place in places)
    late = workshop.clock() - since > min(
        max(LATE[Every(one.every)], CHECKS[one.checks] + 86400) for one in places
    )
    return Standing(good, bad, late)

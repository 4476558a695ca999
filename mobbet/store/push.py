"""Devices that are told of what waits, and the notices on their way to them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.pushes import Device
from mobbet.store.database import Database


@dataclass(frozen=True)
class Notice:
    """A notice that waits to be sent to the devices of a person."""

    id: int
    person_id: int
    kind: str
    words: str
    address: str


def key(db: Database) -> tuple[str, str] | None:
    """(the sealed private key, the public one) of this server."""
    row = db.one("SELECT sealed, public FROM push_key")
    return (row[0], row[1]) if row else None


def keep_key(db: Database, sealed: str, public: str) -> None:
    db.run("INSERT OR REPLACE INTO push_key (id, sealed, public) VALUES (1, ?, ?)", sealed, public)


def keep_device(db: Database, person_id: int, device: Device, kinds: tuple[str, ...], now: int) -> None:
    """Keeps what a device is told of; a device has one person, who used it last."""
    db.run(
        "INSERT OR REPLACE INTO push_device (endpoint, person_id, public_key, secret, kinds, added_at) VALUES (?, ?, ?, ?, ?, ?)",
        device.endpoint, person_id, device.public_key, device.secret, " ".join(kinds), now,
    )  # fmt: skip


def drop_device(db: Database, endpoint: str) -> None:
    db.run("DELETE FROM push_device WHERE endpoint = ?", endpoint)


def count(db: Database, person_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM push_device WHERE person_id = ?", person_id)


def kinds_of(db: Database, person_id: int, endpoint: str) -> tuple[str, ...]:
    text = db.value("SELECT kinds FROM push_device WHERE endpoint = ? AND person_id = ?", endpoint, person_id)
    return tuple((text or "").split())


def devices(db: Database, person_id: int, kind: str) -> list[Device]:
    """The devices of a person that are told of a kind of notice."""
    rows = db.all(
        "SELECT endpoint, public_key, secret FROM push_device WHERE person_id = ? AND INSTR(' ' || kinds || ' ', ' ' || ? || ' ')",
        person_id,
        kind,
    )
    return [Device(*row) for row in rows]


def note_failure(db: Database, endpoint: str, most: int) -> None:
    """Counts a failure; a device that failed so often in a row is dropped."""
    db.run("UPDATE push_device SET failures = failures + 1 WHERE endpoint = ?", endpoint)
    db.run("DELETE FROM push_device WHERE endpoint = ? AND failures >= ?", endpoint, most)


def note_success(db: Database, endpoint: str) -> None:
    db.run("UPDATE push_device SET failures = 0 WHERE endpoint = ? AND failures > 0", endpoint)


def add_notice(db: Database, person_id: int, kind: str, words: str, address: str, now: int) -> None:
    db.run(
        "INSERT INTO push_notice (person_id, kind, words, address, noted_at) VALUES (?, ?, ?, ?, ?)",
        person_id, kind, words, address, now,
    )  # fmt: skip


def waiting(db: Database, most: int) -> list[Notice]:
    rows = db.all("SELECT id, person_id, kind, words, address FROM push_notice ORDER BY id LIMIT ?", most)
    return [Notice(*row) for row in rows]


def drop_notice(db: Database, number: int) -> None:
    db.run("DELETE FROM push_notice WHERE id = ?", number)

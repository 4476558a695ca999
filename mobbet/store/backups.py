"""Where backups go, and what is known of the copies there."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class BackupPlace:
    """Where backups go, when, how often one is checked, and what went wrong last. `credentials` and `key` are sealed."""

    id: int
    address: str
    credentials: str
    key: str
    every: str
    hour: int
    zone: str
    checks: str
    made_at: int
    is_asked: int
    tries: int
    next_try: int
    problem: str


@dataclass(frozen=True)
class BackupCopy:
    """A copy at a place: its instant, how long it took, its bytes and those that were sent for it, and what its check came to.

    `checked_at` is None for one that was not restored yet; `problem` is why it could not be.
    """

    place_id: int
    at: int
    seconds: float
    bytes: int
    sent: int
    files: int
    posts: int
    checked_at: int | None = None
    check_seconds: float | None = None
    problem: str = ""

    @property
    def is_good(self) -> bool:
        return self.checked_at is not None and not self.problem


def _place(row: Row) -> BackupPlace:
    return BackupPlace(**data_of(row))


def _copy(row: Row) -> BackupCopy:
    return BackupCopy(**data_of(row))


def every(db: Database) -> list[BackupPlace]:
    return [_place(row) for row in db.all("SELECT * FROM backup_place ORDER BY id")]


def by_id(db: Database, number: int) -> BackupPlace | None:
    return maybe(_place, db.one("SELECT * FROM backup_place WHERE id = ?", number))


def at(db: Database, address: str) -> BackupPlace | None:
    return maybe(_place, db.one("SELECT * FROM backup_place WHERE address = ?", address))


def add(
    db: Database,
    address: str,
    credentials: str,
    key: str,
    every: str,
    hour: int,
    zone: str,
    checks: str,
    now: int,
) -> int:
    return db.value(
        "INSERT INTO backup_place (address, credentials, key, every, hour, zone, checks, made_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
        address, credentials, key, every, hour, zone, checks, now,
    )  # fmt: skip


def set_rhythm(db: Database, number: int, every: str, hour: int, zone: str, checks: str) -> None:
    db.run(
        "UPDATE backup_place SET every = ?, hour = ?, zone = ?, checks = ? WHERE id = ?",
        every,
        hour,
        zone,
        checks,
        number,
    )


def remove(db: Database, number: int) -> None:
    db.run("DELETE FROM backup_place WHERE id = ?", number)


def ask_now(db: Database, number: int) -> None:
    db.run("UPDATE backup_place SET is_asked = 1, next_try = 0 WHERE id = ?", number)


def set_failed(db: Database, number: int, problem: str, next_try: int) -> None:
    db.run(
        "UPDATE backup_place SET problem = ?, next_try = ?, tries = tries + 1 WHERE id = ?",
        problem,
        next_try,
        number,
    )


def set_done(db: Database, number: int) -> None:
    db.run("UPDATE backup_place SET problem = '', tries = 0, next_try = 0, is_asked = 0 WHERE id = ?", number)


def copies(db: Database, place_id: int) -> list[BackupCopy]:
    """The copies at a place, the newest first."""
    return [
        _copy(row)
        for row in db.all("SELECT * FROM backup_copy WHERE place_id = ? ORDER BY at DESC", place_id)
    ]


def note(db: Database, copy: BackupCopy) -> None:
    db.run(
        "INSERT OR REPLACE INTO backup_copy VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        copy.place_id, copy.at, copy.seconds, copy.bytes, copy.sent, copy.files, copy.posts, copy.checked_at, copy.check_seconds, copy.problem,
    )  # fmt: skip


def set_checked(db: Database, place_id: int, at: int, now: int, seconds: float, problem: str) -> None:
    db.run(
        "UPDATE backup_copy SET checked_at = ?, check_seconds = ?, problem = ? WHERE place_id = ? AND at = ?",
        now,
        seconds,
        problem,
        place_id,
        at,
    )


def keep_only(db: Database, place_id: int, instants: set[int]) -> None:
    """Forgets the copies that are there no more."""
    for one in copies(db, place_id):
        if one.at not in instants:
            db.run("DELETE FROM backup_copy WHERE place_id = ? AND at = ?", place_id, one.at)


def post_count(db: Database, blog_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM post WHERE blog_id = ?", blog_id)


def let_nothing_go_twice(db: Database) -> int:
    """After a restore: letters that were on their way may have arrived since, so they end; what lies at places outside is
    not known, so it is sent anew. Answers how many letters were ended.
    """
    db.run("UPDATE target_file SET hash = ''")
    db.run("UPDATE target SET edition = 0")
    ended = db.run(
        "UPDATE delivery SET state = 'refused', problem = 'a backup was restored' WHERE state IN ('waiting', 'going')"
    )
    return ended.rowcount

"""Exports and imports that are worked through by a process of their own."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from mobbet.store.database import Database, Row, data_of, maybe

WAITS, GOES, LOOKED, DONE, STOPPED, FAILED = "waits", "goes", "looked", "done", "stopped", "failed"


@dataclass(frozen=True)
class Transfer:
    """One export, or one import: `source` is what it is made from, `settings` what was chosen, `report` what came of it. `total` is 0 while nobody knows it."""

    id: int
    blog_id: int
    person_id: int
    kind: str
    source: str
    settings: dict[str, Any]
    state: str
    is_dry: int
    stops: int
    done: int
    total: int
    made_at: int
    begun_at: int | None
    ended_at: int | None
    problem: str
    report: dict[str, Any]

    @property
    def is_open(self) -> bool:
        return self.state in (WAITS, GOES)


def _transfer(row: Row) -> Transfer:
    values = data_of(row)
    return Transfer(
        **{**values, "settings": json.loads(values["settings"]), "report": json.loads(values["report"])}
    )


def add(
    db: Database,
    blog_id: int,
    person_id: int,
    kind: str,
    source: str,
    settings: dict[str, Any],
    is_dry: bool,
    now: int,
) -> int:
    return db.value(
        "INSERT INTO transfer (blog_id, person_id, kind, source, settings, is_dry, made_at) VALUES (?, ?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id, person_id, kind, source, json.dumps(settings), int(is_dry), now,
    )  # fmt: skip


def by_id(db: Database, number: int) -> Transfer | None:
    return maybe(_transfer, db.one("SELECT * FROM transfer WHERE id = ?", number))


def of_blog(db: Database, blog_id: int, most: int) -> list[Transfer]:
    """Those of a blog, the newest first."""
    return [
        _transfer(row)
        for row in db.all("SELECT * FROM transfer WHERE blog_id = ? ORDER BY id DESC LIMIT ?", blog_id, most)
    ]


def oldest_waiting(db: Database) -> Transfer | None:
    """The one that comes next; one that was broken off comes again."""
    return maybe(
        _transfer, db.one("SELECT * FROM transfer WHERE state IN ('goes', 'waits') ORDER BY id LIMIT 1")
    )


def is_any_waiting(db: Database) -> bool:
    return bool(db.value("SELECT 1 FROM transfer WHERE state IN ('goes', 'waits') LIMIT 1"))


def count_since(db: Database, blog_id: int, kind: str, since: int) -> int:
    return db.value(
        "SELECT COUNT(*) FROM transfer WHERE blog_id = ? AND kind = ? AND made_at > ?", blog_id, kind, since
    )


def settle(db: Database, number: int, **values: Any) -> None:
    """Writes columns of one; `settings` and `report` as data."""
    kept = {
        name: json.dumps(value, ensure_ascii=False) if name in ("settings", "report") else value
        for name, value in values.items()
    }
    db.run(
        f"UPDATE transfer SET {', '.join(f'{name} = ?' for name in kept)} WHERE id = ?",
        *kept.values(),
        number,
    )


def ended_before(db: Database, instant: int) -> list[Transfer]:
    """Those that ended before an instant, whose files are not needed any more."""
    return [
        _transfer(row) for row in db.all("SELECT * FROM transfer WHERE ended_at < ? ORDER BY id", instant)
    ]


def forget(db: Database, number: int) -> None:
    db.run("DELETE FROM transfer WHERE id = ?", number)

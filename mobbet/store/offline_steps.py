"""Steps that were done without a network and carried out later, by their keys."""

from __future__ import annotations

import json
from typing import Any

from mobbet.store.database import Database


def facts(db: Database, person_id: int, key: str) -> dict[str, Any] | None:
    """What a step came to when it was carried out; None for one that was not."""
    text = db.value("SELECT facts FROM offline_step WHERE person_id = ? AND key = ?", person_id, key)
    return json.loads(text) if text is not None else None


def keep(db: Database, person_id: int, key: str, now: int, found: dict[str, Any]) -> None:
    db.run(
        "INSERT INTO offline_step (person_id, key, carried_out_at, facts) VALUES (?, ?, ?, ?)",
        person_id, key, now, json.dumps(found),
    )  # fmt: skip


def forget(db: Database, before: int) -> None:
    """Forgets what was carried out before an instant: nobody sends it again."""
    db.run("DELETE FROM offline_step WHERE carried_out_at < ?", before)

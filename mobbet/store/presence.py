"""Who has which post open now, in which tab, and where they write."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class Present:
    """Somebody in a writing room: the block of the text in which they write (-1 for none), and the heading above it."""

    person_id: int
    name: str
    tab: str
    block: int
    heading: str


def note(
    db: Database, post_id: int, person_id: int, tab: str, now: int, block: int, heading: str, most: int
) -> None:
    """Notes that a room is open; of one post so many are remembered."""
    db.run(
        "INSERT INTO present (post_id, person_id, tab, seen_there, block, heading) VALUES (?, ?, ?, ?, ?, ?)"
        " ON CONFLICT (post_id, person_id, tab) DO UPDATE SET seen_there = excluded.seen_there, block = excluded.block, heading = excluded.heading",
        post_id, person_id, tab, now, block, heading,
    )  # fmt: skip
    db.run(
        "DELETE FROM present WHERE post_id = ? AND (person_id, tab) NOT IN (SELECT person_id, tab FROM present WHERE post_id = ? ORDER BY seen_there DESC LIMIT ?)",
        post_id, post_id, most,
    )  # fmt: skip


def leave(db: Database, post_id: int, person_id: int, tab: str) -> None:
    db.run("DELETE FROM present WHERE post_id = ? AND person_id = ? AND tab = ?", post_id, person_id, tab)


def on(db: Database, post_id: int, since: int) -> list[Present]:
    """The rooms of a post that were heard of since an instant, the latest of each person first."""
    rows = db.all(
        "SELECT person_id, name, tab, block, heading FROM present JOIN person ON person.id = person_id WHERE post_id = ? AND seen_there >= ? ORDER BY name, seen_there DESC",
        post_id, since,
    )  # fmt: skip
    return [Present(*row) for row in rows]

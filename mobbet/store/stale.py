"""Stale posts and facts: what changed since the current edition. An edition deletes the notes it has read."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.keys import ChangedFact
from mobbet.store.database import Database


def mark_posts(db: Database, blog_id: int, *post_ids: int) -> None:
    """Notes that what readers get of these posts may have changed."""
    db.run_many(
        "INSERT INTO stale_post (blog_id, post_id) VALUES (?, ?)",
        [(blog_id, post_id) for post_id in post_ids],
    )


def mark_posts_of(db: Database, author_id: int, now: int) -> None:
    """Notes the posts of an author, in every blog, that are out or go out."""
    db.run(
        "INSERT INTO stale_post (blog_id, post_id) SELECT DISTINCT blog_id, post_id FROM placement WHERE author_id = ? AND shows_until > ?",
        author_id,
        now,
    )


def mark_fact(db: Database, blog_id: int, kind: str, which: int | str) -> None:
    """Notes that a fact changed which pages show beside the text of a post (`core.keys.ChangedFact`)."""
    db.run("INSERT INTO stale_fact (blog_id, fact) VALUES (?, ?)", blog_id, ChangedFact.of(kind, which))


@dataclass(frozen=True)
class Reason:
    """Why a change was made, and by whom; None for nobody."""

    sequence: int
    why: str
    person_id: int | None
    name: str | None


def add_reason(db: Database, blog_id: int, why: str, person_id: int | None) -> None:
    """Notes why something changed, for the edition that will have the change."""
    db.run("INSERT INTO stale_reason (blog_id, why, person_id) VALUES (?, ?, ?)", blog_id, why, person_id)


def reasons(db: Database, blog_id: int) -> list[Reason]:
    """Why the changes were made that are not published yet, in order."""
    rows = db.all(
        "SELECT sequence, why, person_id, person.name FROM stale_reason LEFT JOIN person ON person.id = person_id WHERE blog_id = ? ORDER BY sequence",
        blog_id,
    )
    return [Reason(*row) for row in rows]


def forget_reasons(db: Database, blog_id: int, up_to: int) -> None:
    """Removes the reasons up to this sequence number."""
    db.run("DELETE FROM stale_reason WHERE blog_id = ? AND sequence <= ?", blog_id, up_to)


def last_post(db: Database, blog_id: int) -> int:
    """The sequence number of the newest note about a post; 0 without any."""
    return db.value("SELECT MAX(sequence) FROM stale_post WHERE blog_id = ?", blog_id) or 0


def posts(db: Database, blog_id: int, up_to: int) -> list[int]:
    """The posts that were noted up to that sequence number."""
    rows = db.all(
        "SELECT DISTINCT post_id FROM stale_post WHERE blog_id = ? AND sequence <= ?", blog_id, up_to
    )
    return [row[0] for row in rows]


def facts(db: Database, blog_id: int) -> list[tuple[int, ChangedFact]]:
    """(sequence number, fact) of each note about a fact, in order."""
    rows = db.all("SELECT sequence, fact FROM stale_fact WHERE blog_id = ? ORDER BY sequence", blog_id)
    return [(row[0], ChangedFact(row[1])) for row in rows]


def forget(db: Database, blog_id: int, posts_up_to: int, facts_up_to: int) -> None:
    """Removes the notes up to these sequence numbers."""
    db.run("DELETE FROM stale_post WHERE blog_id = ? AND sequence <= ?", blog_id, posts_up_to)
    db.run("DELETE FROM stale_fact WHERE blog_id = ? AND sequence <= ?", blog_id, facts_up_to)


def last_notes(db: Database) -> tuple[int, int]:
    """The sequence numbers of the newest notes about posts and facts, of all blogs."""
    return (
        db.value("SELECT MAX(sequence) FROM stale_post") or 0,
        db.value("SELECT MAX(sequence) FROM stale_fact") or 0,
    )


def blogs_since(db: Database, notes: tuple[int, int]) -> set[int]:
    """The blogs of which something was noted after these sequence numbers."""
    rows = db.all(
        "SELECT blog_id FROM stale_post WHERE sequence > ? UNION SELECT blog_id FROM stale_fact WHERE sequence > ?",
        *notes,
    )
    return {row[0] for row in rows}

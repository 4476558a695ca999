"""Queries for the integrity check of the database."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.store.database import Database


def damage(db: Database) -> list[str]:
    """What SQLite finds wrong with the file and with its references."""
    lines = [row[0] for row in db.all("PRAGMA integrity_check") if row[0] != "ok"]
    return lines + [
        f"{row[0]} row {row[1]} refers to a missing {row[2]}" for row in db.all("PRAGMA foreign_key_check")
    ]


def posts_without_text(db: Database) -> list[int]:
    return [
        row[0]
        for row in db.all(
            "SELECT id FROM post WHERE NOT EXISTS (SELECT 1 FROM revision WHERE post_id = post.id AND number = post.revision)"
        )
    ]


def bodies(db: Database) -> Iterator[tuple[int, int, str]]:
    """(post, revision, document as JSON) of every revision."""
    for row in db.connection.execute("SELECT post_id, number, body FROM revision"):
        yield tuple(row)


def posts_with_wrong_time(db: Database) -> list[int]:
    """Posts whose kept times are not those of their newest placement that shows."""
    return [
        row[0]
        for row in db.all(
            "SELECT post.id FROM post LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id AND shows_from < shows_until)"
            " WHERE placed_for IS NOT goes_out OR placed_until IS NOT shows_until"
        )
    ]

"""The index by which readers search where a blog's site stands as files: what it came to, and its files."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class Made:
    """An index: when it was made, of which edition and posts, how many bytes it has, and how long it took."""

    made_at: int
    edition: int
    posts: frozenset[int]
    bytes: int
    milliseconds: int


def made(db: Database, blog_id: int) -> Made | None:
    row = db.one(
        "SELECT made_at, edition, posts, bytes, milliseconds FROM static_index WHERE blog_id = ?", blog_id
    )
    return Made(row[0], row[1], frozenset(json.loads(row[2])), row[3], row[4]) if row else None


def files(db: Database, blog_id: int) -> dict[str, str]:
    """{name below the folder of the index: hash}."""
    return dict(db.tuples("SELECT name, hash FROM static_index_file WHERE blog_id = ?", blog_id))


def hashes(db: Database) -> list[str]:
    """The hashes of the files of every blog's index."""
    return db.column("SELECT DISTINCT hash FROM static_index_file")


def keep(db: Database, blog_id: int, index: Made, found: Mapping[str, str]) -> None:
    """Keeps an index in the place of the one before."""
    db.run("DELETE FROM static_index_file WHERE blog_id = ?", blog_id)
    db.run(
        "INSERT OR REPLACE INTO static_index VALUES (?, ?, ?, ?, ?, ?)",
        blog_id, index.made_at, index.edition, _listed(index.posts), index.bytes, index.milliseconds,
    )  # fmt: skip
    db.run_many(
        "INSERT INTO static_index_file VALUES (?, ?, ?)",
        [(blog_id, name, hash) for name, hash in found.items()],
    )


def _listed(posts: Iterable[int]) -> str:
    return json.dumps(sorted(posts))


def forget(db: Database, blog_id: int) -> None:
    """Takes a blog's index away."""
    for table in ("static_index", "static_index_file"):
        db.run(f"DELETE FROM {table} WHERE blog_id = ?", blog_id)

"""Runs of imports, and what they brought."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of, maybe


@dataclass(frozen=True)
class ImportRun:
    """One import of a source, and when it was undone."""

    id: int
    blog_id: int
    source: str
    begun_at: int
    undone_at: int | None


@dataclass(frozen=True)
class Imported:
    """A post that a run brought, with its revision then."""

    key: str
    post_id: int
    revision: int


def begin(db: Database, blog_id: int, source: str, now: int) -> int:
    return db.value(
        "INSERT INTO import_run (blog_id, source, begun_at) VALUES (?, ?, ?) RETURNING id",
        blog_id,
        source,
        now,
    )


def run_by_id(db: Database, number: int) -> ImportRun | None:
    return maybe(
        lambda row: ImportRun(**data_of(row)), db.one("SELECT * FROM import_run WHERE id = ?", number)
    )


def runs(db: Database, blog_id: int) -> list[tuple[ImportRun, int]]:
    """The runs of a blog with how many of their posts are there, the newest first."""
    rows = db.all(
        "SELECT import_run.*, (SELECT COUNT(*) FROM imported WHERE run_id = import_run.id) AS posts FROM import_run WHERE blog_id = ? ORDER BY id DESC",
        blog_id,
    )
    return [(ImportRun(*tuple(row)[:5]), row["posts"]) for row in rows]


def known(db: Database, blog_id: int) -> dict[str, int]:
    """{key: post} of everything that was imported into a blog and is there."""
    return dict(db.tuples("SELECT key, post_id FROM imported WHERE blog_id = ?", blog_id))


def add(db: Database, blog_id: int, key: str, run_id: int, post_id: int, revision: int) -> None:
    db.run("INSERT INTO imported VALUES (?, ?, ?, ?, ?)", blog_id, key, run_id, post_id, revision)


def of_run(db: Database, run_id: int) -> list[Imported]:
    return [
        Imported(*row)
        for row in db.tuples("SELECT key, post_id, revision FROM imported WHERE run_id = ?", run_id)
    ]


def forget(db: Database, blog_id: int, key: str) -> None:
    db.run("DELETE FROM imported WHERE blog_id = ? AND key = ?", blog_id, key)


def set_undone(db: Database, run_id: int, now: int) -> None:
    db.run("UPDATE import_run SET undone_at = ? WHERE id = ?", now, run_id)

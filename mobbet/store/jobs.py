"""The queue of background jobs: waiting, running, and their progress."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of

MOST_TRIES = 3


@dataclass(frozen=True)
class Job:
    """One piece of work: making the files of an item. `progress` goes from 0 to 1."""

    id: int
    media_id: int
    state: str
    tries: int
    progress: float
    added_at: int


def add(db: Database, media_id: int, now: int) -> int:
    """Adds work on an item; one that waits already does for both."""
    waiting = db.value("SELECT id FROM job WHERE media_id = ? AND state = 'waiting'", media_id)
    return waiting or db.value(
        "INSERT INTO job (media_id, added_at) VALUES (?, ?) RETURNING id", media_id, now
    )


def claim(db: Database) -> Job | None:
    """The oldest work that waits, now being done; None when there is none."""
    with db.transaction():
        row = db.one(
            "UPDATE job SET state = 'working', tries = tries + 1, progress = 0 WHERE id = (SELECT MIN(id) FROM job WHERE state = 'waiting') RETURNING *"
        )
    return Job(**data_of(row)) if row else None


def free_abandoned(db: Database) -> int:
    """Lets work wait again that a worker which is gone had begun; called by the one worker there is."""
    with db.transaction():
        return db.run("UPDATE job SET state = 'waiting' WHERE state = 'working'").rowcount


def set_progress(db: Database, job_id: int, progress: float) -> None:
    with db.transaction():
        db.run("UPDATE job SET progress = ? WHERE id = ?", progress, job_id)


def end(db: Database, job_id: int, state: str) -> None:
    db.run("UPDATE job SET state = ?, progress = 1 WHERE id = ?", state, job_id)


def are_left(db: Database, blog_id: int) -> bool:
    """Whether work on files of a blog waits or is being done."""
    return (
        db.value(
            "SELECT 1 FROM job JOIN media ON media.id = media_id WHERE blog_id = ? AND job.state IN ('waiting', 'working') LIMIT 1",
            blog_id,
        )
        is not None
    )


def progress_of(db: Database, media_id: int) -> float | None:
    """How far the work on an item is; None when none is left."""
    return db.value(
        "SELECT progress FROM job WHERE media_id = ? AND state IN ('waiting', 'working') ORDER BY id LIMIT 1",
        media_id,
    )


def open_count(db: Database) -> int:
    return db.value("SELECT COUNT(*) FROM job WHERE state IN ('waiting', 'working')")

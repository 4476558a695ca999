"""Posts that are kept in step with files of a folder."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class Synced:
    """A post and its file: where it lies below the folder, and the digests of both when they were the same last."""

    post_id: int
    path: str
    file_digest: str
    post_digest: str


def of_folder(db: Database, blog_id: int, folder: str) -> dict[int, Synced]:
    """{post: how it stood} of a folder."""
    rows = db.tuples(
        "SELECT post_id, path, file_digest, post_digest FROM synced WHERE blog_id = ? AND folder = ?",
        blog_id,
        folder,
    )
    return {row[0]: Synced(*row) for row in rows}


def put(db: Database, blog_id: int, folder: str, row: Synced) -> None:
    db.run(
        "INSERT OR REPLACE INTO synced (blog_id, folder, post_id, path, file_digest, post_digest) VALUES (?, ?, ?, ?, ?, ?)",
        blog_id, folder, row.post_id, row.path, row.file_digest, row.post_digest,
    )  # fmt: skip


def forget(db: Database, blog_id: int, folder: str, post_id: int) -> None:
    db.run("DELETE FROM synced WHERE blog_id = ? AND folder = ? AND post_id = ?", blog_id, folder, post_id)


def posts_in_hand(db: Database, blog_id: int) -> list[int]:
    """The posts of a blog that the viewer may see, but for templates and those set aside, by number."""
    return db.column(
        f"SELECT id FROM post WHERE blog_id = ? AND aside_at IS NULL AND NOT is_template AND home_post IS NULL AND revision > 0 AND {db.sees()} ORDER BY id",
        blog_id,
    )

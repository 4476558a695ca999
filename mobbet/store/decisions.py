"""What was asked and said about posts going out; rows are added, never changed."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.approval import ASKED, BACK
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Decision:
    """One row: what was asked or said of a post, by whom, for which revision, readers and categories (joined by commas)."""

    id: int
    blog_id: int
    post_id: int
    kind: str
    person_id: int
    asked_of: int | None
    revision: int
    visibility: str
    categories: str
    outlasts: str
    remark: str
    decided_at: int


def _decision(row: Row) -> Decision:
    return Decision(**data_of(row))


def add(db: Database, row: Decision) -> None:
    db.run(
        "INSERT INTO decision (blog_id, post_id, kind, person_id, asked_of, revision, visibility, categories, outlasts, remark, decided_at)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        row.blog_id, row.post_id, row.kind, row.person_id, row.asked_of, row.revision, row.visibility, row.categories, row.outlasts, row.remark,
        row.decided_at,
    )  # fmt: skip


def newest(db: Database, post_id: int) -> Decision | None:
    return maybe(
        _decision, db.one("SELECT * FROM decision WHERE post_id = ? ORDER BY id DESC LIMIT 1", post_id)
    )


def latest_by(db: Database, post_id: int, person_id: int) -> Decision | None:
    """What somebody said of a post last, other than asking."""
    return maybe(_decision, db.one(
        f"SELECT * FROM decision WHERE post_id = ? AND person_id = ? AND kind <> '{ASKED}' ORDER BY id DESC LIMIT 1", post_id, person_id
    ))  # fmt: skip


def is_kept_for(db: Database, post_id: int) -> list[int]:
    """The revisions of a post that something was said about, which therefore stay."""
    return db.column("SELECT DISTINCT revision FROM decision WHERE post_id = ?", post_id)


_NEWEST = "decision.id = (SELECT MAX(id) FROM decision AS later WHERE later.post_id = decision.post_id)"


def waiting(db: Database, blog_id: int, most: int) -> list[Decision]:
    """The posts of a blog for which somebody's word is asked, the longest first."""
    return [
        _decision(row)
        for row in db.all(
            f"SELECT decision.* FROM decision JOIN post ON post.id = post_id WHERE decision.blog_id = ? AND decision.kind = '{ASKED}' AND {_NEWEST}"
            f" AND aside_at IS NULL AND {db.sees()} ORDER BY decision.id LIMIT ?",
            blog_id, most,
        )
    ]  # fmt: skip


def sent_back(db: Database, blog_id: int, author_id: int, most: int) -> list[Decision]:
    """The posts of an author that were sent back, the newest first."""
    return [
        _decision(row)
        for row in db.all(
            f"SELECT decision.* FROM decision JOIN post ON post.id = post_id WHERE decision.blog_id = ? AND decision.kind = '{BACK}' AND {_NEWEST}"
            " AND aside_at IS NULL AND author_id = ? ORDER BY decision.id DESC LIMIT ?",
            blog_id, author_id, most,
        )
    ]  # fmt: skip

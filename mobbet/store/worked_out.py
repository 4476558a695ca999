"""What editions worked out of posts, kept for the next one."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class WorkedOut:
    """A post's card, and its text for its page, packed; each with the digest of all it follows from ('' where there is none yet)."""

    post_id: int
    card_key: str = ""
    card: bytes = b""
    page_key: str = ""
    page: bytes = b""


def of_post(db: Database, post_id: int) -> WorkedOut | None:
    row = db.one("SELECT * FROM worked_out WHERE post_id = ?", post_id)
    return WorkedOut(*row) if row else None


def put(db: Database, rows: list[WorkedOut]) -> None:
    """Keeps these in the place of what was kept of the same posts; a post that is gone by now is left out."""
    db.run_many(
        "INSERT OR REPLACE INTO worked_out SELECT :post_id, :card_key, :card, :page_key, :page WHERE EXISTS (SELECT 1 FROM post WHERE id = :post_id)",
        [row.__dict__ for row in rows],
    )

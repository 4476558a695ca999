"""Search over titles and texts at the desk, with FTS5."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Stale:
    """A post whose newest text the index has not read; `body` is a document as JSON."""

    post_id: int
    title: str
    subtitle: str
    body: str


def stale(db: Database, blog_id: int, most: int) -> list[Stale]:
    """Posts that the index must read again."""
    return [
        Stale(**data_of(row))
        for row in db.all(
            "SELECT post.id AS post_id, revision.title AS title, subtitle, body FROM to_index CROSS JOIN post ON post.id = to_index.post_id"
            " CROSS JOIN revision ON revision.post_id = post.id AND number = post.revision WHERE blog_id = ? LIMIT ?",
            blog_id, most,
        )
    ]  # fmt: skip


def index(db: Database, post_id: int, title: str, text: str) -> None:
    """Puts the words of a post's revision in the index, in place of its earlier ones."""
    db.run("DELETE FROM post_text WHERE rowid = ?", post_id)
    db.run("INSERT INTO post_text (rowid, title, text) VALUES (?, ?, ?)", post_id, title, text)
    db.run("DELETE FROM to_index WHERE post_id = ?", post_id)


def forget(db: Database, post_id: int) -> None:
    """Takes a post's words out of the index."""
    db.run("DELETE FROM post_text WHERE rowid = ?", post_id)


def find_any(db: Database, blog_id: int, words: list[str], most: int) -> list[int]:
    """The posts that hold any of the words, those first that hold most of them."""
    query = " OR ".join(f'"{word}"' for word in words)
    return [
        row[0]
        for row in db.all(
            "SELECT post_text.rowid FROM post_text JOIN post ON post.id = post_text.rowid WHERE post_text MATCH ? AND blog_id = ? ORDER BY rank LIMIT ?",
            query,
            blog_id,
            most,
        )
    ]

"""Pages beside posts: those of a blog, and what stands below what."""

from __future__ import annotations

from mobbet.core.pages import DEEPEST
from mobbet.store.database import Database, data_of
from mobbet.store.posts import Post

MOST_LISTED = 500


def every(db: Database, blog_id: int) -> list[Post]:
    """The pages of a blog that are not set aside, of those that the viewer may be told of, by title."""
    rows = db.all(
        f"SELECT * FROM post WHERE blog_id = ? AND kind <> '' AND aside_at IS NULL AND is_template = 0 AND {db.sees()} ORDER BY FOLD(title), id LIMIT ?",
        blog_id,
        MOST_LISTED,
    )
    return [Post(**data_of(row)) for row in rows]


def of_number(db: Database, blog_id: int, number: int) -> Post | None:
    """A page of the blog, whoever may be told of it; its address follows from those above it."""
    row = db.one("SELECT * FROM post WHERE id = ? AND blog_id = ? AND kind <> ''", number, blog_id)
    return Post(**data_of(row)) if row else None


def depth_below(db: Database, post_id: int) -> int:
    """How many pages stand below one another below a page; 0 where none does."""
    return db.value(
        "WITH RECURSIVE part (id, depth) AS (SELECT ?, 0 UNION"
        " SELECT post.id, depth + 1 FROM post JOIN part ON post.below = part.id WHERE post.kind <> '' AND depth < ?) SELECT MAX(depth) FROM part",
        post_id, DEEPEST,
    )  # fmt: skip

"""Posts that stand in other blogs than their home: each is a post there, which follows the text and the times of that one."""

from __future__ import annotations

from mobbet.core.values import existing
from mobbet.store import stale
from mobbet.store.database import Database, data_of, maybe
from mobbet.store.posts import Post


def of(db: Database, post_id: int) -> list[Post]:
    """The posts of other blogs whose home a post is, but for those that were taken out again."""
    rows = db.all("SELECT * FROM post WHERE home_post = ? AND aside_at IS NULL ORDER BY id", post_id)
    return [Post(**data_of(row)) for row in rows]


def home(db: Database, post_id: int) -> Post:
    """A post that stands in other blogs too."""
    return Post(**data_of(existing(db.one("SELECT * FROM post WHERE id = ?", post_id))))


def in_blog(db: Database, post_id: int, blog_id: int) -> Post | None:
    """The one of them in a blog, also where it was taken out."""
    row = db.one("SELECT * FROM post WHERE home_post = ? AND blog_id = ?", post_id, blog_id)
    return maybe(lambda found: Post(**data_of(found)), row)


def set_home(db: Database, number: int, post_id: int) -> None:
    db.run("UPDATE post SET home_post = ? WHERE id = ?", post_id, number)


def set_followed(db: Database, number: int, state: str) -> None:
    """Keeps of which state of its home it was made last; '' for none."""
    db.run("UPDATE post SET followed = ? WHERE id = ?", state, number)


def homes_since(db: Database, notes: tuple[int, int]) -> list[int]:
    """The posts noted as stale after a sequence number that stand in other blogs too."""
    return db.column(
        "SELECT DISTINCT post_id FROM stale_post WHERE sequence > ? AND EXISTS (SELECT 1 FROM post WHERE home_post = stale_post.post_id) ORDER BY post_id",
        notes[0],
    )


def mark(db: Database, post: Post) -> None:
    """Notes that what readers get of it may have changed."""
    stale.mark_posts(db, post.blog_id, post.id)


def mark_of_blog(db: Database, blog_id: int) -> None:
    """Notes the posts in other blogs whose home is a post of this one, since that has another address."""
    db.run(
        "INSERT INTO stale_post (blog_id, post_id) SELECT post.blog_id, post.id FROM post JOIN post AS home ON home.id = post.home_post WHERE home.blog_id = ?",
        blog_id,
    )


def home_address(db: Database, home_post: int, instant: int) -> str:
    """The public address at which everyone reads a post in its home at an instant; '' for none."""
    return db.value(
        "SELECT blog.home || SUBSTR(path, 2) FROM placement INDEXED BY placement_post JOIN blog ON blog.id = blog_id"
        " WHERE post_id = ? AND shows_from <= ? AND shows_until > ? AND audience = 'everyone' ORDER BY placement.id DESC LIMIT 1",
        home_post, instant, instant,
    ) or ""  # fmt: skip

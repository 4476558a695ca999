"""Posts by their filing: those of a category or a tag, and those without."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of


@dataclass(frozen=True)
class WorklistPost:
    """A post with what it is filed under, and its last placement (times are 0 without one)."""

    id: int
    title: str
    revision: int
    categories: str
    tags: str
    goes_out: int
    shows_from: int
    shows_until: int
    aside_at: int


_ROW = """
SELECT post.id, post.title, post.revision,
    IFNULL((SELECT GROUP_CONCAT(name, ' · ') FROM (SELECT name FROM post_category JOIN category ON category.id = category_id
        WHERE post_category.post_id = post.id ORDER BY post_category.position)), '') AS categories,
    IFNULL((SELECT GROUP_CONCAT(name, ', ') FROM (SELECT name FROM post_tag JOIN tag ON tag.id = tag_id
        WHERE post_tag.post_id = post.id ORDER BY post_tag.position)), '') AS tags,
    IFNULL(goes_out, 0) AS goes_out, IFNULL(shows_from, 0) AS shows_from, IFNULL(shows_until, 0) AS shows_until, IFNULL(post.aside_at, 0) AS aside_at
FROM post LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id)
"""
_BELOW = "WITH RECURSIVE part (id) AS (SELECT ? UNION SELECT category.id FROM category JOIN part ON category.parent_id = part.id) "
_WANTED = {
    "unfiled": "NOT EXISTS (SELECT 1 FROM post_category WHERE post_id = post.id AND category_id <> ?)",
    "untagged": "NOT EXISTS (SELECT 1 FROM post_tag WHERE post_id = post.id) AND ? IS NOT NULL",
}
_IN_HAND = " post.blog_id = ? AND post.aside_at IS NULL AND post.is_template = 0 AND post.kind = '' AND post.words > 0 AND "


def _rows(rows: list[Row]) -> list[WorklistPost]:
    return [WorklistPost(**data_of(row)) for row in rows]


def in_category(db: Database, blog_id: int, number: int, most: int, after: int) -> list[WorklistPost]:
    """Posts of a category and everything below it, last changed first."""
    return _rows(db.all(
        _BELOW + _ROW + " WHERE post.blog_id = ? AND post.id IN (SELECT post_id FROM post_category WHERE category_id IN (SELECT id FROM part))"
        f" AND {db.sees()}"
        " ORDER BY post.changed_at DESC, post.id DESC LIMIT ? OFFSET ?",
        number, blog_id, most, after,
    ))  # fmt: skip


def with_tag(db: Database, number: int, most: int, after: int) -> list[WorklistPost]:
    return _rows(db.all(
        _ROW + " WHERE post.id IN (SELECT post_id FROM post_tag WHERE tag_id = ?)" + f" AND {db.sees()}" + " ORDER BY post.changed_at DESC, post.id DESC LIMIT ? OFFSET ?",
        number, most, after,
    ))  # fmt: skip


def by_ids(db: Database, blog_id: int, post_ids: list[int]) -> list[WorklistPost]:
    """These posts of the blog, in the order given."""
    found = {
        row["id"]: row
        for post_id in post_ids
        for row in db.all(f"{_ROW} WHERE post.id = ? AND post.blog_id = ? AND {db.sees()}", post_id, blog_id)
    }
    return _rows([found[post_id] for post_id in post_ids if post_id in found])


def count(db: Database, blog_id: int, kind: str, catch_all: int | None) -> int:
    """How many posts a worklist holds: 'unfiled' (none but the catch-all) or 'untagged'."""
    return db.value(
        f"SELECT COUNT(*) FROM post WHERE{_IN_HAND}{_WANTED[kind]} AND {db.sees()}", blog_id, catch_all or 0
    )


def following(
    db: Database, blog_id: int, kind: str, catch_all: int | None, after: int
) -> WorklistPost | None:
    """The next post of a worklist after a number; the first again at its end."""
    for first in (after, 0):
        rows = _rows(db.all(
            f"{_ROW} WHERE{_IN_HAND}{_WANTED[kind]} AND {db.sees()} AND post.id > ? ORDER BY post.id LIMIT 1", blog_id, catch_all or 0, first
        ))  # fmt: skip
        if rows:
            return rows[0]
    return None


def tags_within(db: Database, number: int, most: int) -> list[str]:
    """The tags that some, but not all, posts of a category have, the most used first."""
    return [
        row[0]
        for row in db.all(
            "SELECT name FROM post_category JOIN post_tag USING (post_id) JOIN tag ON tag.id = tag_id WHERE category_id = ?"
            " GROUP BY tag_id HAVING COUNT(*) < (SELECT COUNT(*) FROM post_category WHERE category_id = ?) ORDER BY COUNT(*) DESC, name LIMIT ?",
            number, number, most,
        )
    ]  # fmt: skip


def often_beside(db: Database, blog_id: int, post_id: int, most: int) -> list[int]:
    """The categories of other posts that share tags with a post, those that share most first; then the fullest ones."""
    shared = db.all(
        "SELECT category_id FROM post_tag AS mine JOIN post_tag AS theirs ON theirs.tag_id = mine.tag_id AND theirs.post_id <> mine.post_id"
        " JOIN post_category ON post_category.post_id = theirs.post_id WHERE mine.post_id = ? GROUP BY category_id ORDER BY COUNT(*) DESC LIMIT ?",
        post_id, most,
    )  # fmt: skip
    full = db.all(
        "SELECT category_id FROM post_category JOIN category ON category.id = category_id WHERE blog_id = ? GROUP BY category_id ORDER BY COUNT(*) DESC LIMIT ?",
        blog_id, most,
    )  # fmt: skip
    return list(dict.fromkeys(row[0] for row in (*shared, *full)))[:most]

"""Categories and tags."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database


@dataclass(frozen=True)
class Category:
    id: int
    blog_id: int
    parent_id: int | None
    name: str
    slug: str
    position: int


@dataclass(frozen=True)
class Tag:
    id: int
    blog_id: int
    name: str
    slug: str


def categories(db: Database, blog_id: int) -> list[Category]:
    """All categories of a blog in their order, subcategories anywhere after their parent's creation."""
    return [Category(**dict(row)) for row in db.all("SELECT * FROM category WHERE blog_id = ? ORDER BY position, id", blog_id)]


def find_category(db: Database, blog_id: int, parent_id: int | None, name: str) -> Category | None:
    row = db.one(
        "SELECT * FROM category WHERE blog_id = ? AND IFNULL(parent_id, 0) = ? AND name = ? COLLATE NOCASE",
        blog_id, parent_id or 0, name,
    )  # fmt: skip
    return Category(**dict(row)) if row else None


def is_category_slug(db: Database, blog_id: int, slug: str) -> bool:
    return db.value("SELECT 1 FROM category WHERE blog_id = ? AND slug = ?", blog_id, slug) is not None


def add_category(db: Database, blog_id: int, parent_id: int | None, name: str, slug: str) -> Category:
    row = db.one(
        "INSERT INTO category (blog_id, parent_id, name, slug, position)"
        " VALUES (?, ?, ?, ?, (SELECT IFNULL(MAX(position), 0) + 1 FROM category WHERE blog_id = ?)) RETURNING *",
        blog_id, parent_id, name, slug, blog_id,
    )  # fmt: skip
    return Category(**dict(row))


def find_tag(db: Database, blog_id: int, name: str) -> Tag | None:
    row = db.one("SELECT * FROM tag WHERE blog_id = ? AND name = ?", blog_id, name)
    return Tag(**dict(row)) if row else None


def is_tag_slug(db: Database, blog_id: int, slug: str) -> bool:
    return db.value("SELECT 1 FROM tag WHERE blog_id = ? AND slug = ?", blog_id, slug) is not None


def add_tag(db: Database, blog_id: int, name: str, slug: str) -> Tag:
    return Tag(**dict(db.one("INSERT INTO tag (blog_id, name, slug) VALUES (?, ?, ?) RETURNING *", blog_id, name, slug)))


def tags(db: Database, tag_ids: list[int]) -> list[Tag]:
    """The tags with these numbers, in the order asked for."""
    found = {}
    for tag_id in tag_ids:
        row = db.one("SELECT * FROM tag WHERE id = ?", tag_id)
        if row:
            found[tag_id] = Tag(**dict(row))
    return [found[tag_id] for tag_id in tag_ids if tag_id in found]


def tag_names(db: Database, blog_id: int, most: int = 500) -> list[str]:
    return [row[0] for row in db.all("SELECT name FROM tag WHERE blog_id = ? ORDER BY name LIMIT ?", blog_id, most)]

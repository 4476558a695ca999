"""Categories and tags."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from mobbet.core.facts import CategoryPage, Subject
from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of


@dataclass(frozen=True)
class Category:
    """One category. `description` is a document as JSON, or ''; `picture` a number of the library."""

    id: int
    blog_id: int
    parent_id: int | None
    name: str
    slug: str
    position: int
    description: str = ""
    picture: int | None = None
    shows_below: int = 1


@dataclass(frozen=True)
class Tag:
    id: int
    blog_id: int
    name: str
    slug: str


def categories(db: Database, blog_id: int) -> list[Category]:
    """All categories of a blog in their order, subcategories anywhere after their parent's creation."""
    return [
        Category(**data_of(row))
        for row in db.all("SELECT * FROM category WHERE blog_id = ? ORDER BY position, id", blog_id)
    ]


def subjects(db: Database, blog_id: int) -> dict[int, Subject]:
    """All categories of a blog in their order, as the plan reads them."""
    rows = db.all(
        "SELECT id, name, slug, parent_id, shows_below FROM category WHERE blog_id = ? ORDER BY position, id",
        blog_id,
    )
    return {row[0]: Subject(row[0], row[1], row[2], row[3], bool(row[4])) for row in rows}


def category(db: Database, blog_id: int, number: int) -> Category | None:
    row = db.one("SELECT * FROM category WHERE blog_id = ? AND id = ?", blog_id, number)
    return Category(**data_of(row)) if row else None


def page_of(db: Database, number: int) -> CategoryPage:
    """What a category's own page shows above its posts."""
    row = db.one("SELECT description, picture FROM category WHERE id = ?", number)
    return CategoryPage(*row) if row else CategoryPage()


def with_picture(db: Database, media_id: int) -> list[int]:
    """The categories whose page shows a picture of the library."""
    return db.column("SELECT id FROM category WHERE picture = ? ORDER BY id", media_id)


def find_category(db: Database, blog_id: int, parent_id: int | None, name: str) -> Category | None:
    row = db.one(
        "SELECT * FROM category WHERE blog_id = ? AND IFNULL(parent_id, 0) = ? AND name = ? COLLATE NOCASE",
        blog_id, parent_id or 0, name,
    )  # fmt: skip
    return Category(**data_of(row)) if row else None


def add_category(db: Database, blog_id: int, parent_id: int | None, name: str, slug: str) -> Category:
    row = existing(db.one(
        "INSERT INTO category (blog_id, parent_id, name, slug, position)"
        " VALUES (?, ?, ?, ?, (SELECT IFNULL(MAX(position), 0) + 1 FROM category WHERE blog_id = ?)) RETURNING *",
        blog_id, parent_id, name, slug, blog_id,
    ))  # fmt: skip
    return Category(**data_of(row))


CATEGORY_COLUMNS = ("parent_id", "name", "slug", "position", "description", "picture", "shows_below")


def set_category(db: Database, number: int, **values: Any) -> None:
    """Writes columns of a category (a subset of CATEGORY_COLUMNS)."""
    assert values.keys() <= set(CATEGORY_COLUMNS), values
    db.run(
        f"UPDATE category SET {', '.join(f'{column} = ?' for column in values)} WHERE id = ?",
        *values.values(),
        number,
    )


def put_category(db: Database, row: dict[str, Any]) -> None:
    """Writes a whole category as it once stood, whether it is still there or not."""
    if db.value("SELECT 1 FROM category WHERE id = ?", row["id"]):
        set_category(db, row["id"], **{name: row[name] for name in CATEGORY_COLUMNS})
    else:
        db.run(f"INSERT INTO category ({', '.join(row)}) VALUES ({', '.join('?' * len(row))})", *row.values())


def remove_category(db: Database, number: int) -> None:
    """Removes a category that no post and no other category names any more."""
    db.run("UPDATE blog SET catch_all = NULL WHERE catch_all = ?", number)
    db.run("DELETE FROM category WHERE id = ?", number)


def set_positions(db: Database, numbers: list[int]) -> None:
    """Puts categories into this order."""
    places = sorted(db.value("SELECT position FROM category WHERE id = ?", number) for number in numbers)
    is_distinct = len(set(places)) == len(places)
    first = places[0] if places else 0
    for at, number in enumerate(numbers):
        db.run(
            "UPDATE category SET position = ? WHERE id = ?", places[at] if is_distinct else first + at, number
        )


def posts_in(db: Database, category_ids: list[int]) -> list[int]:
    """The posts filed under any of these categories now, or by a placement."""
    return _filed_under(db, "category", category_ids)


def strangers(db: Database, blog_id: int, post_ids: list[int]) -> list[int]:
    """Those of the numbers that no post of the blog has."""
    return [
        post_id
        for post_id in post_ids
        if db.value("SELECT 1 FROM post WHERE id = ? AND blog_id = ?", post_id, blog_id) is None
    ]


def posts_tagged(db: Database, tag_ids: list[int]) -> list[int]:
    """The posts with any of these tags now, or by a placement."""
    return _filed_under(db, "tag", tag_ids)


def _filed_under(db: Database, kind: str, numbers: list[int]) -> list[int]:
    return db.numbers(
        f"SELECT post_id AS number FROM post_{kind} WHERE {kind}_id IN (SELECT value FROM JSON_EACH(:numbers))"
        f" UNION SELECT post_id FROM placement_{kind} JOIN placement ON placement.id = placement_id WHERE {kind}_id IN (SELECT value FROM JSON_EACH(:numbers)) ORDER BY number",
        {"numbers": json.dumps(numbers)},
    )


def find_tag(db: Database, blog_id: int, name: str) -> Tag | None:
    row = db.one("SELECT * FROM tag WHERE blog_id = ? AND name = ?", blog_id, name)
    return Tag(**data_of(row)) if row else None


def tag(db: Database, blog_id: int, number: int) -> Tag | None:
    row = db.one("SELECT * FROM tag WHERE blog_id = ? AND id = ?", blog_id, number)
    return Tag(**data_of(row)) if row else None


def add_tag(db: Database, blog_id: int, name: str, slug: str) -> Tag:
    """Adds a tag; its slug must be free."""
    return Tag(
        **dict(
            existing(
                db.one(
                    "INSERT INTO tag (blog_id, name, slug) VALUES (?, ?, ?) RETURNING *", blog_id, name, slug
                )
            )
        )
    )


def put_tag(db: Database, row: dict[str, Any]) -> None:
    """Writes a whole tag as it once stood, whether it is still there or not."""
    db.run(
        "INSERT INTO tag (id, blog_id, name, slug) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET name = excluded.name, slug = excluded.slug",
        row["id"], row["blog_id"], row["name"], row["slug"],
    )  # fmt: skip


def set_tag(db: Database, number: int, name: str, slug: str) -> None:
    db.run("UPDATE tag SET name = ?, slug = ? WHERE id = ?", name, slug, number)


def remove_tag(db: Database, number: int) -> None:
    """Removes a tag that no post has any more."""
    db.run("DELETE FROM tag WHERE id = ?", number)


def tags(db: Database, tag_ids: list[int]) -> list[Tag]:
    """The tags with these numbers, in the order asked for."""
    rows = db.all("SELECT * FROM tag WHERE id IN (SELECT value FROM JSON_EACH(?))", json.dumps(list(tag_ids)))
    found = {row["id"]: Tag(**data_of(row)) for row in rows}
    return [found[tag_id] for tag_id in tag_ids if tag_id in found]


def tag_names(db: Database, blog_id: int, most: int = 100_000) -> list[str]:
    return [
        row[0]
        for row in db.all("SELECT name FROM tag WHERE blog_id = ? ORDER BY name LIMIT ?", blog_id, most)
    ]


@dataclass(frozen=True)
class TagCount:
    """A tag, and how many posts have it now."""

    id: int
    name: str
    slug: str
    posts: int


def _tag_counts(rows: list[Row]) -> list[TagCount]:
    return [TagCount(*row) for row in rows]


def tag_counts(
    db: Database, blog_id: int, most: int = 100_000, after: int = 0, words: str = ""
) -> list[TagCount]:
    """Tags with the number of posts, the most used first; those whose name holds the words."""
    return _tag_counts(db.all(
        "SELECT tag.id, name, slug, (SELECT COUNT(*) FROM post_tag WHERE tag_id = tag.id) AS posts FROM tag"
        " WHERE blog_id = ? AND INSTR(FOLD(name), FOLD(?)) ORDER BY posts DESC, name, tag.id LIMIT ? OFFSET ?",
        blog_id, words, most, after,
    ))  # fmt: skip


def count_tags(db: Database, blog_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM tag WHERE blog_id = ?", blog_id)


def tags_used(db: Database, blog_id: int, times: int, most: int) -> list[TagCount]:
    """Tags that exactly so many posts have, in alphabetical order."""
    return _tag_counts(db.all(
        "SELECT tag.id, name, slug, ? FROM tag WHERE blog_id = ? AND (SELECT COUNT(*) FROM post_tag WHERE tag_id = tag.id) = ? ORDER BY name LIMIT ?",
        times, blog_id, times, most,
    ))  # fmt: skip


def tags_together(db: Database, blog_id: int, most: int) -> list[tuple[TagCount, TagCount]]:
    """Pairs of tags of which the first, on two posts or more, never stands without the second."""
    rows = db.all(
        "WITH used AS (SELECT tag_id, COUNT(*) AS posts FROM post_tag JOIN tag ON tag.id = tag_id WHERE blog_id = ? GROUP BY tag_id)"
        " SELECT one.tag_id AS one, other.tag_id AS other, mine.posts AS mine, theirs.posts AS theirs FROM post_tag AS one"
        " JOIN used AS mine ON mine.tag_id = one.tag_id AND mine.posts >= 2"
        " JOIN post_tag AS other ON other.post_id = one.post_id AND other.tag_id <> one.tag_id"
        " JOIN used AS theirs ON theirs.tag_id = other.tag_id"
        " GROUP BY one.tag_id, other.tag_id HAVING COUNT(*) = mine.posts AND (mine.posts < theirs.posts OR one.tag_id > other.tag_id)"
        " ORDER BY mine.posts DESC, one.tag_id, theirs.posts DESC LIMIT ?",
        blog_id, most,
    )  # fmt: skip
    pairs = []
    for row in rows:
        one, other = tags(db, [row["one"], row["other"]])
        pairs.append(
            (
                TagCount(one.id, one.name, one.slug, row["mine"]),
                TagCount(other.id, other.name, other.slug, row["theirs"]),
            )
        )
    return pairs


def filed_together(db: Database, blog_id: int, now: int) -> list[tuple[str, int, int, int]]:
    """(categories as JSON, posts out, newest of them, posts to come) of the placements that show or are going to."""
    return [
        tuple(row)
        for row in db.all(
            "SELECT categories, SUM(shows_from <= ?), MAX(CASE WHEN shows_from <= ? THEN goes_out ELSE 0 END), SUM(shows_from > ?)"
            " FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_from < shows_until GROUP BY categories",
            now, now, now, blog_id, now,
        )
    ]  # fmt: skip


def category_with_slug(db: Database, blog_id: int, slug: str) -> int | None:
    return db.value("SELECT id FROM category WHERE blog_id = ? AND slug = ?", blog_id, slug)


def tag_with_slug(db: Database, blog_id: int, slug: str) -> int | None:
    return db.value("SELECT id FROM tag WHERE blog_id = ? AND slug = ?", blog_id, slug)

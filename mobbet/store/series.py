"""Named series of posts."""

from __future__ import annotations

from mobbet.store.database import Database


def find_or_add(db: Database, blog_id: int, name: str) -> int:
    """The number of the series of that name, made when it is new."""
    found = db.value("SELECT id FROM series WHERE blog_id = ? AND name = ?", blog_id, name)
    return found or db.value("INSERT INTO series (blog_id, name) VALUES (?, ?) RETURNING id", blog_id, name)


def named(db: Database, blog_id: int, name: str) -> int | None:
    """The number of the series of a name, in any case."""
    return db.value("SELECT id FROM series WHERE blog_id = ? AND FOLD(name) = FOLD(?)", blog_id, name)


def name_of(db: Database, series_id: int) -> str:
    return db.value("SELECT name FROM series WHERE id = ?", series_id)


def names(db: Database, blog_id: int) -> list[str]:
    """The series that have a post, by name."""
    rows = db.all(
        "SELECT name FROM series WHERE blog_id = ? AND EXISTS (SELECT 1 FROM post WHERE series_id = series.id) ORDER BY name",
        blog_id,
    )
    return [row[0] for row in rows]


def of_blog(db: Database, blog_id: int) -> list[tuple[int, str]]:
    """(number, name) of the series of a blog."""
    return db.tuples("SELECT id, name FROM series WHERE blog_id = ? ORDER BY name, id", blog_id)


def last_position(db: Database, series_id: int) -> int:
    return (
        db.value("SELECT MAX(series_position) FROM post WHERE series_id = ? AND aside_at IS NULL", series_id)
        or 0
    )


def parts(db: Database, series_id: int) -> list[tuple[int, str, int]]:
    """(post, title, place) of the parts in hand, in order."""
    rows = db.all(
        f"SELECT id, {db.title('', 'title')}, series_position FROM post WHERE series_id = ? AND aside_at IS NULL ORDER BY series_position, id",
        series_id,
    )
    return [tuple(row) for row in rows]


def on_blog(db: Database, blog_id: int, number: int) -> str:
    """The name of a series of a blog; '' for none."""
    return db.value("SELECT name FROM series WHERE blog_id = ? AND id = ?", blog_id, number) or ""

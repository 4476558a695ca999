"""What happens when: the moments at which posts go out, are updated and come down."""

from __future__ import annotations

from mobbet.core.keys import ListName
from mobbet.store.database import Database


def events(db: Database, blog_id: int, after: int, until: int) -> list[tuple[int, str, int, str]]:
    """(instant, 'goes out', 'is updated' or 'comes down', post, title) after one instant and up to another, in order."""
    title = db.title("placement.post_id", "title")
    rows = db.all(
        "SELECT shows_from, CASE WHEN EXISTS (SELECT 1 FROM placement AS other WHERE other.post_id = placement.post_id AND other.shows_until = placement.shows_from"
        f"  AND other.shows_from < other.shows_until) THEN 'is updated' ELSE 'goes out' END, placement.post_id, {title}"
        " FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND shows_from > ? AND shows_from <= ? AND shows_from < shows_until UNION ALL"
        f" SELECT shows_until, 'comes down', placement.post_id, {title}"
        " FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND shows_until > ? AND shows_until <= ? AND shows_from < shows_until AND shows_until = comes_down ORDER BY 1, 3",
        blog_id, after, until, blog_id, after, until,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def due(db: Database, blog_id: int, after: int, until: int) -> list[tuple[int, str, int]]:
    """(post, title, instant) of what goes out for the first time within a stretch of time, the soonest first."""
    rows = db.all(
        f"SELECT placement.post_id, {db.title('placement.post_id', 'title')}, goes_out FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND shows_from > ? AND goes_out > ? AND goes_out <= ? AND shows_from < shows_until ORDER BY goes_out, placement.post_id",
        blog_id, after, after, until,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def titles_between(db: Database, blog_id: int, first: int, until: int, but: int, now: int) -> list[str]:
    """The titles of the other posts that go out within a stretch of time; those that were withdrawn are none."""
    rows = db.all(
        f"SELECT {db.title('placement.post_id', 'title')} FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND goes_out >= ? AND goes_out < ? AND shows_from < shows_until AND shows_until > MAX(goes_out, ?) AND placement.post_id <> ?"
        " GROUP BY placement.post_id ORDER BY goes_out LIMIT 3",
        blog_id, first, until, now, but,
    )  # fmt: skip
    return [row[0] for row in rows]


def goings(db: Database, blog_id: int, after: int, until: int) -> list[tuple[int, int, str, int, int]]:
    """(instant, post, title, main category or 0, words) of posts that went out, or go out, after one instant and up to another, in order."""
    rows = db.all(
        f"SELECT goes_out, placement.post_id, {db.title('placement.post_id', 'revision.title')}, IFNULL(JSON_EXTRACT(categories, '$[0]'), 0), revision.words FROM placement"
        " JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND goes_out > ? AND goes_out <= ? AND shows_from < shows_until"
        " AND placement.id = (SELECT MAX(id) FROM placement AS newer WHERE newer.post_id = placement.post_id AND newer.shows_from < newer.shows_until)"
        " ORDER BY goes_out, placement.post_id",
        blog_id, after, until,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def last_in_categories(db: Database, blog_id: int, numbers: list[int]) -> dict[int, int]:
    """{category: when the newest post that is filed under it itself goes out} of those that have any."""
    found = {}
    for number in numbers:
        last = db.value(
            "SELECT MAX(goes_out) FROM listing WHERE blog_id = ? AND list = ?",
            blog_id,
            ListName.of("category", number),
        )
        if last is not None:
            found[number] = last
    return found

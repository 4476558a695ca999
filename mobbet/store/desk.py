"""Queries for the lists of the desk."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.audience import PRIVATE_TITLE
from mobbet.core.timing import FOREVER
from mobbet.store.database import Database, Row, data_of
from mobbet.store.posts import AS_BEGUN


@dataclass(frozen=True)
class DeskRow:
    """One post in a list of the desk. Times are instants; 0 where there is none."""

    id: int
    title: str
    author: str
    categories: str
    words: int
    revision: int
    changed_at: int
    placed_revision: int
    goes_out: int
    shows_from: int
    shows_until: int
    comes_down: int
    aside_at: int
    visibility: str
    must: int
    should: int
    is_read: int
    reads: int = 0
    comments: int = 0
    waiting: int = 0
    kind: str = ""


_ROW = """
SELECT post.id, {title} AS title, person.name AS author, post.words, post.revision, post.changed_at,
    IFNULL((SELECT GROUP_CONCAT(name, ' · ') FROM (SELECT name FROM post_category JOIN category ON category.id = category_id
        WHERE post_category.post_id = post.id ORDER BY post_category.position)), '') AS categories,
    IFNULL(placement.revision, 0) AS placed_revision, IFNULL(goes_out, 0) AS goes_out, IFNULL(shows_from, 0) AS shows_from,
    IFNULL(shows_until, 0) AS shows_until, IFNULL(comes_down, 0) AS comes_down, IFNULL(post.aside_at, 0) AS aside_at, post.visibility,
    IFNULL((SELECT must FROM post_proof WHERE post_proof.post_id = post.id), 0) AS must, IFNULL((SELECT should FROM post_proof WHERE post_proof.post_id = post.id), 0) AS should,
    EXISTS (SELECT 1 FROM post_proof WHERE post_proof.post_id = post.id AND post_proof.revision = post.revision) AS is_read,
    IFNULL((SELECT SUM(count) FROM reads WHERE reads.post_id = post.id), 0) AS reads,
    (SELECT COUNT(*) FROM comment WHERE comment.post_id = post.id AND comment.state = 'shown' AND answers IS NULL) AS comments,
    (SELECT COUNT(*) FROM comment WHERE comment.post_id = post.id AND comment.state = 'waits') AS waiting, post.kind
FROM post JOIN person ON person.id = post.author_id
"""


def _row(db: Database) -> str:
    """The columns of a row. A post that the viewer may not be told of has the title that readers get."""
    out = "(SELECT title FROM revision WHERE revision.post_id = placement.post_id AND revision.number = placement.revision AND placement.audience NOT LIKE 'person:%')"
    title = (
        "post.title"
        if db.viewer is None
        else f"CASE WHEN {db.sees()} THEN post.title ELSE IFNULL({out}, '{PRIVATE_TITLE}') END"
    )
    return _ROW.format(title=title)


def _rows(rows: list[Row]) -> list[DeskRow]:
    return [DeskRow(**data_of(row)) for row in rows]


_BY = " AND (? = 0 OR post.author_id = ?)"
"""Of one author, or of all where the number is 0."""


def in_hand(
    db: Database,
    blog_id: int,
    now: int,
    most: int,
    before: tuple[int, int] = (FOREVER, FOREVER),
    author: int = 0,
) -> list[DeskRow]:
    """Posts, without pages, that are written on: drafts, and what came down or was withdrawn and has another text since; last changed first, those set aside left out.

    `before` is (changed_at, id) of the row to go on after.
    """
    numbers = db.column(
        "SELECT post.id FROM post LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id)"
        " WHERE post.blog_id = ? AND aside_at IS NULL AND IFNULL(post.placed_until, 0) <= ? AND is_template = 0 AND post.kind = ''"
        " AND (placement.id IS NULL OR shows_from >= shows_until OR placement.revision <> post.revision) AND (post.changed_at, post.id) < (?, ?)"
        + f" AND NOT ({AS_BEGUN}) AND {db.sees()}" + _BY + " ORDER BY post.changed_at DESC, post.id DESC LIMIT ?",
        blog_id, now, *before, author, author, most,
    )  # fmt: skip
    return by_ids(db, numbers)


def in_timetable(
    db: Database, blog_id: int, now: int, most: int, after: tuple[int, int] = (0, 0), author: int = 0
) -> list[DeskRow]:
    """Posts that are going to go out, soonest first; `after` is (shows_from, id) of the row to go on after."""
    return _rows(db.all(
        _row(db) + " JOIN placement ON placement.post_id = post.id"
        " WHERE placement.blog_id = ? AND shows_from > ? AND shows_from < shows_until AND (shows_from, post.id) > (?, ?)" + f" AND {db.sees()} AND post.kind = ''" + _BY + " ORDER BY shows_from, post.id LIMIT ?",
        blog_id, now, *after, author, author, most,
    ))  # fmt: skip


def published(
    db: Database,
    blog_id: int,
    now: int,
    most: int,
    before: tuple[int, int] = (FOREVER, FOREVER),
    author: int = 0,
) -> list[DeskRow]:
    """Posts that are out, newest first; `before` is (goes_out, id) of the row to go on after."""
    return _rows(db.all(
        _row(db) + " JOIN placement ON placement.post_id = post.id WHERE placement.id IN ("
        " SELECT id FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? AND (goes_out, post_id) < (?, ?) AND kind = ''"
        f" AND (audience NOT LIKE 'person:%' OR {db.sees('placement.post_id')}) AND {db.sees_what_is_out('placement.post_id')}"
        " AND (? = 0 OR EXISTS (SELECT 1 FROM post WHERE post.id = placement.post_id AND author_id = ?)) ORDER BY goes_out DESC, post_id DESC LIMIT ?) ORDER BY goes_out DESC, placement.post_id DESC",
        blog_id, now, now, *before, author, author, most,
    ))  # fmt: skip


def pages(
    db: Database,
    blog_id: int,
    now: int,
    most: int,
    before: tuple[int, int] = (FOREVER, FOREVER),
    author: int = 0,
) -> list[DeskRow]:
    """Pages beside posts in whatever state, last changed first, those set aside left out; `before` is (changed_at, id) of the row to go on after."""
    numbers = db.column(
        "SELECT post.id FROM post WHERE post.blog_id = ? AND kind <> '' AND aside_at IS NULL AND is_template = 0 AND (changed_at, post.id) < (?, ?)"
        f" AND NOT ({AS_BEGUN})"
        f" AND {db.sees()}" + _BY + " ORDER BY changed_at DESC, post.id DESC LIMIT ?",
        blog_id, *before, author, author, most,
    )  # fmt: skip
    return by_ids(db, numbers)


def set_aside(db: Database, blog_id: int, most: int) -> list[DeskRow]:
    return _rows(db.all(
        _row(db) + " LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id)"
        f" WHERE post.blog_id = ? AND aside_at IS NOT NULL AND {db.sees()} ORDER BY aside_at DESC LIMIT ?",
        blog_id, most,
    ))  # fmt: skip


def templates(db: Database, blog_id: int) -> list[tuple[int, str]]:
    """(number, title) of the posts kept as templates."""
    rows = db.all(
        f"SELECT id, title FROM post WHERE blog_id = ? AND is_template = 1 AND +aside_at IS NULL AND {db.sees()} ORDER BY title, id",
        blog_id,
    )
    return [tuple(row) for row in rows]


def by_ids(db: Database, post_ids: list[int]) -> list[DeskRow]:
    """The rows of these posts, in the order given, each with its newest placement."""
    rows = db.all(
        _row(db)
        + " LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id) WHERE post.id IN (SELECT value FROM JSON_EACH(?))",
        json.dumps(post_ids),
    )
    found = {row.id: row for row in _rows(rows)}
    return [found[post_id] for post_id in post_ids if post_id in found]


def is_on(db: Database, blog_id: int, post_id: int) -> bool:
    """Whether a post is one of the blog that the viewer may be told of, by its own title or by the one that readers get."""
    return db.value(
        "SELECT 1 FROM post WHERE id = ? AND blog_id = ? AND"
        f" ({db.sees()} OR EXISTS (SELECT 1 FROM placement WHERE post_id = post.id AND shows_from < shows_until AND audience NOT LIKE 'person:%')) AND {db.sees_what_is_out('post.id')}",
        post_id, blog_id,
    ) is not None  # fmt: skip


def count(db: Database, blog_id: int, author: int = 0) -> tuple[int, int]:
    """How many posts and how many pages the blog, or one author of it, has that are not set aside."""
    [(written, pages)] = db.all(
        f"SELECT COUNT(*), IFNULL(SUM(kind <> ''), 0) FROM post WHERE blog_id = ? AND aside_at IS NULL AND NOT ({AS_BEGUN}) AND {db.sees()}"
        + _BY,
        blog_id,
        author,
        author,
    )
    return written - pages, pages


@dataclass(frozen=True)
class OnDay:
    """A post by when it goes out: instants, as of a row."""

    id: int
    title: str
    goes_out: int
    shows_from: int
    comes_down: int


def out_days(db: Database, blog_id: int, first: int, last: int, now: int, most: int = 400) -> list[OnDay]:
    """Posts that went out or go out between two instants, in order."""
    rows = db.all(
        f"SELECT post.id, {db.title('', 'post.title')}, goes_out, shows_from, comes_down FROM placement JOIN post ON post.id = placement.post_id"
        " WHERE placement.blog_id = ? AND goes_out >= ? AND goes_out < ? AND shows_from < shows_until AND placement.kind = ''"
        " AND (shows_until > ? OR shows_from > ?) ORDER BY goes_out, post.id LIMIT ?",
        blog_id, first, last, now, now, most,
    )  # fmt: skip
    return [OnDay(*row) for row in rows]


def out_counts(db: Database, blog_id: int, instants: list[int]) -> list[int]:
    """How many posts went out, or go out, between each instant and the next."""
    rows = db.all(
        "SELECT (SELECT COUNT(DISTINCT post_id) FROM placement WHERE blog_id = ? AND goes_out >= one.value AND goes_out < next.value AND shows_from < shows_until AND kind = '')"
        " FROM JSON_EACH(?) AS one JOIN JSON_EACH(?) AS next ON next.key = one.key + 1 ORDER BY one.key",
        blog_id, json.dumps(instants), json.dumps(instants),
    )  # fmt: skip
    return [row[0] for row in rows]


def has_placed(db: Database, blog_id: int) -> bool:
    """Whether anything of the blog went out, or is to go out."""
    return (
        db.value("SELECT 1 FROM placement WHERE blog_id = ? AND shows_from < shows_until LIMIT 1", blog_id)
        is not None
    )


def every(db: Database, blog_id: int) -> list[DeskRow]:
    """All posts of a blog by number."""
    return _rows(db.all(
        _row(db) + " LEFT JOIN placement ON placement.id = (SELECT MAX(id) FROM placement WHERE post_id = post.id)"
        f" WHERE post.blog_id = ? AND {db.sees()} ORDER BY post.id",
        blog_id,
    ))  # fmt: skip

"""Mentions by other sites, and those of other sites in posts."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Mention:
    """A page elsewhere that is said to link to a post."""

    id: int
    blog_id: int
    post_id: int
    source: str
    target: str
    state: str
    asked_at: int
    next_try: int
    tries: int


@dataclass(frozen=True)
class MentionOut:
    """A link of a post whose place is told of it."""

    post_id: int
    target: str
    state: str
    tries: int
    next_try: int
    problem: str


def _mention(row: Row) -> Mention:
    return Mention(**data_of(row))


def ask(db: Database, blog_id: int, post_id: int, source: str, target: str, now: int) -> None:
    """Has a page looked at, or once more."""
    db.run(
        "INSERT INTO mention (blog_id, post_id, source, target, asked_at, next_try) VALUES (?, ?, ?, ?, ?, ?)"
        " ON CONFLICT (post_id, source) DO UPDATE SET state = 'asked', target = excluded.target, next_try = excluded.next_try, tries = 0",
        blog_id, post_id, source, target, now, now,
    )  # fmt: skip


def count_asked(db: Database, blog_id: int) -> int:
    """How many pages wait to be looked at."""
    return db.value("SELECT COUNT(*) FROM mention WHERE blog_id = ? AND state = 'asked'", blog_id)


def due(db: Database, now: int, most: int) -> list[Mention]:
    rows = db.all(
        "SELECT * FROM mention WHERE state <> 'gone' AND next_try <= ? ORDER BY next_try LIMIT ?", now, most
    )
    return [_mention(row) for row in rows]


def of_source(db: Database, post_id: int, source: str) -> Mention | None:
    return maybe(_mention, db.one("SELECT * FROM mention WHERE post_id = ? AND source = ?", post_id, source))


def settle(db: Database, number: int, state: str, tries: int, next_try: int) -> None:
    db.run(
        "UPDATE mention SET state = ?, tries = ?, next_try = ? WHERE id = ?", state, tries, next_try, number
    )


def comment_of(db: Database, post_id: int, source: str) -> int | None:
    """The comment that stands for a mention."""
    return db.value("SELECT id FROM comment WHERE post_id = ? AND source = ?", post_id, source)


def posts_to_tell(db: Database, since: int, now: int, most: int) -> list[tuple[int, int, int]]:
    """(blog, post, placement) of posts for everyone that are out as they were placed since an instant, and whose links were not told of yet."""
    return db.tuples(
        "SELECT blog_id, post_id, placement.id FROM blog JOIN placement ON placement.blog_id = blog.id WHERE mentions = 'on' AND shows_from BETWEEN ? AND ? AND shows_until > ?"
        " AND audience = 'everyone' AND NOT EXISTS (SELECT 1 FROM mention_told WHERE mention_told.post_id = placement.post_id AND placement_id = placement.id)"
        " ORDER BY shows_from LIMIT ?",
        since, now, now, most,
    )  # fmt: skip


def posts_withdrawn(db: Database, now: int, most: int) -> list[tuple[int, int]]:
    """(blog, post) of posts whose links were told of and that nobody gets any more."""
    return db.tuples(
        "SELECT blog_id, post.id FROM mention_told JOIN post ON post.id = post_id WHERE placement_id <> 0 AND NOT EXISTS (SELECT 1 FROM placement"
        " WHERE placement.post_id = post.id AND shows_from <= ?1 AND shows_until > ?1 AND audience = 'everyone') LIMIT ?2",
        now, most,
    )  # fmt: skip


def set_told(db: Database, post_id: int, placement_id: int) -> None:
    db.run("INSERT OR REPLACE INTO mention_told VALUES (?, ?)", post_id, placement_id)


def tell(db: Database, post_id: int, targets: list[str], now: int) -> None:
    """Has the places told that a post leads to, and those that it led to before."""
    db.run(
        "UPDATE mention_out SET state = 'waiting', tries = 0, next_try = ? WHERE post_id = ? AND state <> 'none'",
        now,
        post_id,
    )
    db.run_many(
        "INSERT OR IGNORE INTO mention_out (post_id, target, next_try) VALUES (?, ?, ?)",
        [(post_id, target, now) for target in targets],
    )


def to_tell(db: Database, now: int, most: int) -> list[MentionOut]:
    rows = db.all(
        "SELECT * FROM mention_out WHERE state = 'waiting' AND next_try <= ? ORDER BY next_try LIMIT ?",
        now,
        most,
    )
    return [MentionOut(**data_of(row)) for row in rows]


def of_post(db: Database, post_id: int) -> list[MentionOut]:
    """The links of a post, with what became of telling their places."""
    rows = db.all("SELECT * FROM mention_out WHERE post_id = ? ORDER BY target", post_id)
    return [MentionOut(**data_of(row)) for row in rows]


def settle_out(
    db: Database, one: MentionOut, state: str, tries: int, next_try: int, problem: str = ""
) -> None:
    db.run(
        "UPDATE mention_out SET state = ?, tries = ?, next_try = ?, problem = ? WHERE post_id = ? AND target = ?",
        state, tries, next_try, problem, one.post_id, one.target,
    )  # fmt: skip

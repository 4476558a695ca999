"""Reading copies: private links to drafts, and who opened them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe

READ, NOTE, PROPOSE = "read", "note", "propose"


@dataclass(frozen=True)
class ReadingCopy:
    """A private link to a draft. `of_revision` is 0 for whatever is newest; `lets` is READ, NOTE or PROPOSE."""

    id: int
    blog_id: int
    post_id: int
    token_hash: str
    sealed_token: str
    made_by: int
    made_at: int
    ends_at: int
    closed_at: int | None
    of_revision: int
    lets: str
    word_hash: str


@dataclass(frozen=True)
class CopyReader:
    """Whoever opened a copy: the name they gave ('' before they gave one), the heading they came to, the share of the page in percent."""

    id: int
    copy_id: int
    key_hash: str
    reader_name: str
    first_at: int
    last_at: int
    came_to: str
    share: int


def _copy(row: Row) -> ReadingCopy:
    return ReadingCopy(**data_of(row))


def _reader(row: Row) -> CopyReader:
    return CopyReader(**data_of(row))


def add(db: Database, copy: ReadingCopy) -> int:
    return db.value(
        "INSERT INTO reading_copy (blog_id, post_id, token_hash, sealed_token, made_by, made_at, ends_at, of_revision, lets, word_hash)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
        copy.blog_id, copy.post_id, copy.token_hash, copy.sealed_token, copy.made_by, copy.made_at, copy.ends_at, copy.of_revision, copy.lets, copy.word_hash,
    )  # fmt: skip


def by_token(db: Database, token_hash: str) -> ReadingCopy | None:
    return maybe(_copy, db.one("SELECT * FROM reading_copy WHERE token_hash = ?", token_hash))


def of_post(db: Database, post_id: int, most: int) -> list[ReadingCopy]:
    """The copies of a post that were made last, the newest first."""
    return [
        _copy(row)
        for row in db.all(
            "SELECT * FROM reading_copy WHERE post_id = ? ORDER BY id DESC LIMIT ?", post_id, most
        )
    ]


def by_id(db: Database, post_id: int, number: int) -> ReadingCopy | None:
    """A copy of a post."""
    return maybe(_copy, db.one("SELECT * FROM reading_copy WHERE id = ? AND post_id = ?", number, post_id))


def close(db: Database, number: int, now: int) -> None:
    db.run("UPDATE reading_copy SET closed_at = IFNULL(closed_at, ?) WHERE id = ?", now, number)


def add_reader(db: Database, copy_id: int, key_hash: str, now: int) -> CopyReader | None:
    """Whoever opens a copy for the first time in a browser."""
    return maybe(_reader, db.one(
        "INSERT INTO copy_reader (copy_id, key_hash, first_at, last_at) VALUES (?, ?, ?, ?) RETURNING *", copy_id, key_hash, now, now
    ))  # fmt: skip


def reader(db: Database, copy_id: int, key_hash: str) -> CopyReader | None:
    return maybe(
        _reader, db.one("SELECT * FROM copy_reader WHERE copy_id = ? AND key_hash = ?", copy_id, key_hash)
    )


def count_readers(db: Database, copy_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM copy_reader WHERE copy_id = ?", copy_id)


def readers(db: Database, copy_id: int, most: int) -> list[CopyReader]:
    """Who opened a copy, the latest first; those with a name, and those who read on."""
    return [
        _reader(row)
        for row in db.all(
            "SELECT * FROM copy_reader WHERE copy_id = ? ORDER BY reader_name = '', last_at DESC, id DESC LIMIT ?",
            copy_id,
            most,
        )
    ]


def set_name(db: Database, number: int, name: str) -> None:
    db.run("UPDATE copy_reader SET reader_name = ? WHERE id = ?", name, number)


def set_progress(db: Database, number: int, came_to: str, share: int, now: int) -> None:
    """How far somebody read; it never goes back."""
    db.run(
        "UPDATE copy_reader SET last_at = ?, came_to = CASE WHEN ? >= share THEN ? ELSE came_to END, share = MAX(share, ?) WHERE id = ?",
        now, share, came_to, share, number,
    )  # fmt: skip

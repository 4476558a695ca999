"""Notes on passages of posts, and answers to them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.annotation import Passage
from mobbet.store.database import Database, Row, data_of, maybe

OPEN, SETTLED, TAKEN, LEFT = "", "settled", "taken", "left"


@dataclass(frozen=True)
class Note:
    """A note, or an answer to the note `answers`; by a colleague (`person_id`) or a reader of a copy (`reader_id`); `ended` is OPEN, SETTLED, TAKEN or LEFT."""

    id: int
    blog_id: int
    post_id: int
    answers: int | None
    person_id: int | None
    reader_id: int | None
    who: str
    left_at: int
    passage_start: int
    passage_end: int
    quote: str
    prefix: str
    suffix: str
    said: str
    proposal: str | None
    ended: str
    ended_by: int | None
    ended_at: int | None

    @property
    def passage(self) -> Passage:
        return Passage(self.passage_start, self.passage_end, self.quote, self.prefix, self.suffix)

    @property
    def is_gone(self) -> bool:
        """Whether it was on a passage that stands no more."""
        return bool(self.quote) and self.passage_start < 0


def _note(row: Row) -> Note:
    return Note(**data_of(row))


def add(db: Database, note: Note) -> int:
    return db.value(
        "INSERT INTO note (blog_id, post_id, answers, person_id, reader_id, who, left_at, passage_start, passage_end, quote, prefix, suffix, said, proposal)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
        note.blog_id, note.post_id, note.answers, note.person_id, note.reader_id, note.who, note.left_at, note.passage_start, note.passage_end, note.quote,
        note.prefix, note.suffix, note.said, note.proposal,
    )  # fmt: skip


def by_id(db: Database, post_id: int, number: int) -> Note | None:
    """A note of a post."""
    return maybe(_note, db.one("SELECT * FROM note WHERE id = ? AND post_id = ?", number, post_id))


def of_post(db: Database, post_id: int) -> list[Note]:
    """All notes of a post and their answers, the oldest first."""
    return [_note(row) for row in db.all("SELECT * FROM note WHERE post_id = ? ORDER BY id", post_id)]


def on_passages(db: Database, post_id: int) -> list[Note]:
    """The notes of a post that are on a passage, which follow it through changes."""
    return [
        _note(row)
        for row in db.all(
            "SELECT * FROM note WHERE post_id = ? AND answers IS NULL AND quote <> '' ORDER BY id", post_id
        )
    ]


def count(db: Database, post_id: int, reader_id: int | None = None) -> int:
    """How many notes and answers a post has, or one reader of a copy left on it."""
    return db.value(
        "SELECT COUNT(*) FROM note WHERE post_id = ? AND (? IS NULL OR reader_id = ?)",
        post_id,
        reader_id,
        reader_id,
    )


def open_count(db: Database, post_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM note WHERE post_id = ? AND answers IS NULL AND ended = ''", post_id)


def set_passage(db: Database, number: int, passage: Passage) -> None:
    db.run(
        "UPDATE note SET passage_start = ?, passage_end = ? WHERE id = ?", passage.start, passage.end, number
    )


def set_ended(db: Database, number: int, ended: str, person_id: int, now: int) -> None:
    """Ends a note, or with OPEN opens it again."""
    db.run(
        "UPDATE note SET ended = ?, ended_by = ?, ended_at = ? WHERE id = ?",
        ended,
        person_id,
        now if ended else None,
        number,
    )


def remove(db: Database, number: int) -> None:
    db.run("DELETE FROM note WHERE id = ?", number)

"""Comments under posts."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core import facts
from mobbet.core.comments import SHOWN, WAITS
from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Comment:
    """A comment, or (with `answers`) what somebody of the blog answered; `is_ours` marks those who work on the blog.

    `suspicion` is how likely the guard against robots thinks it a robot's, `why` in words, `learned` what it learned from it; `fingerprint` is the same of texts
    that are alike.
    """

    id: int
    blog_id: int
    post_id: int
    answers: int | None
    person_id: int | None
    is_ours: int
    name: str
    email: str
    text: str
    state: str
    made_at: int
    settled_by: int | None
    suspicion: float = 0.0
    why: str = ""
    fingerprint: str = ""
    learned: str = ""
    source: str = ""
    """Of a mention on another site: the page that mentions; `address` is that of whoever wrote it."""
    address: str = ""


def _comment(row: Row) -> Comment:
    return Comment(**data_of(row))


def add(db: Database, comment: Comment) -> int:
    """Adds a comment (its id is ignored), and returns its id."""
    values = {name: value for name, value in comment.__dict__.items() if name != "id"}
    return db.value(
        f"INSERT INTO comment ({', '.join(values)}) VALUES ({', '.join('?' * len(values))}) RETURNING id",
        *values.values(),
    )


def by_ids(db: Database, blog_id: int, numbers: list[int]) -> list[Comment]:
    """Those of a blog's comments that have these numbers, by number."""
    rows = db.all(
        f"SELECT * FROM comment WHERE blog_id = ? AND id IN (SELECT value FROM JSON_EACH(?)) AND {db.sees('post_id')} ORDER BY id",
        blog_id,
        json.dumps(numbers),
    )
    return [_comment(row) for row in rows]


def is_there(db: Database, post_id: int, name: str, text: str) -> bool:
    """Whether somebody of that name wrote the very same under the post before, as when a form is sent twice."""
    return (
        db.value(
            "SELECT 1 FROM comment WHERE post_id = ? AND name = ? AND text = ? LIMIT 1", post_id, name, text
        )
        is not None
    )


_OF_SOME = " AND (:post = 0 OR post_id = :post) AND (:author = 0 OR EXISTS (SELECT 1 FROM post WHERE post.id = comment.post_id AND post.author_id = :author))"
"""Of one post, and under posts of one author, where these numbers are not 0."""


def _of(db: Database) -> str:
    return f"{_OF_SOME} AND {db.sees('post_id')}"


def page(
    db: Database, blog_id: int, state: str, post: int, author: int, before: int, most: int
) -> list[Comment]:
    """Comments of a state with numbers below `before`, the newest first."""
    values = {"blog": blog_id, "state": state, "post": post, "author": author, "before": before, "most": most}
    rows = db.named(
        "SELECT * FROM comment WHERE blog_id = :blog AND state = :state AND id < :before"
        + _of(db)
        + " ORDER BY id DESC LIMIT :most",
        values,
    )
    return [_comment(row) for row in rows]


def counts(db: Database, blog_id: int, post: int, author: int) -> dict[str, int]:
    """{state: how many}, of those that there are."""
    values = {"blog": blog_id, "post": post, "author": author}
    return dict(
        map(
            tuple,
            db.named(
                "SELECT state, COUNT(*) FROM comment WHERE blog_id = :blog" + _of(db) + " GROUP BY state",
                values,
            ),
        )
    )


def under(db: Database, post_id: int) -> tuple[int, int]:
    """(how many comments readers see under a post, answers left out; how many wait)."""
    row = existing(
        db.one(
            "SELECT SUM(state = ? AND answers IS NULL), SUM(state = ?) FROM comment WHERE post_id = ?",
            SHOWN,
            WAITS,
            post_id,
        )
    )
    return row[0] or 0, row[1] or 0


def by_post(db: Database, blog_id: int, state: str, author: int, most: int) -> list[tuple[int, str, int]]:
    """(post, title, how many) of the posts with comments of a state, those with most first."""
    rows = db.named(
        "SELECT post_id, title, many FROM (SELECT post_id, COUNT(*) AS many FROM comment WHERE blog_id = :blog AND state = :state"
        + _of(db)
        + " GROUP BY post_id ORDER BY many DESC, post_id DESC LIMIT :most)"
        " JOIN post ON post.id = post_id ORDER BY many DESC, post_id DESC",
        {"blog": blog_id, "state": state, "post": 0, "author": author, "most": most},
    )
    return [tuple(row) for row in rows]


def waiting(db: Database, blog_id: int, author: int) -> int:
    """How many comments wait to be read, under posts of one author where the number is not 0."""
    return db.named(
        "SELECT COUNT(*) FROM comment WHERE blog_id = :blog AND state = :state" + _of(db),
        {"blog": blog_id, "state": WAITS, "post": 0, "author": author},
    )[0][0]


def shown(db: Database, post_id: int) -> list[facts.Comment]:
    """What readers see under a post, the oldest first; answers stand with what they answer, and go with it."""
    rows = db.all(
        "SELECT id, name, text, made_at, is_ours, address, source, answers FROM comment WHERE post_id = ? AND state = ? ORDER BY made_at, id",
        post_id,
        SHOWN,
    )
    answers: dict[int, list[facts.Comment]] = {}
    for row in rows:
        if row["answers"]:
            answers.setdefault(row["answers"], []).append(_shown(row, ()))
    return [_shown(row, tuple(answers.get(row["id"], ()))) for row in rows if not row["answers"]]


def _shown(row: Row, answers: tuple[facts.Comment, ...]) -> facts.Comment:
    return facts.Comment(
        row["id"],
        row["name"],
        row["text"],
        row["made_at"],
        row["is_ours"],
        row["address"],
        row["source"],
        answers,
    )


def posts_with_shown(db: Database, blog_id: int) -> set[int]:
    """The posts of a blog under which readers see a comment."""
    return set(
        db.column("SELECT DISTINCT post_id FROM comment WHERE blog_id = ? AND state = ?", blog_id, SHOWN)
    )


def set_state(db: Database, numbers: list[int], state: str, person_id: int) -> None:
    db.run_many(
        "UPDATE comment SET state = ?, settled_by = ? WHERE id = ?",
        [(state, person_id, number) for number in numbers],
    )


def set_learned(db: Database, number: int, what: str) -> None:
    """Notes what the guard against robots learned from a comment."""
    db.run("UPDATE comment SET learned = ? WHERE id = ?", what, number)


def refused(db: Database, blog_id: int, most: int) -> list[int]:
    """Refused comments, the oldest first."""
    return db.column(
        f"SELECT id FROM comment WHERE blog_id = ? AND state = 'refused' AND {db.sees('post_id')} ORDER BY id LIMIT ?",
        blog_id,
        most,
    )


def remove(db: Database, numbers: list[int]) -> None:
    """Removes comments, and their answers, for good."""
    db.run_many("DELETE FROM comment WHERE id = ?", [(number,) for number in numbers])


def one(db: Database, number: int) -> Comment | None:
    return maybe(_comment, db.one("SELECT * FROM comment WHERE id = ?", number))


def rewrite(db: Database, number: int, text: str, state: str, why: str, fingerprint: str) -> None:
    """Gives a comment another text, and the state that follows from it."""
    db.run(
        "UPDATE comment SET text = ?, state = ?, why = ?, fingerprint = ? WHERE id = ?",
        text, state, why, fingerprint, number,
    )  # fmt: skip


def newest_shown(db: Database, blog_id: int, post_id: int, now: int, most: int) -> list[Comment]:
    """The newest comments that everybody sees, of one post or (0) of all: under posts that are out for everyone."""
    return [
        _comment(row)
        for row in db.all(
            "SELECT * FROM comment WHERE blog_id = ?1 AND state = ?2 AND (?3 = 0 OR post_id = ?3) AND EXISTS (SELECT 1 FROM placement"
            " WHERE placement.post_id = comment.post_id AND shows_from <= ?4 AND shows_until > ?4 AND audience = 'everyone') ORDER BY id DESC LIMIT ?5",
            blog_id, SHOWN, post_id, now, most,
        )
    ]  # fmt: skip


def waiting_since(db: Database, blog_id: int, since: int) -> list[Comment]:
    """Comments that wait and were made from an instant on."""
    return [
        _comment(row)
        for row in db.all(
            "SELECT * FROM comment WHERE blog_id = ? AND state = ? AND made_at >= ? ORDER BY id",
            blog_id,
            WAITS,
            since,
        )
    ]

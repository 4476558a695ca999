"""What readers answered to the questions of posts."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from mobbet.store.database import Database


@dataclass(frozen=True)
class Answer:
    """One reader's answers to a form or poll of a post: [[question, answer], ...]."""

    id: int
    post_id: int
    form: str
    person_id: int | None
    answers: list[list[Any]]
    made_at: int


@dataclass(frozen=True)
class AnsweredForm:
    """A form or poll with answers: of which post, under which heading, how many, and when the newest came."""

    post_id: int
    form: str
    title: str
    count: int
    newest_at: int


def add(
    db: Database, blog_id: int, post_id: int, form: str, title: str, person_id: int | None, voter: str, network: str, answers: list[list[Any]], now: int,
) -> bool:  # fmt: skip
    """Keeps answers; False where that voter voted before."""
    return (
        db.run(
            "INSERT OR IGNORE INTO answer (blog_id, post_id, form, title, person_id, voter, network, answers, made_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            blog_id, post_id, form, title, person_id, voter, network, json.dumps(answers, ensure_ascii=False), now,
        ).rowcount
        > 0
    )  # fmt: skip


def has_voted(db: Database, post_id: int, form: str, voter: str) -> bool:
    return bool(
        db.value("SELECT 1 FROM answer WHERE post_id = ? AND form = ? AND voter = ?", post_id, form, voter)
    )


def count_of_network(db: Database, post_id: int, form: str, network: str) -> int:
    """How many votes came from a network."""
    return db.value(
        "SELECT COUNT(*) FROM answer WHERE post_id = ? AND form = ? AND network = ?", post_id, form, network
    )


def forms(db: Database, blog_id: int, author: int, most: int) -> list[AnsweredForm]:
    """The forms with answers, the newest answered first; those in posts of one author where the number is not 0."""
    rows = db.tuples(
        "SELECT post_id, form, MAX(title), COUNT(*), MAX(made_at) FROM answer WHERE blog_id = ?1"
        " AND (?2 = 0 OR EXISTS (SELECT 1 FROM post WHERE post.id = post_id AND author_id = ?2)) AND "
        + db.sees("post_id")
        + " GROUP BY post_id, form ORDER BY MAX(made_at) DESC LIMIT ?3",
        blog_id, author, most,
    )  # fmt: skip
    return [AnsweredForm(*row) for row in rows]


def of_form(db: Database, post_id: int, form: str, before: int, most: int) -> list[Answer]:
    """Answers with numbers below `before`, the newest first."""
    rows = db.tuples(
        "SELECT id, post_id, form, person_id, answers, made_at FROM answer WHERE post_id = ? AND form = ? AND id < ? ORDER BY id DESC LIMIT ?",
        post_id, form, before, most,
    )  # fmt: skip
    return [Answer(row[0], row[1], row[2], row[3], json.loads(row[4]), row[5]) for row in rows]


def count(db: Database, post_id: int, form: str) -> int:
    return db.value("SELECT COUNT(*) FROM answer WHERE post_id = ? AND form = ?", post_id, form)


def remove(db: Database, post_id: int, form: str, number: int) -> int:
    """Removes one answer to a form, or (0) all of them; answers with how many."""
    return db.run(
        "DELETE FROM answer WHERE post_id = ?1 AND form = ?2 AND (?3 = 0 OR id = ?3)", post_id, form, number
    ).rowcount

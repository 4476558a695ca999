"""What the guard against robots learned on a blog."""

from __future__ import annotations

import json
from collections.abc import Iterable

from mobbet.core.robots import Learned
from mobbet.store.database import Database

ALL = ""
"""The sign whose counts are those of all comments."""
MOST = 50_000
"""How many signs are kept of a blog; further ones are not learned."""


def learned(db: Database, blog_id: int, signs: Iterable[str]) -> Learned:
    """What is known of some signs."""
    rows = db.tuples(
        "SELECT sign, robots, people FROM robot_sign WHERE blog_id = ? AND sign IN (SELECT value FROM JSON_EACH(?))",
        blog_id, json.dumps([ALL, *signs]),
    )  # fmt: skip
    of_all = next(((robots, people) for sign, robots, people in rows if sign == ALL), (0, 0))
    return Learned(
        {sign: robots for sign, robots, _ in rows if sign},
        {sign: people for sign, _, people in rows if sign},
        *of_all,
    )


def learn(db: Database, blog_id: int, signs: Iterable[str], robots: int, people: int) -> None:
    """Adds to the counts of signs, or takes from them."""
    is_full = db.value("SELECT COUNT(*) FROM robot_sign WHERE blog_id = ?", blog_id) >= MOST
    sql = (
        "UPDATE robot_sign SET robots = MAX(0, robots + ?3), people = MAX(0, people + ?4) WHERE blog_id = ?1 AND sign = ?2"
        if is_full
        else "INSERT INTO robot_sign VALUES (?1, ?2, MAX(0, ?3), MAX(0, ?4)) ON CONFLICT DO UPDATE SET robots = MAX(0, robots + ?3), people = MAX(0, people + ?4)"
    )
    db.run_many(sql, [(blog_id, sign, robots, people) for sign in {ALL, *signs}])


def refused_alike(db: Database, blog_id: int, fingerprint: str, since: int) -> int:
    """How many comments with the same words were refused since an instant."""
    if not fingerprint:
        return 0
    return db.value(
        "SELECT COUNT(*) FROM comment WHERE blog_id = ? AND fingerprint = ? AND state = 'refused' AND made_at > ?",
        blog_id, fingerprint, since,
    )  # fmt: skip


def is_known(db: Database, blog_id: int, name: str, email: str) -> bool:
    """Whether comments of that name and e-mail address were shown before."""
    return bool(email) and db.value(
        "SELECT 1 FROM comment WHERE blog_id = ? AND name = ? AND email = ? AND state = 'shown' LIMIT 1",
        blog_id, name, email,
    ) is not None  # fmt: skip


def under_lately(db: Database, post_id: int, since: int) -> int:
    """How many comments of people who were not signed in came under a post since an instant."""
    return db.value(
        "SELECT COUNT(*) FROM comment WHERE post_id = ? AND made_at > ? AND person_id IS NULL", post_id, since
    )

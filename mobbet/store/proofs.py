"""What is kept of proofs: ignored marks, learned words, answers of links, and the counts of each post."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of


@dataclass(frozen=True)
class Ignored:
    """An ignored mark, and the reason."""

    sign: str
    reason: str
    person: str
    ignored_at: int


@dataclass(frozen=True)
class LinkAnswer:
    """What came back from an address; it is asked again at `next_at`."""

    address: str
    asked_at: int
    next_at: int
    problem: str
    ends_at: str
    since: int
    tries: int


@dataclass(frozen=True)
class Overridden:
    """A post that went out in spite of its marks."""

    person: str
    overridden_at: int
    reason: str
    marks: list[str]


@dataclass(frozen=True)
class ReadProof:
    """What the proof of a post came to: its marks by severity, and {check: count}."""

    post_id: int
    title: str
    must: int
    should: int
    could: int
    checks: dict[str, int]


def ignored(db: Database, post_id: int) -> dict[str, Ignored]:
    """{sign: why it stands}."""
    rows = db.all(
        "SELECT sign, reason, person.name AS person, ignored_at FROM ignored_mark JOIN person ON person.id = person_id WHERE post_id = ? ORDER BY ignored_at, sign",
        post_id,
    )
    return {row["sign"]: Ignored(**data_of(row)) for row in rows}


def ignore(db: Database, post_id: int, sign: str, reason: str, person_id: int, now: int) -> None:
    db.run(
        "INSERT OR REPLACE INTO ignored_mark VALUES (?, ?, ?, ?, ?)", post_id, sign, reason, person_id, now
    )


def unignore(db: Database, post_id: int, sign: str) -> None:
    db.run("DELETE FROM ignored_mark WHERE post_id = ? AND sign = ?", post_id, sign)


def learned(db: Database, person_id: int, blog_id: int) -> frozenset[str]:
    """The words learned for a blog, and for a person."""
    rows = db.all(
        "SELECT word FROM learned_word WHERE (person_id = 0 AND blog_id = ?) OR (person_id = ? AND person_id <> 0)",
        blog_id,
        person_id,
    )
    return frozenset(row[0] for row in rows)


def learned_for(db: Database, *, person_id: int = 0, blog_id: int = 0) -> list[str]:
    """The words learned for one of the two, in order."""
    return [
        row[0]
        for row in db.all(
            "SELECT word FROM learned_word WHERE person_id = ? AND blog_id = ? ORDER BY word COLLATE NOCASE",
            person_id,
            blog_id,
        )
    ]


def learn(db: Database, word: str, now: int, *, person_id: int = 0, blog_id: int = 0) -> None:
    db.run("INSERT OR IGNORE INTO learned_word VALUES (?, ?, ?, ?)", word, person_id, blog_id, now)


def forget(db: Database, word: str, *, person_id: int = 0, blog_id: int = 0) -> None:
    db.run(
        "DELETE FROM learned_word WHERE word = ? AND person_id = ? AND blog_id = ?", word, person_id, blog_id
    )


def answers(db: Database, addresses: list[str]) -> dict[str, LinkAnswer]:
    """What is known of these addresses."""
    rows = db.all(
        "SELECT * FROM link_answer WHERE address IN (SELECT value FROM JSON_EACH(?))", json.dumps(addresses)
    )
    return {row["address"]: LinkAnswer(**data_of(row)) for row in rows}


def set_answer(db: Database, answer: LinkAnswer) -> None:
    db.run(
        "INSERT OR REPLACE INTO link_answer VALUES (?, ?, ?, ?, ?, ?, ?)",
        answer.address, answer.asked_at, answer.next_at, answer.problem, answer.ends_at, answer.since, answer.tries,
    )  # fmt: skip


def to_ask(db: Database, now: int, most: int) -> list[str]:
    """Addresses of posts that no answer is known of, or an old one: those of posts first that changed last."""
    return [
        row[0]
        for row in db.all(
            "SELECT post_link_out.address FROM post_link_out JOIN post ON post.id = post_id JOIN blog ON blog.id = blog_id"
            " LEFT JOIN link_answer ON link_answer.address = post_link_out.address"
            " WHERE tries_links = 1 AND aside_at IS NULL AND IFNULL(next_at, 0) <= ?"
            " GROUP BY post_link_out.address ORDER BY MAX(post.changed_at) DESC LIMIT ?",
            now, most,
        )
    ]  # fmt: skip


def due(db: Database, addresses: list[str], now: int) -> list[str]:
    """Those of some addresses that no answer is known of, or an old one."""
    known = answers(db, addresses)
    return [one for one in addresses if one not in known or known[one].next_at <= now]


def posts_leading_to(db: Database, address: str) -> list[int]:
    return [row[0] for row in db.all("SELECT post_id FROM post_link_out WHERE address = ?", address)]


def set_links_out(db: Database, post_id: int, addresses: list[str]) -> None:
    db.run("DELETE FROM post_link_out WHERE post_id = ?", post_id)
    db.run_many(
        "INSERT OR IGNORE INTO post_link_out VALUES (?, ?)", [(post_id, address) for address in addresses]
    )


def set_read(
    db: Database,
    post_id: int,
    blog_id: int,
    revision: int,
    changed_at: int,
    now: int,
    counts: dict[str, int],
    checks: dict[str, int],
) -> None:
    """Keeps what a post's proof came to, of that state of it; `counts` by severity."""
    db.run(
        "INSERT OR REPLACE INTO post_proof VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        post_id, blog_id, revision, changed_at, now, counts["must"], counts["should"], counts["could"], json.dumps(checks),
    )  # fmt: skip


def forget_read(db: Database, post_ids: list[int]) -> None:
    """Posts that are to be read again though they did not change."""
    db.run_many("DELETE FROM post_proof WHERE post_id = ?", [(number,) for number in post_ids])


def forget_all_read(db: Database, blog_id: int) -> None:
    db.run("UPDATE post_proof SET revision = 0 WHERE blog_id = ?", blog_id)


def forget_read_with(db: Database, blog_id: int, check: str) -> None:
    """Posts with a mark of that check are to be read again."""
    db.run(
        "UPDATE post_proof SET revision = 0 WHERE blog_id = ? AND JSON_EXTRACT(checks, '$.\"' || ? || '\"') IS NOT NULL",
        blog_id,
        check,
    )


def unread(db: Database, most: int) -> list[int]:
    """Posts of any blog whose proof is of an earlier state, or was never read; those that changed last come first."""
    return [
        row[0]
        for row in db.all(
            "SELECT post.id FROM post LEFT JOIN post_proof ON post_id = post.id WHERE aside_at IS NULL"
            " AND (post_id IS NULL OR post_proof.revision <> post.revision OR post_proof.changed_at <> post.changed_at) ORDER BY post.changed_at DESC LIMIT ?",
            most,
        )
    ]


def counts(db: Database, post_ids: list[int]) -> dict[int, tuple[int, int, int]]:
    """{post: (must, should, could)} of those that were read."""
    rows = db.all(
        "SELECT post_id, must, should, could FROM post_proof WHERE post_id IN (SELECT value FROM JSON_EACH(?))",
        json.dumps(post_ids),
    )
    return {row[0]: (row[1], row[2], row[3]) for row in rows}


def totals(db: Database, blog_id: int, author_id: int = 0) -> tuple[int, int, int, int, int]:
    """(posts read, posts still to read, must, should, could) of a blog, or of one author's posts there."""
    row = existing(db.one(
        "SELECT COUNT(post_proof.post_id), COUNT(*), IFNULL(SUM(must), 0), IFNULL(SUM(should), 0), IFNULL(SUM(could), 0)"
        " FROM post LEFT JOIN post_proof ON post_proof.post_id = post.id AND post_proof.revision > 0 WHERE post.blog_id = ? AND aside_at IS NULL AND (? = 0 OR author_id = ?)"
        f" AND {db.sees()}",
        blog_id, author_id, author_id,
    ))  # fmt: skip
    return row[0], row[1] - row[0], row[2], row[3], row[4]


def by_check(db: Database, blog_id: int, author_id: int = 0) -> list[tuple[str, int, int]]:
    """(check, posts, marks) of a blog, by name."""
    rows = db.all(
        "SELECT key, COUNT(*), SUM(value) FROM post_proof JOIN post ON post.id = post_id, JSON_EACH(post_proof.checks)"
        f" WHERE post_proof.blog_id = ? AND aside_at IS NULL AND {db.sees()} AND (? = 0 OR author_id = ?) GROUP BY key ORDER BY key",
        blog_id, author_id, author_id,
    )  # fmt: skip
    return [(row[0], row[1], row[2]) for row in rows]


def with_check(
    db: Database, blog_id: int, check: str, after: int, most: int, author_id: int = 0
) -> list[ReadProof]:
    """Posts that have a mark of a check ('' for any), from the newest on, that come after the one with that number (0 for the first)."""
    rows = db.all(
        "SELECT post_id, title, must, should, could, checks FROM post_proof JOIN post ON post.id = post_id WHERE post_proof.blog_id = ? AND aside_at IS NULL"
        " AND (? = '' AND must + should + could > 0 OR JSON_EXTRACT(checks, '$.\"' || ? || '\"') IS NOT NULL) AND (? = 0 OR post_id < ?) AND (? = 0 OR author_id = ?)"
        f" AND {db.sees()} ORDER BY post_id DESC LIMIT ?",
        blog_id, check, check, after, after, author_id, author_id, most,
    )  # fmt: skip
    return [_read(row) for row in rows]


def _read(row: Row) -> ReadProof:
    values = data_of(row)
    values["checks"] = json.loads(values["checks"])
    return ReadProof(**values)


def note_day(db: Database, blog_id: int, day: str) -> None:
    """Keeps what a blog's proof comes to as that day's."""
    posts, _, must, should, could = totals(db, blog_id)
    db.run(
        "INSERT OR REPLACE INTO proof_day VALUES (?, ?, ?, ?, ?, ?)", blog_id, day, posts, must, should, could
    )


def days(db: Database, blog_id: int, most: int) -> list[tuple[str, int, int, int, int]]:
    """(day, posts, must, should, could), the oldest first."""
    return [
        tuple(row)
        for row in db.all(
            "SELECT day, posts, must, should, could FROM proof_day WHERE blog_id = ? ORDER BY day DESC LIMIT ?",
            blog_id,
            most,
        )
    ][::-1]


def override(db: Database, post_id: int, person_id: int, reason: str, marks: list[str], now: int) -> None:
    """Notes who let a post go out in spite of its marks, and why."""
    db.run(
        "INSERT INTO overridden (post_id, person_id, overridden_at, reason, marks) VALUES (?, ?, ?, ?, ?)",
        post_id,
        person_id,
        now,
        reason,
        json.dumps(marks),
    )


def last_override(db: Database, post_id: int) -> Overridden | None:
    """Who last let a post go out in spite of its marks, and why; None for nobody."""
    row = db.one(
        "SELECT name AS person, overridden_at, reason, marks FROM overridden JOIN person ON person.id = person_id WHERE post_id = ? ORDER BY overridden.id DESC LIMIT 1",
        post_id,
    )
    return (
        Overridden(row["person"], row["overridden_at"], row["reason"], json.loads(row["marks"]))
        if row
        else None
    )

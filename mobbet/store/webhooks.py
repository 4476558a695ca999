"""Webhooks of blogs, what each was told of, and what is sent to it."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Webhook:
    """An address that is told of events; `secret` is sealed, `edition` and `comment_id` say up to where it was told, `ended` why it is told no more."""

    id: int
    blog_id: int
    address: str
    secret: str
    events: tuple[str, ...]
    made_at: int
    edition: int
    comment_id: int
    ended: str


@dataclass(frozen=True)
class Sending:
    """One message: `state` is 'waiting', 'sent' or 'failed', `answer` what came of the last try."""

    id: int
    webhook_id: int
    event: str
    body: str
    made_at: int
    state: str
    tries: int
    next_try: int
    answer: str


def _webhook(row: Row) -> Webhook:
    values = data_of(row)
    return Webhook(**{**values, "events": tuple(json.loads(values["events"]))})


def add(
    db: Database, blog_id: int, address: str, secret: str, events: tuple[str, ...], now: int, edition: int
) -> int:
    """Adds a webhook, which is told of nothing that was before."""
    last = db.value("SELECT MAX(id) FROM comment WHERE blog_id = ?", blog_id) or 0
    number = db.value(
        "INSERT INTO webhook (blog_id, address, secret, events, made_at, edition, comment_id) VALUES (?, ?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id, address, secret, json.dumps(events), now, edition, last,
    )  # fmt: skip
    db.run(
        "INSERT INTO webhook_told SELECT ?, placement.post_id, placement.id, revision.title, path FROM placement"
        " JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND audience = 'everyone' AND shows_from <= ? AND shows_until > ?",
        number, blog_id, now, now,
    )  # fmt: skip
    return number


def set_secret(db: Database, number: int, secret: str) -> None:
    db.run("UPDATE webhook SET secret = ? WHERE id = ?", secret, number)


def of_blog(db: Database, blog_id: int) -> list[Webhook]:
    return [_webhook(row) for row in db.all("SELECT * FROM webhook WHERE blog_id = ? ORDER BY id", blog_id)]


def open_ones(db: Database) -> list[Webhook]:
    """Those that are told of things."""
    return [_webhook(row) for row in db.all("SELECT * FROM webhook WHERE ended = '' ORDER BY id")]


def by_id(db: Database, number: int) -> Webhook | None:
    return maybe(_webhook, db.one("SELECT * FROM webhook WHERE id = ?", number))


def remove(db: Database, number: int) -> None:
    db.run("DELETE FROM webhook WHERE id = ?", number)


def end(db: Database, number: int, why: str) -> None:
    """Tells a webhook nothing more, until it is added again."""
    db.run("UPDATE webhook SET ended = ? WHERE id = ?", why, number)
    db.run("UPDATE webhook_sending SET state = 'failed' WHERE webhook_id = ? AND state = 'waiting'", number)


def changed_posts(db: Database, hook: Webhook, now: int) -> list[dict[str, Any]]:
    """What is out for everyone otherwise than a webhook was told: {event, post_id, placement_id, title, path}."""
    rows = db.named(_CHANGED, {"hook": hook.id, "blog": hook.blog_id, "now": now})
    return [data_of(row) for row in rows]


_CHANGED = """
SELECT CASE WHEN told.post_id IS NULL THEN 'post.out' ELSE 'post.changed' END AS event, placement.post_id, placement.id AS placement_id, revision.title, placement.path
FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision
LEFT JOIN webhook_told AS told ON told.webhook_id = :hook AND told.post_id = placement.post_id
WHERE blog_id = :blog AND audience = 'everyone' AND shows_from <= :now AND shows_until > :now AND told.placement_id IS NOT placement.id
UNION ALL
SELECT 'post.down', told.post_id, 0, told.title, told.path FROM webhook_told AS told
WHERE webhook_id = :hook AND NOT EXISTS
    (SELECT 1 FROM placement WHERE placement.post_id = told.post_id AND audience = 'everyone' AND shows_from <= :now AND shows_until > :now)
ORDER BY 2, 1
"""


def tell(db: Database, hook: Webhook, change: dict[str, Any]) -> None:
    """Notes what a webhook was told of a post."""
    if change["event"] == "post.down":
        db.run("DELETE FROM webhook_told WHERE webhook_id = ? AND post_id = ?", hook.id, change["post_id"])
    else:
        db.run(
            "INSERT OR REPLACE INTO webhook_told VALUES (?, ?, ?, ?, ?)",
            hook.id,
            change["post_id"],
            change["placement_id"],
            change["title"],
            change["path"],
        )


def waiting_comments(db: Database, hook: Webhook, most: int) -> list[tuple[int, int, str]]:
    """(comment, post, title of the post) of comments that wait and came since a webhook was told last."""
    return db.tuples(
        "SELECT comment.id, post_id, title FROM comment JOIN post ON post.id = post_id WHERE comment.blog_id = ? AND comment.id > ? AND state = 'waits' ORDER BY comment.id LIMIT ?",
        hook.blog_id, hook.comment_id, most,
    )  # fmt: skip


def set_seen(db: Database, number: int, edition: int, comment_id: int) -> None:
    db.run("UPDATE webhook SET edition = ?, comment_id = ? WHERE id = ?", edition, comment_id, number)


def add_sending(db: Database, number: int, event: str, body: str, now: int) -> None:
    db.run(
        "INSERT INTO webhook_sending (webhook_id, event, body, made_at, next_try) VALUES (?, ?, ?, ?, ?)",
        number,
        event,
        body,
        now,
        now,
    )
    db.run(
        "DELETE FROM webhook_sending WHERE webhook_id = ? AND state <> 'waiting' AND id NOT IN (SELECT id FROM webhook_sending WHERE webhook_id = ? ORDER BY id DESC LIMIT 200)",
        number, number,
    )  # fmt: skip


def due(db: Database, now: int, most: int) -> list[Sending]:
    rows = db.all(
        "SELECT * FROM webhook_sending WHERE state = 'waiting' AND next_try <= ? ORDER BY next_try, id LIMIT ?",
        now,
        most,
    )
    return [Sending(**data_of(row)) for row in rows]


def newest(db: Database, number: int, most: int) -> list[Sending]:
    return [
        Sending(**data_of(row))
        for row in db.all(
            "SELECT * FROM webhook_sending WHERE webhook_id = ? ORDER BY id DESC LIMIT ?", number, most
        )
    ]


def settle_sending(db: Database, number: int, state: str, tries: int, next_try: int, answer: str) -> None:
    db.run(
        "UPDATE webhook_sending SET state = ?, tries = ?, next_try = ?, answer = ? WHERE id = ?",
        state,
        tries,
        next_try,
        answer,
        number,
    )


def send_again(db: Database, webhook_id: int, number: int, now: int) -> bool:
    """Has a message sent once more; whether there was one."""
    return bool(
        db.run(
            "UPDATE webhook_sending SET state = 'waiting', tries = 0, next_try = ? WHERE id = ? AND webhook_id = ?",
            now,
            number,
            webhook_id,
        ).rowcount
    )

"""Letters to subscribers: what goes to many, and each hand-over of it to one."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.letters import GOING, REFUSED, SENT, WAITING
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Mailing:
    """A letter to many: of a post, a correction of it, a digest or a comment (`kind`). `shows` is JSON [[post, placement], ...]."""

    id: int
    blog_id: int
    kind: str
    post_id: int | None
    number: int
    every: str
    shows: str
    subject: str
    text: str
    html: str
    words: str
    made_at: int

    @property
    def shown(self) -> list[tuple[int, int]]:
        """(post, placement) of what its text was made of."""
        return [(post, placement) for post, placement in json.loads(self.shows)]


@dataclass(frozen=True)
class Delivery:
    """One letter to one subscriber: `waiting`, `going` (being handed over), `sent` or `refused`."""

    mailing_id: int
    subscriber_id: int
    state: str
    tries: int
    next_try: int
    problem: str
    done_at: int | None
    bounced_at: int | None


@dataclass(frozen=True)
class Tally:
    """How many letters of a mailing wait, were sent and were refused, and how many of those sent came back."""

    waiting: int = 0
    sent: int = 0
    refused: int = 0
    bounced: int = 0


def _mailing(row: Row) -> Mailing:
    return Mailing(**data_of(row))


def _delivery(row: Row) -> Delivery:
    return Delivery(**data_of(row))


def posts_to_write_about(db: Database, blog_id: int, since: int, now: int) -> list[tuple[int, int]]:
    """(post, placement) of posts that are out, went out from `since` on, and of which no letter was begun yet; the oldest first."""
    return db.tuples(
        "SELECT post_id, id FROM placement WHERE blog_id = ? AND goes_out >= ? AND goes_out <= ? AND shows_from <= ? AND shows_until > ? AND kind = ''"
        " AND letter <> 'none' AND NOT EXISTS (SELECT 1 FROM mailing WHERE mailing.post_id = placement.post_id AND mailing.kind = 'post')"
        " ORDER BY goes_out, post_id",
        blog_id, since, now, now, now,
    )  # fmt: skip


def posts_out_between(db: Database, blog_id: int, start: int, end: int, now: int) -> list[int]:
    """The posts that are out and went out after `start`, up to `end`; the newest first."""
    return db.column(
        "SELECT post_id FROM placement WHERE blog_id = ? AND goes_out > ? AND goes_out <= ? AND shows_from <= ? AND shows_until > ? AND kind = ''"
        " AND letter <> 'none' ORDER BY goes_out DESC, post_id DESC",
        blog_id, start, end, now, now,
    )  # fmt: skip


def placement_out(db: Database, post_id: int, now: int) -> tuple[int, str, int] | None:
    """(placement, audience, when it went out) of what readers get of a post now."""
    row = db.one(
        "SELECT id, audience, goes_out FROM placement WHERE post_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY id DESC LIMIT 1",
        post_id, now, now,
    )  # fmt: skip
    return (row[0], row[1], row[2]) if row else None


def add(
    db: Database, blog_id: int, kind: str, every: str, shows: list[tuple[int, int]], letter: tuple[str, str, str], now: int,
    post_id: int | None = None, number: int = 0, words: str = "",
) -> int:  # fmt: skip
    """A mailing; `letter` is (subject, text, HTML)."""
    return db.value(
        "INSERT INTO mailing (blog_id, kind, post_id, number, every, shows, subject, text, html, words, made_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id, kind, post_id, number, every, json.dumps(shows), *letter, words, now,
    )  # fmt: skip


def rewrite(db: Database, number: int, shows: list[tuple[int, int]], letter: tuple[str, str, str]) -> None:
    """Gives a mailing another text, for those whom it has not reached."""
    db.run(
        "UPDATE mailing SET shows = ?, subject = ?, text = ?, html = ? WHERE id = ?",
        json.dumps(shows), *letter, number,
    )  # fmt: skip


def by_id(db: Database, number: int) -> Mailing | None:
    return maybe(_mailing, db.one("SELECT * FROM mailing WHERE id = ?", number))


def of_post(db: Database, post_id: int) -> Mailing | None:
    """The letter of a post, once it was begun."""
    return maybe(
        _mailing, db.one("SELECT * FROM mailing WHERE post_id = ? AND kind = 'post' AND number = 0", post_id)
    )


def is_there(db: Database, post_id: int, kind: str, number: int) -> bool:
    """Whether a letter of that kind and number about a post was begun."""
    return bool(
        db.value("SELECT 1 FROM mailing WHERE post_id = ? AND kind = ? AND number = ?", post_id, kind, number)
    )


def next_number(db: Database, post_id: int, kind: str) -> int:
    return db.value(
        "SELECT IFNULL(MAX(number), 0) + 1 FROM mailing WHERE post_id = ? AND kind = ?", post_id, kind
    )


def newest(db: Database, blog_id: int, most: int) -> list[Mailing]:
    """The newest letters that go, or went, to somebody."""
    return [
        _mailing(row)
        for row in db.all(
            "SELECT * FROM mailing WHERE blog_id = ? AND EXISTS (SELECT 1 FROM delivery WHERE mailing_id = mailing.id) ORDER BY made_at DESC, id DESC LIMIT ?",
            blog_id,
            most,
        )
    ]


def tallies(db: Database, numbers: Iterable[int]) -> dict[int, Tally]:
    """{mailing: what became of its letters}."""
    known = list(numbers)
    marks = ", ".join("?" * len(known))
    rows = db.tuples(
        f"SELECT mailing_id, SUM(state IN ('{WAITING}', '{GOING}')), SUM(state = '{SENT}'), SUM(state = '{REFUSED}'), SUM(bounced_at IS NOT NULL)"
        f" FROM delivery WHERE mailing_id IN ({marks}) GROUP BY mailing_id",
        *known,
    )
    return {row[0]: Tally(*row[1:]) for row in rows}


def add_deliveries(db: Database, mailing_id: int, subscribers: Iterable[int], now: int) -> None:
    db.run_many(
        "INSERT OR IGNORE INTO delivery (mailing_id, subscriber_id, next_try) VALUES (?, ?, ?)",
        [(mailing_id, number, now) for number in subscribers],
    )


def sent_to(db: Database, mailing_id: int) -> list[int]:
    """The subscribers who got a mailing."""
    return db.column(
        "SELECT subscriber_id FROM delivery WHERE mailing_id = ? AND state = ?", mailing_id, SENT
    )


def take_up(db: Database) -> int:
    """Lets letters wait again that were being handed over when their process ended; answers with how many."""
    return db.run("UPDATE delivery SET state = ? WHERE state = ?", WAITING, GOING).rowcount


def due(db: Database, now: int, most: int, after: tuple[int, int] = (0, 0)) -> list[Delivery]:
    """Letters that may be handed over now, by mailing and subscriber, after that one."""
    return [
        _delivery(row)
        for row in db.all(
            "SELECT * FROM delivery WHERE state = ? AND next_try <= ? AND (mailing_id, subscriber_id) > (?, ?) ORDER BY mailing_id, subscriber_id LIMIT ?",
            WAITING, now, *after, most,
        )
    ]  # fmt: skip


def is_any_due(db: Database, now: int) -> bool:
    """Whether some letter may be handed over now, or was being handed over when its process ended."""
    return bool(
        db.value(
            f"SELECT 1 FROM delivery WHERE state IN ('{WAITING}', '{GOING}') AND next_try <= ? LIMIT 1", now
        )
    )


def count_waiting(db: Database) -> int:
    return db.value(f"SELECT COUNT(*) FROM delivery WHERE state IN ('{WAITING}', '{GOING}')")


def set_state(db: Database, one: Delivery, state: str, now: int, problem: str = "") -> None:
    """Notes that a letter is being handed over, was sent, or was refused."""
    db.run(
        "UPDATE delivery SET state = ?, problem = ?, done_at = ? WHERE mailing_id = ? AND subscriber_id = ?",
        state, problem, None if state == GOING else now, one.mailing_id, one.subscriber_id,
    )  # fmt: skip


def set_again(db: Database, one: Delivery, next_try: int, problem: str, tries: int) -> None:
    """Has a letter wait for another try."""
    db.run(
        "UPDATE delivery SET state = ?, tries = ?, next_try = ?, problem = ? WHERE mailing_id = ? AND subscriber_id = ?",
        WAITING, tries, next_try, problem, one.mailing_id, one.subscriber_id,
    )  # fmt: skip


def drop(db: Database, one: Delivery) -> None:
    """Leaves out a letter that is not to go to somebody any more."""
    db.run(
        "DELETE FROM delivery WHERE mailing_id = ? AND subscriber_id = ? AND state IN (?, ?)",
        one.mailing_id, one.subscriber_id, WAITING, GOING,
    )  # fmt: skip


def drop_waiting(db: Database, mailing_id: int) -> int:
    """Leaves out what has not gone of a mailing; answers with how many letters."""
    return db.run("DELETE FROM delivery WHERE mailing_id = ? AND state = ?", mailing_id, WAITING).rowcount


def set_bounced(db: Database, mailing_id: int, subscriber_id: int, problem: str, now: int) -> bool:
    """Notes that a letter came back; False where that was known."""
    return (
        db.run(
            "UPDATE delivery SET bounced_at = ?, problem = ? WHERE mailing_id = ? AND subscriber_id = ? AND bounced_at IS NULL AND state = ?",
            now, problem, mailing_id, subscriber_id, SENT,
        ).rowcount
        > 0
    )  # fmt: skip


def begin_digest(db: Database, blog_id: int, every: str, until: int) -> bool:
    """True for whoever is first to put a digest together."""
    return db.run("INSERT OR IGNORE INTO digest VALUES (?, ?, ?)", blog_id, every, until).rowcount > 0


def last_digest(db: Database, blog_id: int, every: str) -> int | None:
    """Until when the last digest told."""
    return db.value("SELECT MAX(until) FROM digest WHERE blog_id = ? AND every = ?", blog_id, every)


def pause(db: Database) -> tuple[int, int, str] | None:
    """(tries, until when, why) nothing is handed over to the mail server."""
    row = db.one("SELECT tries, until, problem FROM mail_pause")
    return (row[0], row[1], row[2]) if row else None


def set_pause(db: Database, tries: int, until: int, problem: str) -> None:
    db.run("INSERT OR REPLACE INTO mail_pause VALUES (1, ?, ?, ?)", tries, until, problem)


def end_pause(db: Database) -> None:
    db.run("DELETE FROM mail_pause")


def days(db: Database, blog_id: int, since: int) -> list[int]:
    """When mailings were made since an instant."""
    return db.column(
        "SELECT made_at FROM mailing WHERE blog_id = ? AND made_at >= ? AND EXISTS (SELECT 1 FROM delivery WHERE mailing_id = mailing.id)",
        blog_id,
        since,
    )


def authors_out(db: Database, blog_id: int, now: int) -> list[int]:
    """Those by whom posts for everyone are out."""
    return db.column(
        "SELECT DISTINCT author_id FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? AND kind = '' AND audience = 'everyone' ORDER BY author_id",
        blog_id, now, now,
    )  # fmt: skip


def series_out(db: Database, blog_id: int, now: int) -> list[int]:
    """The series of which a part for everyone is out."""
    return db.column(
        "SELECT DISTINCT series_id FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? AND kind = '' AND audience = 'everyone'"
        " AND series_id IS NOT NULL ORDER BY series_id",
        blog_id, now, now,
    )  # fmt: skip


def went_out(db: Database, blog_id: int, start: int, end: int) -> list[int]:
    """When posts went out between two instants."""
    return db.column(
        "SELECT DISTINCT goes_out FROM placement WHERE blog_id = ? AND goes_out BETWEEN ? AND ? AND kind = '' ORDER BY goes_out",
        blog_id, start, end,
    )  # fmt: skip

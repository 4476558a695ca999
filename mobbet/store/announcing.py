"""Accounts elsewhere, and what was announced there."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.announcing import GOING, UNCLEAR, WAITING
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Account:
    """An account of a blog elsewhere; `token` is sealed, `delay` in minutes."""

    id: int
    blog_id: int
    kind: str
    name: str
    address: str
    profile: str
    token: str
    pattern: str
    longest: int
    delay: int
    since: int


@dataclass(frozen=True)
class Announcement:
    """A post announced at an account."""

    account_id: int
    post_id: int
    state: str
    text: str
    tries: int
    next_try: int
    answer: str
    problem: str
    made_at: int


def _account(row: Row) -> Account:
    return Account(**data_of(row))


def _announcement(row: Row) -> Announcement:
    return Announcement(**data_of(row))


def add(db: Database, account: Account) -> int:
    """Adds an account (its id is ignored), and returns its id."""
    values = {name: value for name, value in account.__dict__.items() if name != "id"}
    return db.value(
        f"INSERT INTO account ({', '.join(values)}) VALUES ({', '.join('?' * len(values))}) RETURNING id",
        *values.values(),
    )


def of_blog(db: Database, blog_id: int) -> list[Account]:
    return [_account(row) for row in db.all("SELECT * FROM account WHERE blog_id = ? ORDER BY id", blog_id)]


def by_id(db: Database, number: int) -> Account | None:
    return maybe(_account, db.one("SELECT * FROM account WHERE id = ?", number))


def settle(db: Database, number: int, **values: object) -> None:
    """Writes columns of an account: pattern, longest, delay, token."""
    for column, value in values.items():
        assert column in ("pattern", "longest", "delay", "token"), column
        db.run(f"UPDATE account SET {column} = ? WHERE id = ?", value, number)


def remove(db: Database, number: int) -> None:
    db.run("DELETE FROM account WHERE id = ?", number)


def posts_to_announce(db: Database, account: Account, oldest: int, now: int) -> list[int]:
    """The posts for everyone that are out, went out since the account was added and `delay` ago, and were not announced there."""
    return db.column(
        "SELECT post_id FROM placement WHERE blog_id = ? AND goes_out BETWEEN ? AND ? AND shows_from <= ? AND shows_until > ? AND kind = '' AND audience = 'everyone'"
        " AND announce <> 'none' AND NOT EXISTS (SELECT 1 FROM announcement WHERE announcement.post_id = placement.post_id AND account_id = ?) ORDER BY goes_out",
        account.blog_id, max(account.since, oldest), now - 60 * account.delay, now, now, account.id,
    )  # fmt: skip


def begin(db: Database, account_id: int, post_id: int, text: str, now: int) -> None:
    db.run(
        "INSERT OR IGNORE INTO announcement (account_id, post_id, text, next_try, made_at) VALUES (?, ?, ?, ?, ?)",
        account_id, post_id, text, now, now,
    )  # fmt: skip


def due(db: Database, now: int, most: int) -> list[Announcement]:
    return [
        _announcement(row)
        for row in db.all(
            "SELECT * FROM announcement WHERE state = ? AND next_try <= ? ORDER BY next_try LIMIT ?",
            WAITING,
            now,
            most,
        )
    ]


def is_any_going(db: Database) -> bool:
    return bool(db.value("SELECT 1 FROM announcement WHERE state = ? LIMIT 1", GOING))


def give_up_going(db: Database) -> None:
    """Marks what was being sent when its process ended: nobody knows whether it arrived, so it is not sent again by itself."""
    db.run("UPDATE announcement SET state = ? WHERE state = ?", UNCLEAR, GOING)


def set_state(
    db: Database,
    one: Announcement,
    state: str,
    tries: int,
    next_try: int,
    answer: str = "",
    problem: str = "",
) -> None:
    db.run(
        "UPDATE announcement SET state = ?, tries = ?, next_try = ?, answer = ?, problem = ? WHERE account_id = ? AND post_id = ?",
        state, tries, next_try, answer, problem, one.account_id, one.post_id,
    )  # fmt: skip


def one(db: Database, account_id: int, post_id: int) -> Announcement | None:
    return maybe(
        _announcement,
        db.one("SELECT * FROM announcement WHERE account_id = ? AND post_id = ?", account_id, post_id),
    )


def of_post(db: Database, post_id: int) -> list[Announcement]:
    return [
        _announcement(row)
        for row in db.all("SELECT * FROM announcement WHERE post_id = ? ORDER BY account_id", post_id)
    ]


def newest(db: Database, blog_id: int, most: int) -> list[tuple[Announcement, str]]:
    """(announcement, name of its account) of a blog, the newest first."""
    rows = db.all(
        "SELECT announcement.*, account.name AS account_name FROM announcement JOIN account ON account.id = account_id WHERE blog_id = ? ORDER BY made_at DESC LIMIT ?",
        blog_id, most,
    )  # fmt: skip
    found = []
    for row in rows:
        values = data_of(row)
        name = values.pop("account_name")
        found.append((Announcement(**values), name))
    return found

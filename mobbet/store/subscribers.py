"""Subscribers of a blog's letters, and what each subscribed to."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.subscriptions import ASIDE, ASKED, ENDED, ON, Wish
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Subscriber:
    """Somebody who gets letters, asked for them, or did once. `key` is the secret part of the addresses at which they change or end it."""

    id: int
    blog_id: int
    email: str
    key: str
    state: str
    consent: str
    asked_at: int
    confirmed_at: int | None
    ended_at: int | None
    bounces: int
    problem: str
    wishes: str = "[]"

    @property
    def asked(self) -> tuple[Wish, ...]:
        """What they asked for and have not confirmed."""
        return tuple(Wish(*pair) for pair in json.loads(self.wishes))


def _subscriber(row: Row) -> Subscriber:
    return Subscriber(**data_of(row))


def add(db: Database, blog_id: int, email: str, key: str, consent: str, now: int) -> Subscriber:
    """A subscriber who has confirmed nothing yet; one with that address stays as they are."""
    db.run(
        "INSERT OR IGNORE INTO subscriber (blog_id, email, key, state, consent, asked_at) VALUES (?, ?, ?, ?, ?, ?)",
        blog_id, email, key, ASKED, consent, now,
    )  # fmt: skip
    found = by_email(db, blog_id, email)
    assert found is not None
    return found


def by_id(db: Database, number: int) -> Subscriber | None:
    return maybe(_subscriber, db.one("SELECT * FROM subscriber WHERE id = ?", number))


def by_email(db: Database, blog_id: int, email: str) -> Subscriber | None:
    return maybe(
        _subscriber, db.one("SELECT * FROM subscriber WHERE blog_id = ? AND email = ?", blog_id, email)
    )


def by_key(db: Database, blog_id: int, key: str) -> Subscriber | None:
    return maybe(_subscriber, db.one("SELECT * FROM subscriber WHERE blog_id = ? AND key = ?", blog_id, key))


def page(db: Database, blog_id: int, state: str, words: str, after: str, most: int) -> list[Subscriber]:
    """Subscribers of a state by address, from after that one on; with `words`, those whose address has them."""
    return [
        _subscriber(row)
        for row in db.all(
            "SELECT * FROM subscriber WHERE blog_id = ? AND state = ? AND email > ? AND instr(lower(email), lower(?)) > 0 ORDER BY email LIMIT ?",
            blog_id, state, after, words, most,
        )
    ]  # fmt: skip


def every(db: Database, blog_id: int) -> list[Subscriber]:
    """All subscribers of a blog by address."""
    return [
        _subscriber(row)
        for row in db.all("SELECT * FROM subscriber WHERE blog_id = ? ORDER BY email", blog_id)
    ]


def counts(db: Database, blog_id: int) -> dict[str, int]:
    """{state: how many}."""
    return dict(db.tuples("SELECT state, COUNT(*) FROM subscriber WHERE blog_id = ? GROUP BY state", blog_id))


def counts_by_wish(db: Database, blog_id: int) -> list[tuple[str, str, int]]:
    """(what, how often, how many) of those who get letters."""
    return db.tuples(
        "SELECT what, every, COUNT(*) FROM subscription JOIN subscriber ON subscriber.id = subscriber_id WHERE blog_id = ? AND state = ?"
        " GROUP BY what, every ORDER BY COUNT(*) DESC, what",
        blog_id, ON,
    )  # fmt: skip


def ask_for(db: Database, number: int, wishes: Iterable[Wish], consent: str, now: int) -> None:
    """Keeps what somebody asks for until they confirm it."""
    kept = json.dumps([[wish.what, wish.every] for wish in wishes])
    db.run(
        "UPDATE subscriber SET wishes = ?, asked_at = ?, consent = iif(state = ?, consent, ?) WHERE id = ?",
        kept, now, ON, consent, number,
    )  # fmt: skip


def confirm(db: Database, number: int, now: int) -> None:
    """Has somebody get letters; what had come back before counts no more."""
    db.run(
        "UPDATE subscriber SET state = ?, confirmed_at = ?, ended_at = NULL, bounces = 0, problem = '', wishes = '[]' WHERE id = ?",
        ON, now, number,
    )  # fmt: skip


def end(db: Database, number: int, now: int) -> None:
    """Ends all letters to somebody."""
    db.run("UPDATE subscriber SET state = ?, ended_at = ?, wishes = '[]' WHERE id = ?", ENDED, now, number)
    db.run("DELETE FROM subscription WHERE subscriber_id = ?", number)


def remove(db: Database, number: int) -> None:
    """Forgets somebody, with all that was sent to them."""
    db.run("DELETE FROM subscriber WHERE id = ?", number)


def count_bounce(db: Database, number: int, problem: str, most: int) -> None:
    """Notes a letter that came back; after so many the address is set aside."""
    db.run("UPDATE subscriber SET bounces = bounces + 1, problem = ? WHERE id = ?", problem, number)
    db.run(
        "UPDATE subscriber SET state = ? WHERE id = ? AND state = ? AND bounces >= ?", ASIDE, number, ON, most
    )


def remove_unconfirmed(db: Database, before: int) -> int:
    """Forgets those who asked before an instant and never confirmed; answers with how many."""
    return db.run("DELETE FROM subscriber WHERE state = ? AND asked_at < ?", ASKED, before).rowcount


def wishes_of(db: Database, number: int) -> list[Wish]:
    return [
        Wish(*row)
        for row in db.tuples(
            "SELECT what, every FROM subscription WHERE subscriber_id = ? ORDER BY what", number
        )
    ]


def set_wishes(db: Database, number: int, wishes: Iterable[Wish], now: int) -> None:
    """What somebody subscribes to from now on."""
    db.run("DELETE FROM subscription WHERE subscriber_id = ?", number)
    add_wishes(db, number, wishes, now)


def add_wishes(db: Database, number: int, wishes: Iterable[Wish], now: int) -> None:
    """What somebody subscribes to besides; how often holds as it was said last."""
    db.run_many(
        "INSERT INTO subscription VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET every = excluded.every",
        [(number, wish.what, wish.every, now) for wish in wishes],
    )


@dataclass(frozen=True)
class PassedOn:
    """A subscription to what is removed, whose subscriber gets letters about something else in its place; `heir` is '' for nothing, and `is_new` says whether they got it by that."""

    subscriber: int
    what: str
    every: str
    since: int
    heir: str
    is_new: bool


def pass_on(db: Database, what: str, heir: str) -> list[PassedOn]:
    """Has those who subscribed to something, or asked for it, subscribe to something else in its place, '' for nothing."""
    rows = db.tuples(
        "SELECT subscriber_id, every, since, EXISTS (SELECT 1 FROM subscription AS other WHERE other.subscriber_id = subscription.subscriber_id AND what = ?)"
        " FROM subscription WHERE what = ?",
        heir, what,
    )  # fmt: skip
    found = [PassedOn(number, what, every, since, heir, not has) for number, every, since, has in rows]
    db.run("DELETE FROM subscription WHERE what = ?", what)
    if heir:
        db.run_many(
            "INSERT INTO subscription VALUES (?, ?, ?, ?)",
            [(one.subscriber, heir, one.every, one.since) for one in found if one.is_new],
        )
        db.run(
            "UPDATE subscriber SET wishes = REPLACE(wishes, ?, ?) WHERE INSTR(wishes, ?)",
            f'"{what}"', f'"{heir}"', f'"{what}"',
        )  # fmt: skip
    return found


def take_back(db: Database, passed: Iterable[PassedOn]) -> None:
    """Puts subscriptions back that were passed on, of those who still have what came in their place."""
    for one in passed:
        has = "SELECT 1 FROM subscription WHERE subscriber_id = ? AND what = ?"
        if one.heir and db.value(has, one.subscriber, one.heir) is None:
            continue
        db.run(
            "INSERT INTO subscription SELECT id, ?, ?, ? FROM subscriber WHERE id = ? AND state != ? ON CONFLICT DO NOTHING",
            one.what, one.every, one.since, one.subscriber, ENDED,
        )  # fmt: skip
        if one.is_new and one.heir:
            db.run("DELETE FROM subscription WHERE subscriber_id = ? AND what = ?", one.subscriber, one.heir)


def all_wishes(db: Database, blog_id: int) -> dict[int, list[Wish]]:
    """{subscriber: what they subscribed to} of those who get letters."""
    found: dict[int, list[Wish]] = defaultdict(list)
    for number, what, every in db.tuples(
        "SELECT subscriber_id, what, every FROM subscription JOIN subscriber ON subscriber.id = subscriber_id WHERE blog_id = ? AND state = ?",
        blog_id, ON,
    ):  # fmt: skip
        found[number].append(Wish(what, every))
    return dict(found)


def who_want(db: Database, blog_id: int, what: str) -> list[int]:
    """The subscribers who get letters and subscribed to exactly this."""
    return db.column(
        "SELECT subscriber_id FROM subscription JOIN subscriber ON subscriber.id = subscriber_id WHERE what = ? AND blog_id = ? AND state = ?",
        what, blog_id, ON,
    )  # fmt: skip


def people_of(db: Database, blog_id: int) -> dict[int, int]:
    """{subscriber: the person with the same address who reads or works on the blog}."""
    return dict(
        db.tuples(
            "SELECT subscriber.id, person.id FROM subscriber JOIN person ON person.email = subscriber.email WHERE subscriber.blog_id = ?"
            " AND (EXISTS (SELECT 1 FROM reader WHERE reader.blog_id = subscriber.blog_id AND person_id = person.id)"
            " OR EXISTS (SELECT 1 FROM membership WHERE membership.blog_id = subscriber.blog_id AND person_id = person.id AND suspended_at IS NULL))",
            blog_id,
        )
    )  # fmt: skip


def groups_of_people(db: Database, blog_id: int) -> dict[int, frozenset[int]]:
    """{person: the groups of a blog in which they are}."""
    found: dict[int, set[int]] = defaultdict(set)
    for person, group in db.tuples(
        "SELECT person_id, group_id FROM group_reader JOIN reader_group ON reader_group.id = group_id WHERE blog_id = ?",
        blog_id,
    ):
        found[person].add(group)
    return {person: frozenset(groups) for person, groups in found.items()}


def written_to_as_group(db: Database, audience: str) -> set[str]:
    """The addresses, in small letters, that get a letter about a post for a group because they are in it."""
    rows = db.column(
        "SELECT lower(email) FROM group_reader JOIN person ON person.id = person_id JOIN reader_group ON reader_group.id = group_id"
        " WHERE 'group:' || group_id = ? AND writes_since IS NOT NULL",
        audience,
    )
    return set(rows)

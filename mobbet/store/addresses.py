"""Addresses: every one that was ever public, what it belongs to, and how often it was requested."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.facts import AddressOwner
from mobbet.core.timing import FOREVER
from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Address:
    """One address. `kind` is 'post', 'category', 'tag' or 'away' (then `target` is where it leads)."""

    blog_id: int
    path: str
    kind: str
    owner: int
    target: str
    by_hand: int
    since: int


def take(
    db: Database,
    blog_id: int,
    path: str,
    kind: str,
    owner: int,
    since: int,
    target: str = "",
    by_hand: bool = False,
) -> None:
    """Gives an address to an owner, from an instant on; an address it has had longer stays as old as it is."""
    db.run(_TAKE, blog_id, path, kind, owner, target, int(by_hand), since)


def take_for_posts(db: Database, rows: list[tuple[int, str, int, int]]) -> None:
    """Gives addresses to posts: (blog, path, post, since)."""
    db.run_many(
        _TAKE, [(blog_id, path, "post", post_id, "", 0, since) for blog_id, path, post_id, since in rows]
    )


_TAKE = """
INSERT INTO address (blog_id, path, kind, owner, target, by_hand, since) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT DO UPDATE SET kind = excluded.kind, owner = excluded.owner, target = excluded.target,
    by_hand = MIN(by_hand, excluded.by_hand), since = MIN(since, excluded.since)
"""


def open_from(db: Database, kind: str, number: int, instant: int) -> None:
    """Makes the address that a category or tag has had in waiting public, from an instant on."""
    db.run(
        "UPDATE address SET since = ? WHERE kind = ? AND owner = ? AND since > ? AND by_hand = 0",
        instant,
        kind,
        number,
        instant,
    )


def drop_waiting(db: Database, kind: str, number: int) -> None:
    """Gives up the address of a category or tag that was never public."""
    db.run("DELETE FROM address WHERE kind = ? AND owner = ? AND since = ?", kind, number, FOREVER)


def address_owner(db: Database, blog_id: int, path: str, instant: int) -> AddressOwner | None:
    """What an address stands for at an instant."""
    row = db.one(
        "SELECT kind, owner, target FROM address WHERE blog_id = ? AND path = ? AND since <= ?",
        blog_id,
        path,
        instant,
    )
    return AddressOwner(*row) if row else None


def owner(db: Database, blog_id: int, path: str) -> tuple[str, int] | None:
    """(kind, number) of whatever has, or is going to have, an address."""
    row = db.one("SELECT kind, owner FROM address WHERE blog_id = ? AND path = ?", blog_id, path)
    return tuple(row) if row else None


def owners(db: Database, blog_id: int, paths: list[str]) -> dict[str, tuple[str, int]]:
    """{address: (kind, number) of what has, or is going to have, it} of those that have an owner."""
    rows = db.all(
        "SELECT path, kind, owner FROM address WHERE blog_id = ? AND path IN (SELECT value FROM JSON_EACH(?))",
        blog_id,
        json.dumps(paths),
    )
    return {row[0]: (row[1], row[2]) for row in rows}


def of(db: Database, kind: str, number: int, instant: int) -> list[str]:
    """The addresses of one owner up to an instant."""
    return [
        row[0]
        for row in db.all(
            "SELECT path FROM address WHERE kind = ? AND owner = ? AND since <= ? ORDER BY path",
            kind,
            number,
            instant,
        )
    ]


def of_posts(db: Database, blog_id: int, instant: int) -> dict[int, list[str]]:
    """{post: its addresses up to an instant, by path} of a blog."""
    found: dict[int, list[str]] = {}
    for owner, path in db.all(
        "SELECT owner, path FROM address WHERE blog_id = ? AND kind = 'post' AND since <= ? ORDER BY owner, path",
        blog_id,
        instant,
    ):
        found.setdefault(owner, []).append(path)
    return found


def rows_of(db: Database, kind: str, number: int) -> list[Address]:
    return [
        Address(**data_of(row))
        for row in db.all("SELECT * FROM address WHERE kind = ? AND owner = ? ORDER BY path", kind, number)
    ]


def away(db: Database, blog_id: int, instant: int) -> list[str]:
    """The addresses that stand for another address."""
    return [
        row[0]
        for row in db.all(
            "SELECT path FROM address WHERE blog_id = ? AND kind = 'away' AND since <= ? ORDER BY path",
            blog_id,
            instant,
        )
    ]


def pass_on(db: Database, kind: str, number: int, to_number: int) -> None:
    """Everything that stood for one category or tag stands for another from now on."""
    db.run("UPDATE address SET owner = ? WHERE kind = ? AND owner = ?", to_number, kind, number)


def lead_away(db: Database, kind: str, number: int, target: str) -> None:
    """Everything that stood for something that is removed leads to another address from now on."""
    db.run(
        "UPDATE address SET kind = 'away', owner = 0, target = ? WHERE kind = ? AND owner = ?",
        target,
        kind,
        number,
    )


def put(db: Database, row: Address) -> None:
    """Writes an address as it once stood."""
    db.run("INSERT OR REPLACE INTO address VALUES (?, ?, ?, ?, ?, ?, ?)", *row.__dict__.values())


def remove_by_hand(db: Database, blog_id: int, path: str) -> bool:
    """Takes away an address that a person added; False where there is none."""
    return (
        db.run("DELETE FROM address WHERE blog_id = ? AND path = ? AND by_hand = 1", blog_id, path).rowcount
        > 0
    )


def is_by_hand(db: Database, blog_id: int, path: str) -> bool:
    return bool(db.value("SELECT by_hand FROM address WHERE blog_id = ? AND path = ?", blog_id, path))


def heir(db: Database, blog_id: int, kind: str, number: int, paths: list[str]) -> tuple[str, int] | None:
    """(kind, number) of the category or tag that got the addresses of another one, at any of these paths."""
    for path in paths:
        found = db.one(
            "SELECT kind, owner FROM address WHERE blog_id = ? AND path = ? AND kind IN ('category', 'tag')",
            blog_id,
            path,
        )
        if found and tuple(found) != (kind, number):
            return tuple(found)
    return None


def with_query(db: Database, blog_id: int) -> bool:
    """Whether some old address has a question mark in it."""
    return (
        db.value(
            "SELECT 1 FROM address WHERE blog_id = ? AND by_hand = 1 AND INSTR(path, '?') LIMIT 1", blog_id
        )
        is not None
    )


@dataclass(frozen=True)
class AddressRow:
    """An address in the table of all, with how often it was asked for and when last (0 is never)."""

    path: str
    kind: str
    owner: int
    target: str
    by_hand: int
    since: int
    hits: int
    last_at: int


def find(db: Database, blog_id: int, words: str, most: int, after: int) -> list[AddressRow]:
    """Addresses that hold the words, those asked for most first."""
    rows = db.all(
        "SELECT address.path, kind, owner, target, by_hand, since, IFNULL(hits, 0) AS hits, IFNULL(last_at, 0) FROM address"
        " LEFT JOIN asked ON asked.blog_id = address.blog_id AND asked.path = address.path"
        f" WHERE address.blog_id = ? AND INSTR(address.path, LOWER(?)) AND (kind <> 'post' OR {db.sees('owner')}) ORDER BY hits DESC, address.path LIMIT ? OFFSET ?",
        blog_id, words, most, after,
    )  # fmt: skip
    return [AddressRow(*row) for row in rows]


def of_post(db: Database, blog_id: int, number: int) -> list[AddressRow]:
    """The addresses of one post, those asked for most first."""
    return [row for row in find(db, blog_id, "", 1_000_000, 0) if row.kind == "post" and row.owner == number]


def every(db: Database, blog_id: int) -> list[AddressRow]:
    """All addresses of a blog by path."""
    rows = db.all(
        "SELECT address.path, kind, owner, target, by_hand, since, IFNULL(hits, 0), IFNULL(last_at, 0) FROM address"
        " LEFT JOIN asked ON asked.blog_id = address.blog_id AND asked.path = address.path WHERE address.blog_id = ?"
        f" AND (kind <> 'post' OR {db.sees('owner')}) ORDER BY address.path",
        blog_id,
    )  # fmt: skip
    return [AddressRow(*row) for row in rows]


def count(db: Database, blog_id: int) -> int:
    return db.value(
        f"SELECT COUNT(*) FROM address WHERE blog_id = ? AND (kind <> 'post' OR {db.sees('owner')})", blog_id
    )


MOST_UNKNOWN = 2000
"""How many addresses that lead nowhere are kept for each blog."""


def count_asked(db: Database, blog_id: int, path: str, hits: int, now: int, is_known: bool) -> None:
    """Adds to how often an address was asked for."""
    db.run(
        "INSERT INTO asked VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET hits = hits + excluded.hits, last_at = excluded.last_at,"
        " is_known = excluded.is_known",
        blog_id, path, hits, now, int(is_known),
    )  # fmt: skip


def thin_unknown(db: Database, blog_id: int) -> None:
    """Forgets the least wanted of the addresses that lead nowhere, so that they stay few."""
    db.run(
        "DELETE FROM asked WHERE blog_id = ? AND is_known = 0 AND path NOT IN"
        " (SELECT path FROM asked WHERE blog_id = ? AND is_known = 0 ORDER BY hits DESC, last_at DESC LIMIT ?)",
        blog_id, blog_id, MOST_UNKNOWN,
    )  # fmt: skip


def unknown(db: Database, blog_id: int, most: int) -> list[tuple[str, int, int]]:
    """(path, hits, last instant) of addresses that readers asked for and that lead nowhere, the most wanted first."""
    rows = db.all(
        "SELECT path, hits, last_at FROM asked WHERE blog_id = ? AND is_known = 0 ORDER BY hits DESC, last_at DESC LIMIT ?",
        blog_id,
        most,
    )
    return [tuple(row) for row in rows]


def hits_of(db: Database, blog_id: int, path: str) -> int:
    return db.value("SELECT hits FROM asked WHERE blog_id = ? AND path = ?", blog_id, path) or 0


def forget_asked(db: Database, blog_id: int, path: str) -> None:
    db.run("DELETE FROM asked WHERE blog_id = ? AND path = ? AND is_known = 0", blog_id, path)


def public_paths(db: Database, blog_id: int) -> list[tuple[str, str, str]]:
    """(path, of what kind, title) of every address that a mistyped one may have meant."""
    rows = db.all(
        "SELECT DISTINCT path, 'post', title FROM placement JOIN post ON post.id = post_id"
        " WHERE placement.blog_id = ? AND audience = 'everyone' AND shows_from < shows_until"
        " AND placement.id = (SELECT MAX(id) FROM placement AS other WHERE other.post_id = placement.post_id)"
        " UNION ALL SELECT '/' || slug || '/', 'category', name FROM category WHERE blog_id = ?",
        blog_id, blog_id,
    )  # fmt: skip
    return [tuple(row) for row in rows]

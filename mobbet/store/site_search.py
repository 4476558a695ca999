"""Search for readers, over the pages of the current editions: two indexes, of what everybody may read and of the rest."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.audience import EVERYONE, SIGNED_IN, Reader
from mobbet.core.values import existing
from mobbet.store.database import Database

OPEN, CLOSED = "site_text", "site_text_closed"
VOCABULARIES = {OPEN: "site_vocabulary", CLOSED: "site_vocabulary_closed"}
MANY = 700
"""Words that stand in so many texts tell none apart: the newest come first, those with the words in the title before the others."""


@dataclass(frozen=True)
class ToIndex:
    """A post whose page is to be read: path, audience and hash of the page in the current edition; '' where it has none."""

    blog_id: int
    post_id: int
    path: str
    audience: str
    hash: str


@dataclass(frozen=True)
class Words:
    """The words of a page: `written_at` is when it went out, 0 for a page without a date; `digest` is of all of it."""

    title: str
    text: str
    written_at: int
    digest: str


@dataclass(frozen=True)
class Scope:
    """What a reader may find on a blog at an instant: pages of these audiences, that stand on all of these lists."""

    blog_id: int
    now: int
    audiences: tuple[str, ...]
    lists: tuple[str, ...] = ()

    @property
    def tables(self) -> tuple[str, ...]:
        return (OPEN,) if self.audiences == (EVERYONE,) else (OPEN, CLOSED)


@dataclass(frozen=True)
class Hit:
    """A page that was found, by its number in the index."""

    id: int
    post_id: int
    path: str
    table: str


def audiences_of(reader: Reader) -> tuple[str, ...]:
    """The audiences whose pages a reader finds: those of the lists that they get, and the posts whose password they typed."""
    return (
        EVERYONE,
        *((SIGNED_IN,) if reader.is_signed_in else ()),
        *(f"group:{number}" for number in sorted(reader.groups)),
        *(f"password:{number}" for number in sorted(reader.opened)),
    )


_TO_INDEX = (
    "SELECT due.blog_id, due.post_id, IFNULL(path, ''), IFNULL(audience, ''), IFNULL(hash, '') FROM site_to_index AS due LEFT JOIN edition_page AS page"
    " ON page.blog_id = due.blog_id AND page.key = 'post/' || due.post_id AND to_edition IS NULL AND leads_to IS NULL AND shelf = 'pages'"
)


def to_index(db: Database, blog_id: int, most: int) -> list[ToIndex]:
    """Posts whose page the index must read again, or forget; those of one blog first."""
    return [
        ToIndex(*row) for row in db.tuples(f"{_TO_INDEX} ORDER BY due.blog_id <> ? LIMIT ?", blog_id, most)
    ]


def to_index_of(db: Database, blog_id: int, post_id: int) -> ToIndex | None:
    """The same of one post; None where the index has read its page."""
    rows = db.tuples(f"{_TO_INDEX} WHERE due.blog_id = ? AND due.post_id = ?", blog_id, post_id)
    return ToIndex(*rows[0]) if rows else None


def count_to_index(db: Database, most: int) -> int:
    """How many posts' pages the index must read again, at the most as many as are asked for."""
    return db.value("SELECT COUNT(*) FROM (SELECT 1 FROM site_to_index LIMIT ?)", most)


def is_any_to_index(db: Database) -> bool:
    return db.value("SELECT 1 FROM site_to_index LIMIT 1") is not None


def forget(db: Database, blog_id: int, post_id: int) -> None:
    """Takes the page of a post out of the index."""
    number = db.value("SELECT id FROM site_page WHERE blog_id = ? AND post_id = ?", blog_id, post_id)
    if number is not None:
        for table in (OPEN, CLOSED):
            db.run(f"DELETE FROM {table} WHERE rowid = ?", number)
        db.run("DELETE FROM site_page WHERE id = ?", number)
    db.run("DELETE FROM site_to_index WHERE blog_id = ? AND post_id = ?", blog_id, post_id)


def index(db: Database, page: ToIndex, words: Words) -> None:
    """Puts the words of a page in the index of its audience, unless they stand there already."""
    row = db.one(
        "SELECT id, audience, digest FROM site_page WHERE blog_id = ? AND post_id = ?",
        page.blog_id,
        page.post_id,
    )
    is_open = page.audience == EVERYONE
    if row is None or row["digest"] != words.digest or (row["audience"] == EVERYONE) != is_open:
        forget(db, page.blog_id, page.post_id)
        number = existing(db.value(
            "INSERT INTO site_page (blog_id, post_id, audience, page_path, digest, written_at) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
            page.blog_id, page.post_id, page.audience, page.path, words.digest, words.written_at,
        ))  # fmt: skip
        table = OPEN if is_open else CLOSED
        db.run(f"INSERT INTO {table} (rowid, title, text) VALUES (?, ?, ?)", number, words.title, words.text)
    else:
        db.run(
            "UPDATE site_page SET audience = ?, page_path = ? WHERE id = ?",
            page.audience,
            page.path,
            row["id"],
        )
    db.run("DELETE FROM site_to_index WHERE blog_id = ? AND post_id = ?", page.blog_id, page.post_id)


_BEHIND = (
    "EXISTS (SELECT 1 FROM site_to_index AS due WHERE due.blog_id = site_page.blog_id AND due.post_id = site_page.post_id AND NOT EXISTS ("
    "SELECT 1 FROM edition_page AS page WHERE page.blog_id = due.blog_id AND page.key = 'post/' || due.post_id AND to_edition IS NULL AND page.audience = site_page.audience))"
)
"""Pages that ended, or are for others by now, of which the index does not know yet."""


def _terms(scope: Scope) -> tuple[str, dict[str, object]]:
    """The condition of a scope on `site_page`."""
    values: dict[str, object] = {
        "blog": scope.blog_id,
        "now": scope.now,
        "audiences": json.dumps(scope.audiences),
    }
    terms = [
        "site_page.blog_id = :blog",
        "+site_page.audience IN (SELECT value FROM JSON_EACH(:audiences))",
        f"NOT {_BEHIND}",
    ]
    for at, name in enumerate(scope.lists):
        values[f"list{at}"] = name
        terms.append(
            f"site_page.post_id IN (SELECT post_id FROM listing WHERE blog_id = :blog AND list = :list{at} AND shows_from <= :now AND shows_until > :now)"
        )
    return " AND ".join(terms), values


def search(db: Database, scope: Scope, match: str, most: int) -> tuple[list[Hit], int]:
    """Pages that hold words (a query of FTS5), the likeliest first; all of them, or `most` where there are MANY. And how many there are."""
    terms, values = _terms(scope)
    values |= {"match": match}
    numbers = {
        table: db.numbers(f"SELECT rowid AS number FROM {table} WHERE {table} MATCH :match", values)
        for table in scope.tables
    }
    if sum(map(len, numbers.values())) >= MANY:
        return _newest(db, terms, values, {number for found in numbers.values() for number in found}, most)
    found: list[tuple[float, int, int, str, str]] = []
    for table in (table for table, some in numbers.items() if some):
        found += [
            (*row, table)
            for row in db.connection.execute(
                f"SELECT bm25({table}, 8.0, 1.0), site_page.id, post_id, page_path FROM {table} CROSS JOIN site_page ON site_page.id = {table}.rowid"
                f" WHERE {table} MATCH :match AND {terms}",
                values,
            )
        ]
    found.sort(key=lambda one: (one[0], -one[1]))
    return [Hit(one[1], one[2], one[3], one[4]) for one in found], len(found)


def _newest(
    db: Database, terms: str, values: dict[str, object], numbers: set[int], most: int
) -> tuple[list[Hit], int]:
    """The newest of so many hits, those with the words in the title before the others."""
    order = db.numbers(
        f"SELECT id AS number FROM (SELECT id FROM site_page INDEXED BY site_page_written WHERE {terms} ORDER BY written_at DESC, id DESC)",
        values,
    )
    hits = [number for number in order if number in numbers]
    titled: set[int] = set()
    for table in (OPEN, CLOSED):
        titled.update(
            db.numbers(
                f"SELECT rowid AS number FROM {table} WHERE {table} MATCH :titled",
                {"titled": f"{{title}} : ({values['match']})"},
            )
        )
    first = [number for number in hits if number in titled]
    chosen = (first + [number for number in hits if number not in titled])[:most]
    rows = {
        row[0]: Hit(*row)
        for row in db.tuples(
            f"SELECT id, post_id, page_path, IIF(audience = '{EVERYONE}', '{OPEN}', '{CLOSED}') FROM site_page WHERE id IN (SELECT value FROM JSON_EACH(?))",
            json.dumps(chosen),
        )
    }
    return [rows[number] for number in chosen], len(hits)


def count(db: Database, scope: Scope, match: str, enough: int = -1) -> int:
    """How many pages hold words; counted no further than `enough`."""
    terms, values = _terms(scope)
    return sum(
        db.named(
            f"SELECT COUNT(*) FROM (SELECT 1 FROM {table} CROSS JOIN site_page ON site_page.id = {table}.rowid WHERE {table} MATCH :match AND {terms} LIMIT :enough)",
            {**values, "match": match, "enough": enough},
        )[0][0]
        for table in scope.tables
    )


def near_terms(db: Database, scope: Scope, candidates: Iterable[str], most: int) -> list[str]:
    """Those of the candidates that stand in some text, the most frequent first. What a reader may not know of is for the caller to leave out."""
    found: dict[str, int] = {}
    wanted = json.dumps(list(candidates))
    for table in scope.tables:
        for term, number in db.tuples(
            f"SELECT term, doc FROM {VOCABULARIES[table]} WHERE term IN (SELECT value FROM JSON_EACH(?))",
            wanted,
        ):
            found[term] = found.get(term, 0) + number
    return sorted(found, key=lambda term: (-found[term], term))[:most]


def texts(db: Database, hits: Iterable[Hit]) -> dict[int, tuple[str, str]]:
    """{page: its title and text as the index has them}."""
    found: dict[int, tuple[str, str]] = {}
    for table in (OPEN, CLOSED):
        chosen = [hit.id for hit in hits if hit.table == table]
        rows = db.tuples(
            f"SELECT rowid, title, text FROM {table} WHERE rowid IN (SELECT value FROM JSON_EACH(?))",
            json.dumps(chosen),
        )
        found |= {number: (title, text) for number, title, text in rows}
    return found


def lists_of(db: Database, scope: Scope, post_ids: list[int], start: str, most: int) -> list[tuple[str, int]]:
    """(list, how many of the posts stand on it) of the lists with that beginning on which most of them stand."""
    return db.tuples(
        "SELECT list, COUNT(DISTINCT listing.post_id) AS size FROM placement CROSS JOIN listing ON listing.placement_id = placement.id"
        " WHERE placement.post_id IN (SELECT value FROM JSON_EACH(?)) AND placement.blog_id = ? AND placement.shows_from <= ? AND placement.shows_until > ?"
        " AND list >= ? AND list < ? GROUP BY list ORDER BY size DESC, list LIMIT ?",
        json.dumps(post_ids), scope.blog_id, scope.now, scope.now, start, start + "\U0010ffff", most,
    )  # fmt: skip


MOST_A_DAY, KEPT_DAYS, TOLD_FROM = 300, 90, 3
"""How many different words of a blog are kept a day; for how many days; on how many days they were searched for before anybody is told of them."""


def note_not_found(db: Database, blog_id: int, day: int, words: dict[str, int]) -> None:
    """Adds words that were searched for on a day and not found; forgets those of long ago."""
    known = db.value("SELECT COUNT(*) FROM not_found WHERE blog_id = ? AND day = ?", blog_id, day)
    db.run_many(
        "INSERT INTO not_found VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET times = times + excluded.times",
        [(blog_id, day, word, times) for word, times in words.items()][: max(0, MOST_A_DAY - known)],
    )
    db.run("DELETE FROM not_found WHERE blog_id = ? AND day < ?", blog_id, day - KEPT_DAYS)


def not_found(db: Database, blog_id: int, most: int) -> list[tuple[str, int]]:
    """(words, how often) of what was searched for in vain on several days, the most frequent first."""
    return db.tuples(
        "SELECT words, SUM(times) AS total FROM not_found WHERE blog_id = ? GROUP BY words HAVING COUNT(*) >= ? ORDER BY total DESC, words LIMIT ?",
        blog_id, TOLD_FROM, most,
    )  # fmt: skip


def forget_not_found(db: Database, blog_id: int, words: str) -> None:
    db.run("DELETE FROM not_found WHERE blog_id = ? AND words = ?", blog_id, words)

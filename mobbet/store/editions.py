"""Editions of the published site: rows of pages, each valid from one edition up to another."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

import orjson

from mobbet.core.facts import ORIGINAL
from mobbet.core.keys import MADE_ON_REQUEST, PageKey
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Edition:
    """One numbered state of the site. `house` is the digest of what stands on every page.

    `written` and `removed` count everything that differs from the edition before; of these, `files` are files of pictures, sound and the design,
    and `addresses` redirect.
    """

    blog_id: int
    number: int
    instant: int
    made_at: int
    house: str
    written: int
    removed: int
    pages: int
    why: str = ""
    person_id: int | None = None
    puts_back: int | None = None
    files: int = 0
    addresses: int = 0


class PageRow(NamedTuple):
    """One page of an edition. `leads_to` is set when the address only redirects to another."""

    key: PageKey
    path: str
    type: str
    shelf: str
    hash: str
    fingerprint: str
    audience: str
    leads_to: str | None

    @property
    def is_made_on_request(self) -> bool:
        """Whether it has no file, since it is rendered when somebody asks for it: a redirect, or a share card."""
        return self.leads_to is not None or self.key.kind == MADE_ON_REQUEST

    @property
    def is_download(self) -> bool:
        """Whether it is a file as somebody brought it in, which no browser may show by itself."""
        return self.shelf == "media" and self.key.parts[1] == ORIGINAL


MANY = 5000
_COLUMNS = "key, path, type, shelf, hash, fingerprint, audience, leads_to"


def _page(row: Row) -> PageRow:
    key, *rest = row
    return PageRow(PageKey(key), *rest)


def current(db: Database, blog_id: int) -> Edition | None:
    row = db.one("SELECT * FROM edition WHERE blog_id = ? ORDER BY number DESC LIMIT 1", blog_id)
    return Edition(**data_of(row)) if row else None


def after(db: Database, blog_id: int, number: int) -> list[Edition]:
    """The editions made after the one of that number."""
    rows = db.all("SELECT * FROM edition WHERE blog_id = ? AND number > ? ORDER BY number", blog_id, number)
    return [Edition(**data_of(row)) for row in rows]


def current_number(db: Database, blog_id: int) -> int:
    """The number of the edition readers get; 0 before the first."""
    return db.value("SELECT MAX(number) FROM edition WHERE blog_id = ?", blog_id) or 0


def by_number(db: Database, blog_id: int, number: int) -> Edition | None:
    row = db.one("SELECT * FROM edition WHERE blog_id = ? AND number = ?", blog_id, number)
    return Edition(**data_of(row)) if row else None


def newest(db: Database, blog_id: int, most: int, before: int | None = None) -> list[Edition]:
    """Editions from the newest on, or from before a number."""
    rows = db.all(
        "SELECT * FROM edition WHERE blog_id = ? AND (? IS NULL OR number < ?) ORDER BY number DESC LIMIT ?",
        blog_id,
        before,
        before,
        most,
    )
    return [Edition(**data_of(row)) for row in rows]


def late(db: Database, blog_id: int, since: int, by: int) -> list[Edition]:
    """Editions since an instant that were made later than their own instant by more than so many seconds."""
    rows = db.all(
        "SELECT * FROM edition WHERE blog_id = ? AND made_at > ? AND made_at - instant > ? ORDER BY number",
        blog_id,
        since,
        by,
    )
    return [Edition(**data_of(row)) for row in rows]


def differing(db: Database, blog_id: int, number: int, other: int) -> dict[PageKey, PageRow]:
    """The pages of one edition, by key, whose rows the other one does not have."""
    rows = db.all(
        f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND from_edition <= ? AND (to_edition IS NULL OR to_edition > ?)"
        " AND NOT (from_edition <= ? AND (to_edition IS NULL OR to_edition > ?))",
        blog_id, number, number, other, other,
    )  # fmt: skip
    return {page.key: page for page in map(_page, rows)}


def post_pages_at(db: Database, blog_id: int, number: int) -> dict[int, PageRow]:
    """{post: its page} of an earlier edition."""
    rows = db.all(
        f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND key >= 'post/' AND key < 'post0' AND from_edition <= ?"
        " AND (to_edition IS NULL OR to_edition > ?)",
        blog_id, number, number,
    )  # fmt: skip
    return {page.key.number: page for page in map(_page, rows)}


def page_at_edition(db: Database, blog_id: int, path: str, number: int) -> PageRow | None:
    """The page at a path in an earlier edition."""
    return maybe(_page, db.one(
        f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND path = ? AND from_edition <= ? AND (to_edition IS NULL OR to_edition > ?)",
        blog_id, path, number, number,
    ))  # fmt: skip


def page_at(db: Database, blog_id: int, path: str) -> PageRow | None:
    """The page of the current edition at a path."""
    return maybe(
        _page,
        db.one(
            f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND path = ? AND to_edition IS NULL",
            blog_id,
            path,
        ),
    )


def last_page_at(db: Database, blog_id: int, path: str) -> PageRow | None:
    """The page that any edition last had at a path."""
    return maybe(
        _page,
        db.one(
            f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND path = ? ORDER BY from_edition DESC LIMIT 1",
            blog_id,
            path,
        ),
    )


def page_of(db: Database, blog_id: int, key: str) -> PageRow | None:
    """The page of the current edition that was made from a key of the plan."""
    return maybe(
        _page,
        db.one(
            f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND key = ? AND to_edition IS NULL",
            blog_id,
            key,
        ),
    )


def pages_of(db: Database, blog_id: int, wanted: Sequence[str]) -> dict[PageKey, PageRow]:
    """{key: page} of the current edition for these keys."""
    if len(wanted) > MANY:  # a full build: one scan is faster than a lookup for each
        asked = set(wanted)
        return {page.key: page for page in pages(db, blog_id) if page.key in asked}
    rows = db.all(
        f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND to_edition IS NULL AND key IN (SELECT value FROM JSON_EACH(?))",
        blog_id,
        json.dumps(list(wanted)),
    )
    return {page.key: page for page in map(_page, rows)}


def paths_of(db: Database, blog_id: int, key: str) -> list[str]:
    """The paths at which pages made from a key stood, in any edition."""
    return [
        row[0]
        for row in db.all(
            "SELECT DISTINCT path FROM edition_page WHERE blog_id = ? AND key = ?", blog_id, key
        )
    ]


def pages(db: Database, blog_id: int) -> Iterator[PageRow]:
    """Every page of the current edition, by path."""
    for row in db.connection.execute(
        f"SELECT {_COLUMNS} FROM edition_page WHERE blog_id = ? AND to_edition IS NULL ORDER BY path",
        (blog_id,),
    ):
        yield _page(row)


def where(db: Database, blog_id: int) -> list[tuple[PageKey, str, str | None]]:
    """(key, path, address it redirects to) of every page of the current edition, by path."""
    rows = db.connection.execute(
        "SELECT key, path, leads_to FROM edition_page WHERE blog_id = ? AND to_edition IS NULL ORDER BY path",
        (blog_id,),
    )
    rows.row_factory = None
    return [(PageKey(key), path, leads_to) for key, path, leads_to in rows]


def counts(db: Database, blog_id: int) -> dict[str, int]:
    """{kind of page: how many the current edition has}."""
    rows = db.tuples(
        "SELECT SUBSTR(key, 1, INSTR(key, '/') - 1) AS kind, COUNT(*) FROM edition_page WHERE blog_id = ? AND to_edition IS NULL GROUP BY kind",
        blog_id,
    )
    return dict(rows)


def ever_at(db: Database, blog_id: int) -> list[str]:
    """Every path at which any edition had a page."""
    return [row[0] for row in db.tuples("SELECT DISTINCT path FROM edition_page WHERE blog_id = ?", blog_id)]


def keys(db: Database, blog_id: int, start: str = "") -> list[PageKey]:
    """The keys of the current edition's pages, of all or of those with that beginning."""
    return [
        PageKey(row[0])
        for row in db.all(
            "SELECT key FROM edition_page WHERE blog_id = ? AND to_edition IS NULL AND key >= ? AND key < ?",
            blog_id,
            start,
            start + "\U0010ffff",
        )
    ]


def add(db: Database, edition: Edition, new: Iterable[PageRow], ended: Iterable[str]) -> None:
    """Adds an edition: the pages of `ended` keys end with it, the `new` ones begin."""
    db.run("INSERT INTO edition VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", *edition.__dict__.values())
    db.run_many(
        "UPDATE edition_page SET to_edition = ? WHERE blog_id = ? AND key = ? AND to_edition IS NULL",
        [(edition.number, edition.blog_id, key) for key in ended],
    )
    db.run_many(
        f"INSERT INTO edition_page (blog_id, {_COLUMNS}, from_edition) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        [(edition.blog_id, *page, edition.number) for page in new],
    )


def refresh(db: Database, blog_id: int, fingerprints: Iterable[tuple[PageKey, str]]) -> None:
    """Notes the fingerprints of pages of the current edition whose bytes stay as they are."""
    db.run_many(
        "UPDATE edition_page SET fingerprint = ? WHERE blog_id = ? AND key = ? AND to_edition IS NULL",
        [(fingerprint, blog_id, key) for key, fingerprint in fingerprints],
    )


def set_house(db: Database, edition: Edition, house: str) -> Edition:
    """Notes the house style that an edition is found to have."""
    db.run(
        "UPDATE edition SET house = ? WHERE blog_id = ? AND number = ?",
        house,
        edition.blog_id,
        edition.number,
    )
    return replace(edition, house=house)


def shown(db: Database, blog_id: int, post_id: int) -> dict[str, Any] | None:
    """What the current edition shows of a post."""
    state = db.value("SELECT state FROM shown WHERE blog_id = ? AND post_id = ?", blog_id, post_id)
    return json.loads(state) if state else None


def all_shown(db: Database, blog_id: int) -> dict[int, dict[str, Any]]:
    """What the current edition shows of every post."""
    return {
        row[0]: orjson.loads(row[1])
        for row in db.all("SELECT post_id, state FROM shown WHERE blog_id = ?", blog_id)
    }


def set_shown(db: Database, blog_id: int, states: dict[int, str | None]) -> None:
    """Keeps what an edition shows of the posts it read anew; None for one that it does not show."""
    db.run_many(
        "DELETE FROM shown WHERE blog_id = ? AND post_id = ?", [(blog_id, post_id) for post_id in states]
    )
    db.run_many(
        "INSERT INTO shown VALUES (?, ?, ?)",
        [(blog_id, post_id, state) for post_id, state in states.items() if state],
    )


def hashes(db: Database) -> list[tuple[str, str]]:
    """(shelf, hash) of every file that some edition's page needs; none for pages that are made on request."""
    return [
        tuple(row)
        for row in db.all(
            "SELECT DISTINCT shelf, hash FROM edition_page WHERE leads_to IS NULL AND key NOT LIKE ?",
            PageKey.of(MADE_ON_REQUEST, "%"),
        )
    ]


def publication_problem(db: Database, blog_id: int) -> str:
    """Why the last scheduled publication failed; '' when it did not."""
    return db.value("SELECT problem FROM publication_problem WHERE blog_id = ?", blog_id) or ""


def set_publication_problem(db: Database, blog_id: int, problem: str, now: int) -> None:
    """Notes why it failed; '' when it succeeded. Since when stays while it fails for the same reason."""
    if problem:
        db.run(
            "INSERT INTO publication_problem VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET problem = excluded.problem, since = excluded.since WHERE problem <> excluded.problem",
            blog_id,
            problem,
            now,
        )
    else:
        db.run("DELETE FROM publication_problem WHERE blog_id = ?", blog_id)


def feeds_since(db: Database, blog_id: int, number: int, most: int) -> list[str]:
    """The paths of feeds for everyone that became others after an edition."""
    return db.column(
        "SELECT path FROM edition_page WHERE blog_id = ? AND key >= 'feed/' AND key < 'feed0' AND from_edition > ? AND to_edition IS NULL AND leads_to IS NULL"
        " AND audience = 'everyone' ORDER BY path LIMIT ?",
        blog_id, number, most,
    )  # fmt: skip

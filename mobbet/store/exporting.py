"""The rows of a blog as they are, table by table, for an export and for an import of one; what is read is named by `core/exporting/tables.py`."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from itertools import islice
from typing import Any

from mobbet.core.errors import BadInput
from mobbet.core.exporting.tables import OF_POSTS, PERSON, POST, REVISION, TABLES, Table
from mobbet.store.database import Database, data_of

AT_ONCE = 500
SCOPES = {
    "blog": "blog_id = :blog",
    "post": "post_id IN (SELECT id FROM post WHERE blog_id = :blog)",
    "group": "group_id IN (SELECT id FROM reader_group WHERE blog_id = :blog)",
    "subscriber": "subscriber_id IN (SELECT id FROM subscriber WHERE blog_id = :blog)",
    "words": "blog_id = :blog AND person_id = 0",
    "record": "on_blog = :blog AND kind NOT IN ('exported', 'imported')",
}
"""{scope of a table: the condition on the rows that belong to a blog}. An export says nothing of exports, so that the next one has the same bytes."""
SELECTED = {
    ("address", "owner"): "kind || ':' || owner",
    ("delivery", "state"): "IIF(state IN ('waiting', 'going'), 'refused', state)",
    (
        "delivery",
        "problem",
    ): "IIF(state IN ('waiting', 'going'), 'on its way when the blog was exported', problem)",
    ("announcement", "state"): "IIF(state IN ('waiting', 'going'), 'unclear', state)",
    ("mention_out", "state"): "IIF(state = 'waiting', 'none', state)",
}
"""{(table, column): what is read of it instead}. What is on its way is sent from where it is, and by nobody who imports the blog."""
_KNOWN = frozenset({table.name for table in TABLES} | set(OF_POSTS))


def rows(db: Database, table: Table, blog_id: int) -> Iterator[dict[str, Any]]:
    """The rows of a table that belong to a blog, in the order of their numbers where they have some."""
    columns = ["id"] if table.has_id else []
    columns += [
        f"{SELECTED.get((table.name, one.column), one.column)} AS {one.column}" for one in table.fields
    ]
    found = db.connection.execute(
        f"SELECT {', '.join(columns)} FROM {table.name} WHERE {SCOPES[table.scope]}"
        + (" ORDER BY id" if table.has_id else ""),
        {"blog": blog_id},
    )
    while some := found.fetchmany(AT_ONCE):
        yield from map(data_of, some)


def blog(db: Database, blog_id: int) -> dict[str, Any]:
    """The row of a blog."""
    return data_of(db.all("SELECT * FROM blog WHERE id = ?", blog_id)[0])


def keys(db: Database, table: Table, blog_id: int) -> dict[int, int | str]:
    """{number: what an export calls the row} of a table with a kind."""
    key = table.key or "id"
    found = db.connection.execute(
        f"SELECT id, {key} FROM {table.name} WHERE {SCOPES[table.scope]} ORDER BY id", {"blog": blog_id}
    ).fetchall()
    return {row[0]: row[1] if table.key else place for place, row in enumerate(found, start=1)}


def post_numbers(db: Database, blog_id: int) -> list[int]:
    return db.column("SELECT id FROM post WHERE blog_id = ? ORDER BY id", blog_id)


def post(db: Database, post_id: int) -> dict[str, Any]:
    """The row of a post, with the numbers of its categories and tags, in their order."""
    columns = ", ".join(one.column for one in POST)
    row = data_of(db.all(f"SELECT {columns}, title, revision, lead FROM post WHERE id = ?", post_id)[0])
    row["categories"] = db.column(
        "SELECT category_id FROM post_category WHERE post_id = ? ORDER BY position", post_id
    )
    row["tags"] = db.column("SELECT tag_id FROM post_tag WHERE post_id = ? ORDER BY position", post_id)
    return row


def revisions(db: Database, post_id: int, all_of_them: bool) -> list[dict[str, Any]]:
    """The revisions of a post: all, or its newest and those that readers got or are going to get."""
    columns = ", ".join(one.column for one in REVISION)
    wanted = "" if all_of_them else (
        " AND (number = (SELECT revision FROM post WHERE id = post_id) OR number IN (SELECT revision FROM placement WHERE placement.post_id = revision.post_id))"
    )  # fmt: skip
    return [
        data_of(row)
        for row in db.all(
            f"SELECT number, body, {columns} FROM revision WHERE post_id = ?{wanted} ORDER BY number", post_id
        )
    ]


def original(db: Database, media_id: int) -> str:
    """The hash of the file that an item of the library came as."""
    return db.value("SELECT hash FROM media WHERE id = ?", media_id)


def emails(db: Database) -> dict[int, str]:
    """{person: e-mail address} of all accounts."""
    return dict(db.tuples("SELECT id, email FROM person"))


def profiles(db: Database, numbers: Iterable[int]) -> list[dict[str, Any]]:
    """What accounts say of themselves."""
    columns = ", ".join(one.column for one in PERSON)
    rows = db.all(
        f"SELECT {columns} FROM person WHERE id IN (SELECT value FROM JSON_EACH(?))",
        json.dumps(sorted(numbers)),
    )
    return [data_of(row) for row in rows]


def last_number(db: Database, name: str) -> int:
    """The greatest number of a table, after which an import numbers its rows; 0 for an empty one."""
    assert name in _KNOWN, name
    return db.value(f"SELECT MAX(id) FROM {name}") or 0


@contextmanager
def consistent() -> Iterator[None]:
    """Raises BadInput where rows that are written in a block, whole transactions of it, contradict each other."""
    try:
        yield
    except sqlite3.IntegrityError as error:
        raise BadInput(
            f"The rows of the export contradict each other ({error}); correct the folder, or export the blog again.",
            "folder",
        ) from None


def insert(db: Database, name: str, found: Iterable[dict[str, Any]]) -> int:
    """Adds rows of a table, which all have the same columns; how many they were."""
    assert name in _KNOWN | {"blog", "person"}, name
    waiting, count = iter(found), 0
    while some := list(islice(waiting, AT_ONCE)):
        columns = list(some[0])
        db.run_many(
            f"INSERT INTO {name} ({', '.join(columns)}) VALUES ({', '.join('?' * len(columns))})",
            [tuple(row[column] for column in columns) for row in some],
        )
        count += len(some)
    return count


def last_person(db: Database) -> int:
    return db.value("SELECT MAX(id) FROM person") or 0


def update_blog(db: Database, blog_id: int, values: dict[str, Any]) -> None:
    """Writes the columns of a blog."""
    columns = ", ".join(f"{column} = ?" for column in values)
    db.run(f"UPDATE blog SET {columns} WHERE id = ?", *values.values(), blog_id)


def index_posts(db: Database, blog_id: int) -> None:
    """Has the words of all posts of a blog indexed."""
    db.run("INSERT OR IGNORE INTO to_index SELECT id FROM post WHERE blog_id = ?", blog_id)


def remove_facts(db: Database, blog_id: int) -> None:
    """Removes what a blog began with, before the facts of an export come in its place."""
    db.run("UPDATE blog SET catch_all = NULL WHERE id = ?", blog_id)
    for table in reversed(TABLES):
        if table.name != "record":
            db.connection.execute(f"DELETE FROM {table.name} WHERE {SCOPES[table.scope]}", {"blog": blog_id})

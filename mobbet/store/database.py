"""One SQLite file: connections, transactions and migrations."""

from __future__ import annotations

import copy
import re
import sqlite3
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from typing import Any, TypeVar
from unicodedata import normalize

import orjson

from mobbet.core.audience import COLLEAGUE_TITLE, ONLY_ME, PRIVATE_TITLE
from mobbet.core.errors import Broken, TooMuch

MIGRATIONS = Path(__file__).parent / "migrations"
Row = sqlite3.Row
STEPS = 20_000
"""After so many instructions of SQLite it is looked whether a query takes too long; a few milliseconds."""

Made = TypeVar("Made")


class Database:
    """The database of a data folder. Each thread has a connection of its own.

    WAL with synchronous=FULL: what a transaction has committed survives a crash.
    """

    viewer: int | None = None
    """The person on whose behalf posts are listed; None for Mobbet itself, which sees them all."""
    limited: frozenset[int] = frozenset()
    """The blogs on which the viewer sees their own posts alone."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._local = threading.local()
        self._migrate()

    @property
    def connection(self) -> sqlite3.Connection:
        connection = getattr(self._local, "connection", None)
        if connection is None:
            connection = self._local.connection = self._connect()
        return connection

    def seen_by(self, person_id: int, limited: frozenset[int] = frozenset()) -> Database:
        """The same database and connections, on behalf of a person (0 for a stranger), who sees their own posts alone on some blogs."""
        seen = copy.copy(self)
        seen.viewer, seen.limited = int(person_id), limited
        return seen

    def sees(self, number: str = "") -> str:
        """An SQL condition: the viewer may be told of a row of `post`, or of the post whose number an expression gives.

        What is for its author alone is told of to nobody else, and on some blogs nothing of a colleague's. Every query that lists posts for people has it.
        """
        if self.viewer is None:
            return "TRUE"
        table = "private" if number else "post"
        hidden = f"{table}.visibility = '{ONLY_ME}'"
        if self.limited:
            hidden += f" OR {table}.blog_id IN ({', '.join(map(str, sorted(self.limited)))})"
        if not number:
            return f"(post.author_id = {self.viewer} OR NOT ({hidden}))"
        return f"NOT EXISTS (SELECT 1 FROM post AS private WHERE private.id = {number} AND private.author_id <> {self.viewer} AND ({hidden}))"

    def sees_what_is_out(self, number: str) -> str:
        """An SQL condition: the viewer may be told that readers get the post whose number an expression gives, by the title that those see."""
        return self.sees(number) if self.limited else "TRUE"

    def title(self, number: str, title: str) -> str:
        """An SQL expression: a post's title, or words in its place where the viewer may not be told of it."""
        return (
            title
            if self.viewer is None
            else f"CASE WHEN {self.sees(number)} THEN {title} ELSE '{COLLEAGUE_TITLE if self.limited else PRIVATE_TITLE}' END"
        )

    def all(self, sql: str, *values: Any) -> list[Row]:
        """Every row of a question."""
        return self.connection.execute(sql, values).fetchall()

    def tuples(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        """Every row as a plain tuple, which is faster for very many rows."""
        rows = self.connection.execute(sql, values)
        rows.row_factory = None
        return rows.fetchall()

    def named(self, sql: str, values: dict[str, Any]) -> list[Row]:
        """Every row of a question whose values have names."""
        return self.connection.execute(sql, values).fetchall()

    def one(self, sql: str, *values: Any) -> Row | None:
        """The first row of a question, or None."""
        return self.connection.execute(sql, values).fetchone()

    def column(self, sql: str, *values: Any) -> list[Any]:
        """The first column of every row."""
        return [row[0] for row in self.all(sql, *values)]

    def numbers(self, sql: str, values: dict[str, Any]) -> list[int]:
        """The column `number` of very many rows, put together by SQLite: a row object for each takes three times as long."""
        return orjson.loads(
            self.connection.execute(f"SELECT JSON_GROUP_ARRAY(number) FROM ({sql})", values).fetchone()[0]
        )

    def value(self, sql: str, *values: Any) -> Any:
        """The first column of the first row, or None."""
        row = self.one(sql, *values)
        return row[0] if row else None

    def run(self, sql: str, *values: Any) -> sqlite3.Cursor:
        """A statement that changes something; call it inside `transaction`."""
        return self.connection.execute(sql, values)

    def run_many(self, sql: str, rows: Iterable[tuple[Any, ...]]) -> None:
        self.connection.executemany(sql, rows)

    @contextmanager
    def transaction(self) -> Iterator[None]:
        """All or nothing, for one writer at a time. Joins the transaction that is already open."""
        connection = self.connection
        if connection.in_transaction:
            yield
            return
        connection.execute("BEGIN IMMEDIATE")
        try:
            yield
            connection.execute("COMMIT")
        except BaseException:
            self._roll_back(connection)
            raise

    @contextmanager
    def savepoint(self) -> Iterator[None]:
        """A part of the open transaction: what it wrote is rolled back when it raises, whatever becomes of the rest."""
        connection = self.connection
        connection.execute("SAVEPOINT part")
        try:
            yield
        except BaseException:
            if connection.in_transaction:  # SQLite itself rolls everything back on a full disk
                connection.execute("ROLLBACK TO part")
                connection.execute("RELEASE part")
            raise
        connection.execute("RELEASE part")

    def _roll_back(self, connection: sqlite3.Connection) -> None:
        """Ends the open transaction, whatever ails the disk, so that no later write joins it; the error that led here is the one that counts."""
        with suppress(sqlite3.Error):
            if connection.in_transaction:
                connection.execute("ROLLBACK")
        if connection.in_transaction:
            self.close()

    def defer_foreign_keys(self) -> None:
        """Defers the check of foreign keys to the commit; a transaction that is rolled back need not satisfy them."""
        self.connection.execute("PRAGMA defer_foreign_keys = ON")

    @contextmanager
    def reading(self) -> Iterator[None]:
        """Several questions answered from one and the same state of the database."""
        connection = self.connection
        if connection.in_transaction:
            yield
            return
        connection.execute("BEGIN")
        try:
            yield
        finally:
            self._roll_back(connection)  # nothing was written

    @contextmanager
    def within(self, seconds: float, what: str) -> Iterator[None]:
        """Ends what this thread asks for in a block once it takes longer in all. Raises TooMuch then."""
        until = time.monotonic() + seconds
        connection = self.connection
        connection.set_progress_handler(lambda: int(time.monotonic() > until), STEPS)
        try:
            yield
        except sqlite3.OperationalError as error:
            if str(error) != "interrupted":
                raise
            raise TooMuch(f"{what} takes more than {seconds:g} seconds; use fewer or longer words.") from None
        finally:
            connection.set_progress_handler(None, 0)

    def copy_to(self, path: Path) -> None:
        """Writes a consistent copy of what is committed, while others write (SQLite's online backup)."""
        # a connection of its own: a backup of one within a transaction would wait for itself
        try:
            with closing(sqlite3.connect(self.path)) as source, closing(sqlite3.connect(path)) as target:
                source.backup(target, pages=-1)
        except sqlite3.Error as error:
            raise Broken(f"{path} cannot be written ({error}); free some space.") from None

    def version(self) -> tuple[int, int]:
        """A value that changes whenever anything was changed, by this connection or another."""
        return self.value("PRAGMA data_version"), self.connection.total_changes

    def close(self) -> None:
        connection = getattr(self._local, "connection", None)
        if connection is not None:
            connection.close()
            self._local.connection = None

    def _connect(self) -> sqlite3.Connection:
        try:
            connection = sqlite3.connect(self.path, timeout=30, isolation_level=None)
            connection.execute("PRAGMA journal_mode = WAL")
        except sqlite3.Error as error:
            raise Broken(
                f"The database {self.path} cannot be opened ({error}); check the folder and its rights."
            ) from None
        connection.row_factory = sqlite3.Row
        connection.create_function(
            "FOLD", 1, lambda text: text.casefold() if isinstance(text, str) else text, deterministic=True
        )
        connection.create_function("COMPOSED", 1, lambda text: normalize("NFC", text), deterministic=True)
        connection.execute("PRAGMA synchronous = FULL")
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA busy_timeout = 30000")
        connection.execute("PRAGMA cache_size = -16000")
        return connection

    def _migrate(self) -> None:
        """Applies the numbered files that are missing, each in one transaction.

        `executescript` would commit silently, so statements are run one at a time.
        """
        files = sorted(MIGRATIONS.glob("[0-9]*.sql"))
        if self.value("PRAGMA user_version") == len(files):
            return
        with self.transaction():
            done = self.value("PRAGMA user_version")
            if done > len(files):
                raise Broken(f"{self.path} was made by a newer Mobbet; install that version to open it.")
            if 0 < done < len(files):  # within the transaction: no other process changes the tables meanwhile
                self._keep_copy(done)
            for number, file in enumerate(files[done:], start=done + 1):
                for statement in statements(file.read_text()):
                    self.run(statement)
                self.run(f"PRAGMA user_version = {number}")

    def _keep_copy(self, version: int) -> None:
        """Keeps the database as it is before its tables change, beside it; an earlier copy goes."""
        kept = self.path.with_name(f"{self.path.name}.before-{version + 1}")
        incoming = kept.with_name(f"{kept.name}.incoming")
        incoming.unlink(missing_ok=True)
        self.copy_to(incoming)
        incoming.chmod(0o600)
        incoming.replace(kept)
        for other in self.path.parent.glob(f"{self.path.name}.before-*"):
            if other != kept:
                other.unlink(missing_ok=True)


def data_of(row: Row) -> dict[str, Any]:
    """A row as {column: value}, in a third of the time that `dict(row)` takes to find each column by its name."""
    return dict(zip(row.keys(), row, strict=True))


def statements(script: str) -> Iterator[str]:
    """The single statements of an SQL file."""
    buffer = ""
    for line in script.splitlines():
        if re.match(r"\s*(--|$)", line):
            continue
        buffer += line + "\n"
        if sqlite3.complete_statement(buffer):
            yield buffer.strip()
            buffer = ""


def maybe(make: Callable[[Row], Made], row: Row | None) -> Made | None:
    """What a row becomes; None for no row."""
    return make(row) if row is not None else None

import sqlite3
import tempfile
import threading
import unittest
from pathlib import Path
from unittest import mock

from mobbet.core.errors import Broken
from mobbet.store import database
from mobbet.store.database import Database, statements


class DatabaseTests(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "a.db"
        self.db = Database(self.path)
        self.addCleanup(self.db.close)

    def count(self) -> int:
        return self.db.value("SELECT COUNT(*) FROM person")

    def add(self, email: str) -> None:
        self.db.run("INSERT INTO person (email, name, made_at) VALUES (?, 'x', 0)", email)

    def test_a_transaction_keeps_all_or_nothing(self) -> None:
        with self.assertRaises(ZeroDivisionError), self.db.transaction():
            self.add("a")
            raise ZeroDivisionError
        self.assertEqual(self.count(), 0)
        with self.db.transaction(), self.db.transaction():
            self.add("a")
        self.assertEqual(self.count(), 1)

    def test_a_commit_that_fails_leaves_no_transaction_open(self) -> None:
        with self.assertRaises(sqlite3.IntegrityError), self.db.transaction():
            self.db.defer_foreign_keys()
            self.db.run("INSERT INTO blog (slug, name, zone, home, made_at) SELECT 'x', 'x', 'UTC', '', 0")
            self.db.run("INSERT INTO membership (blog_id, person_id, role) VALUES (999, 999, 'owner')")
        self.assertFalse(self.db.connection.in_transaction)
        with self.db.transaction():
            self.add("later")
        self.assertEqual(self.count(), 1)

    def test_a_rollback_that_fails_hides_nothing_and_leaves_nothing_open(self) -> None:
        class Full(sqlite3.Connection):
            def execute(self, sql: str, *values: object) -> sqlite3.Cursor:
                if sql == "ROLLBACK":
                    raise sqlite3.OperationalError("disk I/O error")
                return super().execute(sql, *values)

        with (
            mock.patch.object(database.sqlite3, "Connection", Full),
            mock.patch.object(
                database.sqlite3, "connect", lambda path, **options: sqlite3.Connection(path, **options)
            ),
        ):
            self.db.close()
            with self.assertRaisesRegex(sqlite3.OperationalError, "full"), self.db.transaction():
                self.add("lost")
                raise sqlite3.OperationalError("database or disk is full")
        self.assertEqual(self.count(), 0)
        with self.db.transaction():
            self.add("kept")
        self.assertEqual(self.count(), 1)

    def test_letters_fold_in_any_script(self) -> None:
        self.assertEqual(
            self.db.value("SELECT FOLD('ÉTÉ') = FOLD('été') AND FOLD('ЛАМПА') = FOLD('лампа')"), 1
        )

    def test_a_reader_sees_one_state_throughout(self) -> None:
        def write() -> None:
            with self.db.transaction():
                self.add("b")
            self.db.close()

        with self.db.reading():
            before = self.count()
            thread = threading.Thread(target=write)
            thread.start()
            thread.join()
            self.assertEqual(self.count(), before)
        self.assertEqual(self.count(), before + 1)

    def test_commits_are_durable_and_references_are_kept(self) -> None:
        self.assertEqual(self.db.value("PRAGMA synchronous"), 2)
        self.assertEqual(self.db.value("PRAGMA journal_mode"), "wal")
        with self.assertRaises(sqlite3.IntegrityError), self.db.transaction():
            self.db.run("INSERT INTO membership (blog_id, person_id, role) VALUES (1, 1, 'owner')")

    def test_a_failing_migration_leaves_the_file_as_it_was(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "0001_a.sql").write_text("CREATE TABLE a (x);\nCREATE TABLE a (x);\n")
            path = Path(folder) / "b.db"
            with (
                mock.patch.object(database, "MIGRATIONS", Path(folder)),
                self.assertRaises(sqlite3.OperationalError),
            ):
                Database(path)
            raw = sqlite3.connect(path)
            self.assertEqual(raw.execute("SELECT COUNT(*) FROM sqlite_master").fetchone()[0], 0)
            raw.close()

    def test_a_file_of_a_newer_version_is_not_touched(self) -> None:
        self.db.run("PRAGMA user_version = 999")
        with self.assertRaisesRegex(Broken, "made by a newer Mobbet"):
            Database(self.path)

    def test_a_file_that_is_no_database_is_told_so(self) -> None:
        other = self.path.with_name("other.db")
        other.write_bytes(b"not a database, but long enough to be one" * 40)
        with self.assertRaisesRegex(Broken, "cannot be opened"):
            Database(other)

    def test_a_script_is_taken_apart_into_statements(self) -> None:
        self.assertEqual(
            list(statements("-- note\nCREATE TABLE a (\n  x\n);\n\nSELECT ';';\n")),
            ["CREATE TABLE a (\n  x\n);", "SELECT ';';"],
        )

    def test_the_version_changes_with_the_commits_of_others(self) -> None:
        before = self.db.version()
        other = Database(self.path)
        with other.transaction():
            other.run("INSERT INTO person (email, name, made_at) VALUES ('z', 'x', 0)")
        other.close()
        self.assertNotEqual(self.db.version(), before)

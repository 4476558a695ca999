from __future__ import annotations

import sqlite3
from contextlib import closing

from mobbet.core.exporting.tables import (
    BLOG,
    BLOG_LEFT,
    LEFT,
    OF_POSTS,
    PERSON,
    POST,
    POST_LEFT,
    REVISION,
    REVISION_LEFT,
    TABLES,
)
from tests.shops import ShopCase

OF_INDEXES = ("_data", "_idx", "_content", "_docsize", "_config")
SECRETS = {
    "id", "password_hash", "code_secret", "code_step", "has_short_password", "own_keys", "theme", "date_language", "made_at", "seen_at", "suspended_at",
}  # fmt: skip
"""Columns of an account that are of the installation, or secret."""


class DecidedTests(ShopCase):
    """An export has every table and column, or says why not: a migration that adds one has to decide."""

    def columns(self, name: str) -> set[str]:
        return {row["name"] for row in self.shop.db.all(f"PRAGMA table_info({name})")}

    def test_every_table_is_exported_or_left_out_for_a_reason(self) -> None:
        with closing(sqlite3.connect(self.shop.db.path)) as connection:
            names = {
                row[0]
                for row in connection.execute(
                    "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
                )
            }
        names = {name for name in names if not name.endswith(OF_INDEXES)}
        known = {table.name for table in TABLES} | set(LEFT) | set(OF_POSTS) | {"blog", "person"}
        self.assertEqual(names, known)
        self.assertFalse({table.name for table in TABLES} & set(LEFT))

    def test_every_column_is_exported_or_left_out(self) -> None:
        for table in TABLES:
            with self.subTest(table=table.name):
                self.assertEqual(self.columns(table.name), table.columns)
        for name, fields, left in (
            ("blog", BLOG, {*BLOG_LEFT, "id"}),
            ("post", POST, {*POST_LEFT, "id"}),
            ("revision", REVISION, set(REVISION_LEFT)),
            ("person", PERSON, SECRETS),
        ):
            with self.subTest(table=name):
                self.assertEqual(self.columns(name), {one.column for one in fields} | left)

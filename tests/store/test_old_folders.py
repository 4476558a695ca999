"""Data folders of every earlier schema open, and their sites are published again with the same texts."""

import re
import shutil
import sqlite3
import tempfile
import unittest
import zipfile
from pathlib import Path

from mobbet.actions import addresses, building, consistency, people
from mobbet.core.values import existing
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import blogs, editions, filing, posts
from mobbet.store import database as store
from mobbet.wiring import open_existing

FOLDERS = sorted((Path(__file__).parent.parent / "fixtures" / "folders").glob("schema-*.zip"))
MIGRATIONS = sorted((Path(store.__file__).parent / "migrations").glob("*.sql"))
NEVER_ALONE = {
    59,
    58,
    57,
    56,
    55,
    54,
    53,
    52,
    51,
    5,
    6,
    15,
    17,
    18,
    20,
    22,
    23,
    24,
    25,
    26,
    27,
    28,
    29,
    30,
    31,
    32,
    33,
    34,
    35,
    36,
    37,
    38,
    39,
    40,
    41,
    42,
    43,
    44,
    45,
    46,
    47,
    48,
    49,
    50,
}
"""Schemas that came with the next one in the same version."""
NOW = 1_796_000_000


class OldFolderTests(unittest.TestCase):
    def test_there_is_a_folder_of_each_earlier_schema(self) -> None:
        there = {int(re.sub(r"\D", "", path.stem)) for path in FOLDERS}
        self.assertEqual(there, set(range(1, len(MIGRATIONS))) - NEVER_ALONE)

    def test_each_opens_and_its_site_is_published_again(self) -> None:
        for archive in FOLDERS:
            with self.subTest(archive.name), tempfile.TemporaryDirectory() as folder:
                with zipfile.ZipFile(archive) as packed:
                    packed.extractall(folder)
                shop = open_existing(Path(folder), SetClock(NOW))
                self.addCleanup(shop.db.close)
                self.assertEqual(shop.db.value("PRAGMA user_version"), len(MIGRATIONS))
                blog = existing(blogs.by_slug(shop.db, "bench"))
                published = building.publish(shop, blog)
                self.assertGreater(published.pages, 14)
                self.assertEqual(building.publish(shop, blog, full=True).written, 0)
                page = existing(editions.page_at(shop.db, blog.id, "/wiring/a-lamp/"))
                self.assertIn(b"Some <em>words</em> and a heading.", existing(shop.pages.read(page.hash)))
                draft = existing(posts.by_id(shop.db, 2))
                self.assertEqual((draft.title, posts.working(shop.db, 2).title), ("A draft", "A draft"))
                person = existing(shop.db.value("SELECT email FROM person"))
                self.assertTrue(
                    people.sign_in(
                        shop, email=person, password="port-alder-bench-copper", address="127.0.0.1"
                    )
                )
                self.assertEqual([one for one in consistency.problems(shop) if "is missing" not in one], [])
                shutil.rmtree(folder, ignore_errors=True)

    def test_the_database_is_kept_as_it_was_before(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            with zipfile.ZipFile(FOLDERS[-1].with_name("schema-21.zip")) as packed:
                packed.extractall(folder)
            open_existing(Path(folder), SetClock(NOW)).db.close()
            kept = sqlite3.connect(Path(folder) / "mobbet.db.before-22")
            self.assertEqual(kept.execute("PRAGMA user_version").fetchone(), (21,))
            self.assertEqual(kept.execute("PRAGMA integrity_check").fetchone(), ("ok",))
            kept.close()
            open_existing(Path(folder), SetClock(NOW)).db.close()
            self.assertEqual(len(list(Path(folder).glob("mobbet.db.before-*"))), 1)

    def test_names_with_letters_in_pieces_are_composed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            with zipfile.ZipFile(FOLDERS[-1].with_name("schema-16.zip")) as packed:
                packed.extractall(folder)
            file = sqlite3.connect(Path(folder) / "mobbet.db")
            file.execute("INSERT INTO tag (blog_id, name, slug) VALUES (1, 'cafe\u0301', 'cafe')")
            file.commit()
            file.close()
            shop = open_existing(Path(folder), SetClock(NOW))
            self.addCleanup(shop.db.close)
            self.assertTrue(filing.find_tag(shop.db, 1, "caf\u00e9"))

    def test_numbered_pages_of_lists_redirect_to_where_their_oldest_posts_stand(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            with zipfile.ZipFile(FOLDERS[-1].with_name("schema-14.zip")) as packed:
                packed.extractall(folder)
            shop = open_existing(Path(folder), SetClock(NOW))
            self.addCleanup(shop.db.close)
            blog = existing(blogs.by_slug(shop.db, "bench"))
            known = [
                (row.path, row.key, existing(shop.pages.read(row.hash)))
                for row in editions.pages(shop.db, blog.id)
                if "/page/" in row.path
            ]
            building.publish(shop, blog)
            self.assertEqual(len(known), 6)
            for path, key, body in known:
                answer = addresses.resolve(shop, blog, path)
                first = re.findall(rb'id="(post-\d+)"', body)[-1]
                page = existing(editions.page_at(shop.db, blog.id, answer.path))
                self.assertEqual((answer.kind, "from-" in answer.path), ("leads-on", True), (path, answer))
                self.assertIn(first, existing(shop.pages.read(page.hash)), key)

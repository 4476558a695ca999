import hashlib
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from mobbet.core.errors import Broken
from mobbet.store.shelf import Shelf


class ShelfTests(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.shelf = Shelf(Path(folder.name) / "pages")

    def test_a_file_lies_under_the_hash_of_its_content(self) -> None:
        digest, new = self.shelf.put(b"body")
        self.assertEqual(digest, hashlib.sha256(b"body").hexdigest())
        self.assertEqual(self.shelf.read(digest), b"body")
        self.assertEqual(len(new), 1)
        self.shelf.sync(new)

    def test_the_same_content_is_laid_down_once(self) -> None:
        self.shelf.put(b"body")
        self.assertEqual(self.shelf.put(b"body")[1], [])

    def test_a_missing_file_reads_as_none(self) -> None:
        self.assertIsNone(self.shelf.read("0" * 64))
        self.assertFalse(self.shelf.has("0" * 64))

    def test_a_full_disk_leaves_no_half_file(self) -> None:
        with mock.patch("os.replace", side_effect=OSError(28, "No space left on device")):
            with self.assertRaisesRegex(Broken, "No space left on device.*free some space"):
                self.shelf.put(b"body")
        self.assertEqual([path for path in self.shelf.folder.rglob("*") if path.is_file()], [])

"""Content-addressed storage: a folder of files named by their hash."""

from __future__ import annotations

import hashlib
import os
import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from mobbet.core.errors import Broken

SYNC_ALL_FROM = 400
"""The number of new files from which one sync of the file system is cheaper than one for each file."""


class Shelf:
    """Content-addressed files. A file appears whole or not at all, and never changes."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)

    def path(self, digest: str) -> Path:
        """Where a file lies."""
        return self.folder / digest[:2] / digest

    def has(self, digest: str) -> bool:
        return self.path(digest).exists()

    def size(self, digest: str) -> int:
        """The bytes of a file. Raises Broken when there is none."""
        try:
            return self.path(digest).stat().st_size
        except FileNotFoundError:
            raise self._missing(digest) from None

    def part(self, digest: str, start: int, length: int) -> bytes:
        """Some bytes of a file, from a byte on. Raises Broken when there is none."""
        try:
            with self.path(digest).open("rb") as opened:
                opened.seek(start)
                return opened.read(length)
        except FileNotFoundError:
            raise self._missing(digest) from None

    def _missing(self, digest: str) -> Broken:
        return Broken(f"The file {self.path(digest)} is missing; mobbet check tells what else is.")

    def read(self, digest: str) -> bytes | None:
        """The bytes of a file; None when there is none."""
        try:
            return self.path(digest).read_bytes()
        except FileNotFoundError:
            return None

    def put(self, body: bytes) -> tuple[str, list[Path]]:
        """Lays a file down; answers its hash and the paths that are new.

        The new paths are safe from a power cut only after `sync`.
        """
        digest = hashlib.sha256(body).hexdigest()
        if os.path.exists(f"{self.folder}/{digest[:2]}/{digest}"):  # a path object takes as long as the hash
            return digest, []
        path = self.path(digest)
        self._write(path, body)
        return digest, [path]

    def take(self, file: Path) -> tuple[str, list[Path]]:
        """Lays a file of this disk down under the hash of its content; the file itself is gone after it."""
        with file.open("rb") as opened:
            digest = hashlib.file_digest(opened, "sha256").hexdigest()
        path = self.path(digest)
        if path.exists():
            file.unlink(missing_ok=True)
            return digest, []
        path.parent.mkdir(parents=True, exist_ok=True)
        os.replace(file, path)
        return digest, [path]

    @contextmanager
    def incoming(self) -> Iterator[Path]:
        """A place on the same disk for a file that is still being written; what is left there is swept away."""
        folder = self.folder / ".incoming"
        folder.mkdir(exist_ok=True)
        handle, name = tempfile.mkstemp(dir=folder)
        os.close(handle)
        try:
            yield Path(name)
        except OSError as error:
            raise Broken(
                f"{folder} cannot be written ({error.strerror}); free some space or check its rights."
            ) from None
        finally:
            Path(name).unlink(missing_ok=True)

    def sweep(self, older_than: float) -> None:
        """Removes what was left in the incoming place by programs that were ended, if changed before that time."""
        for left in (self.folder / ".incoming").glob("*"):
            if left.stat().st_mtime < older_than:
                left.unlink(missing_ok=True)

    def sync(self, paths: list[Path]) -> None:
        """Returns when these files are on the disk itself."""
        if len(paths) >= SYNC_ALL_FROM:
            os.sync()
            return
        from concurrent.futures import ThreadPoolExecutor

        with ThreadPoolExecutor(8) as pool:
            list(pool.map(_fsync, [*paths, *{path.parent for path in paths}]))

    def _write(self, path: Path, content: bytes) -> None:
        temporary = path.with_name(f".{path.name}.{os.getpid()}.{threading.get_ident()}")
        try:
            try:
                temporary.write_bytes(content)
            except FileNotFoundError:
                path.parent.mkdir(parents=True, exist_ok=True)
                temporary.write_bytes(content)
            os.replace(temporary, path)
        except OSError as error:
            temporary.unlink(missing_ok=True)
            raise Broken(
                f"{path.parent} cannot be written ({error.strerror}); free some space or check its rights."
            ) from None


def _fsync(path: Path) -> None:
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)

"""Where an export is read from: a folder or a zip file, within limits, and nothing outside it."""

from __future__ import annotations

import os
import stat
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import IO, Protocol

from mobbet.core.errors import BadInput

MOST_FILES, LONGEST_LINE, LARGEST_TEXT = 2_000_000, 25_000_000, 25_000_000
LARGEST_TABLE, LARGEST_FILE, MOST_GROWTH = 4_000_000_000, 20_000_000_000, 1000
"""In bytes; and how many times larger than in its zip a file may be."""


class Tree(Protocol):
    """The files of an export by their paths."""

    def names(self, folder: str) -> list[str]:
        """The paths of the files in a folder and in those of it, in order."""

    def has(self, path: str) -> bool: ...

    def open(self, path: str) -> IO[bytes]:
        """Raises BadInput for a file that cannot be read."""


def open_tree(path: Path) -> Tree:
    """The folder or the zip file at a path. Raises BadInput."""
    if path.is_dir():
        return _Folder(path)
    if not path.is_file():
        raise BadInput(
            f"{path} is neither a folder nor a file; name the folder or the zip file of an export.", "source"
        )
    try:
        return _Zip(zipfile.ZipFile(path))
    except (zipfile.BadZipFile, OSError, NotImplementedError):
        raise BadInput(f"{path} is no zip file that can be read; export the blog again.", "source") from None


def text(tree: Tree, path: str) -> str:
    """A file as text. Raises BadInput."""
    with tree.open(path) as file:
        data = file.read(LARGEST_TEXT + 1)
    if len(data) > LARGEST_TEXT:
        raise BadInput(
            f"{path} is larger than {LARGEST_TEXT // 1_000_000} MB; an export has no such file.", "source"
        )
    return _decoded(data, path)


def lines(tree: Tree, path: str) -> Iterator[str]:
    """The lines of a file that has any. Raises BadInput."""
    if not tree.has(path):
        return
    with tree.open(path) as file:
        while line := file.readline(LONGEST_LINE + 1):
            if len(line) > LONGEST_LINE:
                raise BadInput(f"{path} has a line longer than {LONGEST_LINE // 1_000_000} MB.", "source")
            yield _decoded(line, path)


def _decoded(data: bytes, path: str) -> str:
    try:
        return data.decode()
    except UnicodeDecodeError:
        raise BadInput(
            f"{path} is not UTF-8; save it as UTF-8, or export the blog again.", "source"
        ) from None


class _Folder:
    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def names(self, folder: str) -> list[str]:
        found: list[str] = []
        for where, folders, files in os.walk(self._folder / folder, followlinks=False):
            folders[:] = [name for name in folders if not name.startswith(".")]
            below = Path(where).relative_to(self._folder)
            found += [(below / name).as_posix() for name in files if not name.startswith(".")]
            if len(found) > MOST_FILES:
                raise BadInput(
                    f"There are more than {MOST_FILES:,} files in {folder}; an export has fewer.", "source"
                )
        return sorted(found)

    def has(self, path: str) -> bool:
        return is_inside(path) and (self._folder / path).is_file()

    def open(self, path: str) -> IO[bytes]:
        try:
            file = self._folder / path
            if not is_inside(path) or not file.resolve().is_relative_to(self._folder.resolve()):
                raise BadInput(
                    f"{path} leads out of the folder; put a copy of the file in its place.", "source"
                )
            if not stat.S_ISREG(file.stat().st_mode):
                raise BadInput(f"{path} is no file; take it out of the folder.", "source")
            return file.open("rb")
        except OSError as error:
            raise BadInput(
                f"{path} cannot be read ({error.strerror}); check that it is there.", "source"
            ) from None
        except ValueError:
            raise BadInput(f"{path!r} is no name of a file.", "source") from None


def is_inside(path: str) -> bool:
    """Whether a path of an export stays within it, as it is written."""
    return bool(path) and not path.startswith("/") and "\\" not in path and ".." not in path.split("/")


class _Zip:
    def __init__(self, file: zipfile.ZipFile) -> None:
        self._file = file
        self._entries = {entry.filename: entry for entry in file.infolist() if not entry.is_dir()}
        if len(self._entries) > MOST_FILES:
            raise BadInput(
                f"There are more than {MOST_FILES:,} files in the zip file; an export has fewer.", "source"
            )
        for name in self._entries:
            if not is_inside(name):
                raise BadInput(
                    f"The zip file has a file outside its folder, “{name[:60]}”; it is no export.", "source"
                )

    def names(self, folder: str) -> list[str]:
        return sorted(name for name in self._entries if name.startswith(f"{folder}/"))

    def has(self, path: str) -> bool:
        return path in self._entries

    @contextmanager
    def _readable(self, path: str) -> Iterator[None]:
        try:
            yield
        except (zipfile.BadZipFile, OSError, RuntimeError, NotImplementedError, EOFError, ValueError):
            raise BadInput(f"{path} of the zip file is damaged; export the blog again.", "source") from None

    def open(self, path: str) -> IO[bytes]:
        entry = self._entries.get(path)
        if entry is None:
            raise BadInput(f"The zip file has no {path}; export the blog again.", "source")
        if entry.file_size > LARGEST_FILE or entry.file_size > MOST_GROWTH * max(entry.compress_size, 1024):
            raise BadInput(
                f"{path} is {entry.file_size:,} bytes packed in {entry.compress_size:,}; it is no file of an export.",
                "source",
            )
        with self._readable(path):
            return self._file.open(entry)


def read_through(file: IO[bytes], path: str, size: int) -> bytes:
    """The next bytes of a file. Raises BadInput where a zip file is damaged."""
    with suppress(zipfile.BadZipFile, EOFError):
        return file.read(size)
    raise BadInput(f"{path} of the zip file is damaged; export the blog again.", "source")

"""Where an export is written: a folder, which is brought up to date, or a zip file."""

from __future__ import annotations

import os
import zipfile
from collections.abc import Iterable
from pathlib import Path
from typing import IO, Protocol

from mobbet.core.errors import BadInput, Broken

MARK, SUMMARY = "unfinished", "blog.json"
"""A file that stands in a folder while an export is being written, and the file that is written last."""
_DATE = (1980, 1, 1, 0, 0, 0)
"""The date of every file of a zip, so that the same facts give the same bytes."""
_PACKED = (".jsonl", ".json", ".md", ".svg", ".txt", ".vtt", ".csv")


class Sink(Protocol):
    """Takes the files of an export, each once; `finish` ends it."""

    def write(self, path: str, parts: Iterable[bytes]) -> None: ...

    def finish(self) -> None: ...


class FolderSink:
    """A folder. Files that are the same stay untouched, and those that the blog has no more are removed; nothing else in the folder is."""

    def __init__(self, folder: Path) -> None:
        self._folder, self._written = folder, set[str]()
        try:
            folder.mkdir(parents=True, exist_ok=True)
            there = {one.name for one in folder.iterdir()}
            if there - {".git", ".gitignore", ".gitattributes"} and not there & {MARK, SUMMARY}:
                raise BadInput(
                    f"{folder} holds other files; name a new folder, or one of an earlier export.", "out"
                )
            (folder / MARK).touch()
            (folder / SUMMARY).unlink(missing_ok=True)
        except OSError as error:
            raise Broken(f"{folder} cannot be written ({error.strerror}); check its rights.") from None

    def write(self, path: str, parts: Iterable[bytes]) -> None:
        file = self._folder / path
        incoming = self._folder / f"{MARK}.part"
        self._written.add(path)
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
            with incoming.open("wb") as out:
                for part in parts:
                    out.write(part)
            if file.is_file() and not file.is_symlink() and _same(file, incoming):
                return
            os.replace(incoming, file)
        except OSError as error:
            raise Broken(
                f"{file} cannot be written ({error.strerror}); free some space and export again."
            ) from None

    def finish(self) -> None:
        (self._folder / f"{MARK}.part").unlink(missing_ok=True)
        ours = [
            *self._folder.glob("*.jsonl"),
            *self._folder.glob("posts/**/*.md"),
            *self._folder.glob("media/*"),
        ]
        for file in ours:
            if file.relative_to(self._folder).as_posix() not in self._written and file.is_file():
                file.unlink()
        for folder in self._folder.glob("posts/*/"):
            if not folder.is_symlink() and not any(folder.iterdir()):
                folder.rmdir()
        (self._folder / MARK).unlink(missing_ok=True)


def _same(one: Path, other: Path) -> bool:
    if one.stat().st_size != other.stat().st_size:
        return False
    with one.open("rb") as left, other.open("rb") as right:
        while True:
            part = left.read(1 << 16)
            if part != right.read(1 << 16):
                return False
            if not part:
                return True


class ZipSink:
    """A zip file, written to a stream as it grows."""

    def __init__(self, stream: IO[bytes]) -> None:
        self._zip = zipfile.ZipFile(stream, "w")

    def write(self, path: str, parts: Iterable[bytes]) -> None:
        entry = zipfile.ZipInfo(path, _DATE)
        entry.compress_type = zipfile.ZIP_DEFLATED if path.endswith(_PACKED) else zipfile.ZIP_STORED
        entry.external_attr = 0o644 << 16
        with self._zip.open(entry, "w", force_zip64=True) as out:
            for part in parts:
                out.write(part)

    def finish(self) -> None:
        self._zip.close()

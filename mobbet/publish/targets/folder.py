"""The public site as files in a folder that any static host can serve."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from mobbet.core.errors import Broken, Refused
from mobbet.publish.targets.host import File

LIST = ".mobbet-site.json"
"""In the folder: the files that are ours, so that only those are ever removed."""


ON_ITS_WAY = ".sending-"
"""How a file's name begins while it is on its way."""


@dataclass(frozen=True)
class Sent:
    """How many files were written, removed, and are there now."""

    written: int
    removed: int
    pages: int


def file_of(path: str) -> str:
    """The file in which a static host looks for a path: `/lamps/` is `lamps/index.html`."""
    return path[1:] + "index.html" if path.endswith("/") else path[1:]


@contextmanager
def _writing(folder: Path, remedy: str = "free some space or check its rights") -> Iterator[None]:
    """Raises Broken where the folder cannot be written."""
    try:
        yield
    except OSError as error:
        raise Broken(f"{folder} cannot be written ({error.strerror}); {remedy}.") from None


def begin(folder: Path, listing_name: str = LIST) -> set[str]:
    """The files in it that are ours. Raises Refused for a folder that holds files of somebody else."""
    if not folder.exists():
        return set()
    if not folder.is_dir():
        raise Refused(f"{folder} is a file; name a folder.")
    listing = folder / listing_name
    if listing.exists():
        return {
            name
            for name in json.loads(listing.read_text())
            if isinstance(name, str) and (folder / name).resolve().is_relative_to(folder.resolve())
        }
    if any(folder.iterdir()):
        raise Refused(f"{folder} holds files that Mobbet did not write; name an empty or a new folder.")
    return set()


def write(folder: Path, pages: Iterable[tuple[str, bytes]]) -> tuple[set[str], int]:
    """Writes what differs, each file at once and whole; the names of all of them, and how many had to be written."""
    names, written = set(), 0
    with _writing(folder):
        for path, body in pages:
            name = file_of(path)
            names.add(name)
            written += _write(folder / name, body)
    return names, written


def finish(folder: Path, ours: set[str], names: set[str]) -> int:
    """Removes files of ours that are no more, and notes which ones are; answers how many went."""
    gone = sorted(ours - names)
    with _writing(folder):
        _remove(folder, gone)
        _note(folder, names)
    return len(gone)


def _note(folder: Path, names: Iterable[str], listing: str = LIST) -> None:
    _write(folder / listing, json.dumps(sorted(names), indent=0).encode())


def _remove(folder: Path, names: Iterable[str]) -> None:
    for name in names:
        (folder / name).unlink(missing_ok=True)
        _remove_empty(folder, (folder / name).parent)


def _write(file: Path, body: bytes) -> int:
    """1 when the file had to be written, 0 when it was there already."""
    if file.is_file() and file.stat().st_size == len(body) and file.read_bytes() == body:
        return 0
    file.parent.mkdir(parents=True, exist_ok=True)
    temporary = file.with_name(f"{ON_ITS_WAY}{file.name}.{os.getpid()}")
    temporary.write_bytes(body)
    os.replace(temporary, file)
    return 1


class Folder:
    """A folder on this machine as a place to send to. `listing` is the file that says which files there are ours."""

    def __init__(self, path: str, listing: str = LIST, is_private: bool = False) -> None:
        """Raises Refused for a folder that holds files of somebody else. An empty one is marked as ours at once; a private one that is made
        is for nobody else on the machine."""
        self._folder, self._listing = Path(path), listing
        if is_private:
            with _writing(self._folder):
                self._folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        if not begin(self._folder, listing):
            self.finish(())
        for left in self._folder.rglob(f"{ON_ITS_WAY}*"):  # of a sending that ended before its time
            left.unlink(missing_ok=True)

    def put(self, files: Iterable[File], done: Callable[[File], None]) -> None:
        with _writing(self._folder):
            for file in files:
                _write(self._folder / file.name, file.read())
                done(file)

    def remove(self, names: Iterable[str]) -> None:
        with _writing(self._folder, "check its rights"):
            _remove(self._folder, names)

    def fingerprints(self) -> dict[str, str]:
        return {
            str(file.relative_to(self._folder)): self.fingerprint(file.read_bytes())
            for file in self._folder.rglob("*")
            if file.is_file() and not file.name.startswith(".")
        }

    def fingerprint(self, body: bytes) -> str:
        return hashlib.sha256(body).hexdigest()

    def finish(self, names: Iterable[str]) -> None:
        with _writing(self._folder):
            _note(self._folder, names, self._listing)

    def names(self, below: str) -> set[str]:
        return {
            str(file.relative_to(self._folder))
            for file in (self._folder / below).rglob("*")
            if file.is_file() and not file.name.startswith(".")
        }

    def read(self, name: str) -> bytes | None:
        try:
            return (self._folder / name).read_bytes()
        except (FileNotFoundError, NotADirectoryError):
            return None
        except OSError as error:
            raise Broken(f"{self._folder / name} cannot be read ({error.strerror}).") from None

    def settle(self) -> None:
        os.sync()

    def close(self) -> None:
        pass


def _remove_empty(folder: Path, parent: Path) -> None:
    while parent != folder and parent.is_dir() and not any(parent.iterdir()):
        parent.rmdir()
        parent = parent.parent
